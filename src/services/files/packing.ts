import { PassThrough, type Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import { FileProblem } from './file-problem';

/** How a file is packed, by its first bytes. */
export type Packing = 'gzip' | 'zstd' | 'bzip2' | 'zip' | 'parquet' | null;

const SIGNATURES: [packing: Packing, bytes: number[]][] = [
  ['gzip', [0x1f, 0x8b]],
  ['zstd', [0x28, 0xb5, 0x2f, 0xfd]],
  ['bzip2', [0x42, 0x5a, 0x68]],
  ['zip', [0x50, 0x4b, 0x03, 0x04]],
  ['zip', [0x50, 0x4b, 0x05, 0x06]],
  ['parquet', [0x50, 0x41, 0x52, 0x31]],
];

export function packingOf(head: Uint8Array): Packing {
  const found = SIGNATURES.find(([, bytes]) => bytes.every((byte, at) => head[at] === byte));
  // a list may begin with "BZh": bzip2 goes on with a digit and the mark of a block
  if (found?.[0] === 'bzip2' && !(head[3] >= 0x31 && head[3] <= 0x39 && head[4] === 0x31)) return null;
  return found?.[0] ?? null;
}

/** From here on, what is unpacked may not be so many times as much as was packed: rows of lists never are, and a file may be made to be. */
const BOMB_BYTES = 512 * 2 ** 20;
const BOMB_TIMES = 300;

/**
 * Unpacks a stream of bytes.
 *
 * @param readSoFar bytes that were packed, of what has come out. @throws FileProblem on damaged files and on those that never end.
 */
export async function* unpacked(
  source: Readable,
  packing: 'gzip' | 'zstd' | 'bzip2',
  readSoFar: () => number,
): AsyncGenerator<Buffer> {
  let size = 0;
  try {
    for await (const chunk of packing === 'zstd' ? zstd(source) : piped(source, packing)) {
      size += chunk.length;
      if (size > BOMB_BYTES && size > BOMB_TIMES * readSoFar())
        throw new FileProblem(
          `The ${packing} file unpacks to more than ${BOMB_TIMES} times its size: that is no list. What was read until here is kept.`,
        );
      yield chunk;
    }
  } catch (error) {
    if (error instanceof FileProblem || (error as NodeJS.ErrnoException).syscall) throw error;
    throw new FileProblem(`The ${packing} file is damaged or cut short (${(error as Error).message}).`);
  }
}

async function* piped(source: Readable, packing: 'gzip' | 'bzip2'): AsyncGenerator<Buffer> {
  // unpacked ahead in another thread while what was unpacked is read
  const unpacker =
    packing === 'gzip' ? createGunzip({ chunkSize: 256 * 1024 }) : (await import('unbzip2-stream')).default();
  // a stream of the old kind has no way to be walked through
  const out = new PassThrough({ readableHighWaterMark: 2 ** 20 });
  source.on('error', (error) => out.destroy(error));
  unpacker.on('error', (error: Error) => out.destroy(error));
  source.pipe(unpacker).pipe(out);
  yield* out as AsyncIterable<Buffer>;
}

/** What is packed by Zstandard (RFC 8878). */
async function* zstd(source: Readable): AsyncGenerator<Buffer> {
  const { Decompress } = await import('fzstd');
  let out: Buffer[] = [];
  let isEnded = false;
  const unpacker = new Decompress((chunk, isFinal) => {
    // its memory is used again
    if (chunk.length > 0) out.push(Buffer.from(chunk));
    isEnded = isFinal ?? false;
  });
  for await (const chunk of source) {
    unpacker.push(chunk as Uint8Array);
    yield* out;
    out = [];
  }
  if (!isEnded) unpacker.push(new Uint8Array(0), true);
  yield* out;
}
