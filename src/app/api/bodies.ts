import { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import busboy from 'busboy';
import { Refusal } from '../../core/refusal';
import { freeBytes, LEAST_ROOM_BYTES } from '../../store/base/refusals';

const MB = 2 ** 20;
/** Of a request as JSON. What is larger comes as a file. */
export const MOST_JSON_BYTES = 16 * MB;
/** Of a file that is put into the data folder. */
const MOST_FILE_BYTES = 16 * 1024 * MB;
/** How often it is looked at while a file comes in. */
const LOOK_BYTES = 16 * MB;

/**
 * What was sent, to its end. No more than is allowed is ever held: one byte beyond ends the reading.
 *
 * @param what it is, as a sentence begins: "A list of sales".
 * @throws Refusal `too-large`
 */
export async function bytesOf(
  request: Request,
  most: number,
  what: string,
  advice = 'Send it in parts.',
): Promise<Buffer> {
  const tooLarge = () => new Refusal('too-large', `${what} may have ${Math.floor(most / MB)} MB.`, { advice });
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLarge();
  const chunks: Uint8Array[] = [];
  let size = 0;
  // leaving the loop ends the stream, and with it whoever sends without an end
  for await (const chunk of chunksOf(request)) {
    size += chunk.length;
    if (size > most) throw tooLarge();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks, size);
}

/** The same as text. @throws Refusal `makes-no-sense` where it is no UTF-8. */
export async function textOf(request: Request, most: number, what: string, advice?: string): Promise<string> {
  return decoded(await bytesOf(request, most, what, advice), what);
}

/** Bytes as text. @throws Refusal `makes-no-sense` where they are no UTF-8. */
export function decoded(bytes: Uint8Array, what: string): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new Refusal('makes-no-sense', `${what} is read as UTF-8, which this is not.`);
  }
}

/** What was sent as JSON. @throws Refusal `too-large`, SyntaxError */
export async function jsonOf(request: Request): Promise<unknown> {
  return JSON.parse(await textOf(request, MOST_JSON_BYTES, 'A request as JSON', 'Send lists as a file.'));
}

/** What is unpacked of a gzipped file, as a multiple of what may be sent. */
const MOST_TIMES_UNPACKED = 4;
/** A line is read up to here; what is behind belongs to none that is understood. */
const MOST_LINE = 20_000;

/**
 * Lines of a text, plain or gzipped, one at a time as they come: no more than a few are held.
 *
 * @throws Refusal `too-large`, `makes-no-sense` where it cannot be unpacked.
 */
export async function* linesOf(request: Request, most: number, what: string, advice: string): AsyncGenerator<string> {
  const told = (bytes: number) =>
    new Refusal('too-large', `${what} may have ${Math.floor(bytes / MB)} MB.`, { advice });
  if (Number(request.headers.get('content-length') ?? 0) > most) throw told(most);
  const body = pipelined(
    streamOf(request),
    atMost(most, () => told(most)),
  );
  const [head, rest] = await withHead(body);
  const isPacked = head[0] === 0x1f && head[1] === 0x8b;
  const unpacked = MOST_TIMES_UNPACKED * most;
  const plain = isPacked
    ? pipelined(
        rest,
        createGunzip(),
        atMost(unpacked, () => told(unpacked)),
      )
    : rest;
  let line = '';
  const decoder = new TextDecoder();
  try {
    for await (const chunk of plain) {
      const pieces = decoder.decode(chunk as Buffer, { stream: true }).split('\n');
      pieces[0] = line + pieces[0];
      line = (pieces.pop() ?? '').slice(0, MOST_LINE);
      for (const piece of pieces) yield piece.replace(/\r$/, '');
    }
  } catch (error) {
    if ((error as { code?: string }).code?.startsWith('Z_'))
      throw new Refusal('makes-no-sense', 'It cannot be unpacked whole.', { cause: error });
    throw error;
  }
  if (line !== '') yield line.replace(/\r$/, '');
}

/** The first chunk, and a stream of all. */
async function withHead(stream: Readable): Promise<[head: Uint8Array, all: Readable]> {
  const chunks = stream[Symbol.asyncIterator]();
  const first = await chunks.next();
  const all = async function* () {
    if (!first.done) yield first.value;
    for (let next = await chunks.next(); !next.done; next = await chunks.next()) yield next.value;
  };
  return [first.done ? new Uint8Array() : first.value, Readable.from(all())];
}

/** Streams one after the other; what goes wrong in one ends all. */
function pipelined(source: Readable, ...through: Transform[]): Readable {
  const last = through[through.length - 1];
  pipeline([source, ...through]).catch((error: Error) => last.destroy(error));
  return last;
}

/** Lets so many bytes through. */
function atMost(most: number, tooMany: () => Error): Transform {
  let size = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      if (size > most) done(tooMany());
      else done(null, chunk);
    },
  });
}

/** A form that a page sent. @throws Refusal `too-large` */
export async function formOf(request: Request): Promise<FormData> {
  const type = request.headers.get('content-type') ?? '';
  const bytes = await bytesOf(request, MOST_JSON_BYTES, 'A form');
  try {
    return await new Response(new Uint8Array(bytes), { headers: { 'content-type': type } }).formData();
  } catch {
    throw new Refusal('makes-no-sense', 'The request is no form.');
  }
}

/** The file of a multipart form, or the body itself, as it comes; null: there is none. */
export async function fileOf(request: Request): Promise<Readable | null> {
  if (!request.body) return null;
  const type = request.headers.get('content-type') ?? '';
  const body = streamOf(request);
  if (!type.startsWith('multipart/form-data')) return body;
  const form = multipart(type);
  const file = new Promise<Readable | null>((resolve, reject) => {
    form.once('file', (_field, stream) => resolve(stream));
    form.once('close', () => resolve(null));
    form.once('error', () => reject(new Refusal('makes-no-sense', 'The form is damaged or cut short.')));
  });
  // what goes wrong while the file is read is told by its own stream
  pipeline(body, form).catch(() => undefined);
  return file;
}

function multipart(type: string): busboy.Busboy {
  try {
    return busboy({
      headers: { 'content-type': type },
      limits: { files: 1, fields: 20, fieldSize: MB, parts: 40, headerPairs: 100 },
    });
  } catch {
    throw new Refusal('makes-no-sense', 'The form says nothing of where its parts end.');
  }
}

/**
 * Lets a file through into a folder for as long as it is not too large and the disk has room.
 *
 * @throws Refusal `too-large`, `full`, as errors of the stream.
 */
export function within(folder: string, most = MOST_FILE_BYTES, floor = LEAST_ROOM_BYTES): Transform {
  let size = 0;
  let lookAt = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      if (size > most) {
        const told = `A file may have ${Math.floor(most / MB).toLocaleString('en')} MB.`;
        done(new Refusal('too-large', told, { advice: 'Send it in parts, or gzipped.' }));
        return;
      }
      if (size >= lookAt) {
        lookAt = size + LOOK_BYTES;
        if ((freeBytes(folder) ?? floor) < floor) {
          done(new Refusal('full', 'The disk has no room for the file.', { advice: 'Make room, then send it again.' }));
          return;
        }
      }
      done(null, chunk);
    },
  });
}

const streamOf = (request: Request): Readable => Readable.from(chunksOf(request));

/** What is read of a body that is refused, so that who sends it hears why: bytes, and ms. */
const DRAINED_BYTES = 32 * MB;
const DRAINED_MS = 1000;

/**
 * A body as it comes. Who leaves it before its end has the rest read for a moment and thrown away: a connection of which a part is unread would
 * keep what is asked by it next waiting.
 */
async function* chunksOf({ body }: Request): AsyncGenerator<Uint8Array> {
  if (!body) return;
  const reader = body.getReader();
  let isEnded = false;
  try {
    for (let read = await reader.read(); ; read = await reader.read()) {
      isEnded = read.done;
      if (read.done) return;
      yield read.value;
    }
  } finally {
    if (!isEnded) await drain(reader);
  }
}

async function drain(reader: ReadableStreamDefaultReader<Uint8Array>): Promise<void> {
  const until = performance.now() + DRAINED_MS;
  try {
    for (let size = 0; size < DRAINED_BYTES && performance.now() < until; ) {
      const { done, value } = await reader.read();
      if (done) return;
      size += value.length;
    }
    await reader.cancel();
  } catch {
    // whoever sent it is gone
  }
}
