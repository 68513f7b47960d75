import { createReadStream, type ReadStream } from 'node:fs';
import { open, stat } from 'node:fs/promises';
import { createGunzip, type ZlibOptions } from 'node:zlib';
import { type Charset, decoderOf, guessCharset } from '../../core/formats/charset';
import { JobError } from '../runner/context';

const SAMPLE_BYTES = 256 * 1024;

export interface FileKind {
  gzip: boolean;
  charset: Charset;
  /** The first bytes, unpacked, as text. */
  sample: string;
}

/** Looks at the start of a file: packed or not, character set. @throws JobError with a message for people. */
export async function lookAtFile(path: string): Promise<FileKind> {
  const handle = await open(path);
  let head: Buffer;
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(8), 0, 8, 0);
    head = buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
  if (head.length === 0) throw new JobError('The file is empty.');
  if (head[0] === 0x50 && head[1] === 0x4b && (head[2] === 3 || head[2] === 5))
    throw new JobError(
      'This is a ZIP archive (or a workbook). Unpack it, and give the text file inside, plain or gzipped.',
    );
  if (head.subarray(0, 5).toString('latin1') === '%PDF-') throw new JobError('This is a PDF document, not a list.');
  const gzip = head[0] === 0x1f && head[1] === 0x8b;
  const chunks: Buffer[] = [];
  let size = 0;
  try {
    for await (const chunk of unpackedStream(createReadStream(path, { highWaterMark: 256 * 1024 }), gzip)) {
      chunks.push(chunk);
      size += chunk.length;
      if (size >= SAMPLE_BYTES) break;
    }
  } catch (error) {
    throw packedWrong(error);
  }
  const bytes = Buffer.concat(chunks, size).subarray(0, SAMPLE_BYTES);
  if (bytes.length === 0) throw new JobError('The file is empty.');
  const charset = guessCharset(bytes, size > SAMPLE_BYTES || bytes.length === SAMPLE_BYTES);
  return {
    gzip,
    charset,
    sample: decoderOf(charset)
      .decode(bytes)
      .replace(/^\ufeff/, ''),
  };
}

/**
 * Text of a file in chunks, unpacked and decoded. What is not valid becomes U+FFFD, which readListRow sets aside.
 *
 * @param onShare told how much of the file was read, 0 to 1, before each chunk.
 */
export async function* textChunks(
  path: string,
  kind: Pick<FileKind, 'gzip' | 'charset'>,
  onShare: (share: number) => void = () => undefined,
): AsyncGenerator<string> {
  const size = Math.max(1, (await stat(path)).size);
  const decoder = decoderOf(kind.charset);
  try {
    const file = createReadStream(path, { highWaterMark: 256 * 1024 });
    for await (const chunk of unpackedStream(file, kind.gzip)) {
      onShare(Math.min(1, file.bytesRead / size));
      yield decoder.decode(chunk, { stream: true });
    }
  } catch (error) {
    throw packedWrong(error);
  }
  yield decoder.decode();
}

/**
 * Bytes of a file in chunks, unpacked.
 *
 * @param onShare told how much of the file was read, 0 to 1, before each chunk.
 * @throws JobError on a damaged gzip file.
 */
export async function* byteChunks(
  path: string,
  onShare: (share: number) => void = () => undefined,
): AsyncGenerator<Buffer> {
  const handle = await open(path);
  const head = await handle.read(Buffer.alloc(2), 0, 2, 0);
  await handle.close();
  const size = Math.max(1, (await stat(path)).size);
  const gzip = head.buffer[0] === 0x1f && head.buffer[1] === 0x8b;
  const file = createReadStream(path, { highWaterMark: 256 * 1024 });
  try {
    for await (const chunk of unpackedStream(file, gzip)) {
      onShare(Math.min(1, file.bytesRead / size));
      yield chunk;
    }
  } catch (error) {
    throw packedWrong(error);
  }
}

/** Bytes of a file in chunks, unpacked, in UTF-8 whatever it is in. What is not valid UTF-8 is left as it is. */
export async function* utf8Chunks(
  path: string,
  kind: Pick<FileKind, 'gzip' | 'charset'>,
  onShare: (share: number) => void,
): AsyncGenerator<Buffer> {
  if (kind.charset === 'utf-8') yield* byteChunks(path, onShare);
  else for await (const chunk of textChunks(path, kind, onShare)) yield Buffer.from(chunk);
}

/** From here on, what is unpacked may not be so many times as much as was packed: rows of lists never are, and a file may be made to be. */
const BOMB_BYTES = 512 * 2 ** 20;
const BOMB_TIMES = 300;

async function* unpackedStream(file: ReadStream, gzip: boolean): AsyncGenerator<Buffer> {
  if (!gzip) {
    yield* file;
    return;
  }
  // unpacked ahead in another thread while what was unpacked is read
  const unpacked = createGunzip({ chunkSize: 256 * 1024, readableHighWaterMark: 1024 * 1024 } as ZlibOptions);
  file.on('error', (error) => unpacked.destroy(error));
  let size = 0;
  for await (const chunk of file.pipe(unpacked) as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > BOMB_BYTES && size > BOMB_TIMES * file.bytesRead)
      throw new JobError(
        `The gzip file unpacks to more than ${BOMB_TIMES} times its size: that is no list. What was read until here is kept.`,
      );
    yield chunk;
  }
}

function packedWrong(error: unknown): Error {
  const code = (error as NodeJS.ErrnoException).code ?? '';
  if (code.startsWith('Z_'))
    return new JobError(`The gzip file is damaged or cut short (${(error as Error).message}).`);
  return error as Error;
}
