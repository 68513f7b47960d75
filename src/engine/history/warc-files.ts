import { type FileHandle, open, readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { createInflateRaw } from 'node:zlib';
import { readWarcHead, type WarcHead } from '../../core/history/warc';

/** One record of a file, and where it stands. */
export interface WarcRecord {
  head: WarcHead;
  /** Where the record begins, of a gzipped file its member, and where the next one does. */
  offset: number;
  next: number;
  /** The beginning of its block, or all of it, as was asked. */
  block: Buffer;
}

const HEAD_BYTES = 64 * 1024;
/** More of one record is not held. */
const MOST_BLOCK = 32 * 2 ** 20;
const STEP = 256 * 1024;

/** WARC files at a path: itself, or those below a folder. @throws when nothing is there. */
export async function warcFilesAt(path: string): Promise<string[]> {
  const isWarc = (name: string) => /\.warc(\.gz)?$/i.test(name);
  if ((await stat(path)).isFile()) return [path];
  const entries = await readdir(path, { recursive: true, withFileTypes: true });
  return entries
    .filter((one) => one.isFile() && isWarc(one.name))
    .map((one) => join(one.parentPath, one.name))
    .sort();
}

/**
 * Reads one record.
 *
 * @param most how many bytes of its block are wanted. @returns null at the end of the file. @throws with a message where there is no record.
 */
export async function readWarcRecord(file: FileHandle, offset: number, most = MOST_BLOCK): Promise<WarcRecord | null> {
  const start = await bytesAt(file, offset, 2);
  if (start.length === 0) return null;
  return start[0] === 0x1f && start[1] === 0x8b ? packedRecord(file, offset, most) : plainRecord(file, offset, most);
}

async function plainRecord(file: FileHandle, offset: number, most: number): Promise<WarcRecord | null> {
  const start = await bytesAt(file, offset, HEAD_BYTES);
  // empty lines between records
  const skipped = start.findIndex((byte) => byte !== 10 && byte !== 13);
  if (skipped < 0) return null;
  const found = headOf(start.subarray(skipped));
  if (!found) throw new Error(`no record at byte ${offset}`);
  const begin = offset + skipped + found.bytes;
  const { length } = found.head;
  const block = await bytesAt(file, begin, Math.min(length, most, MOST_BLOCK));
  return { head: found.head, offset, next: begin + length, block };
}

/** A record of a gzipped file is a member of its own (RFC 1952, 2.2). */
async function packedRecord(file: FileHandle, offset: number, most: number): Promise<WarcRecord> {
  const start = await bytesAt(file, offset, HEAD_BYTES);
  const headerBytes = gzipHeader(start);
  const wanted = Math.min(most, MOST_BLOCK) + HEAD_BYTES;
  const { bytes, consumed } = await inflated(file, offset + headerBytes, wanted);
  const found = headOf(bytes);
  if (!found) throw new Error(`no record at byte ${offset}`);
  const block = bytes.subarray(found.bytes, found.bytes + Math.min(found.head.length, most));
  // the check sum and the length of the member
  return { head: found.head, offset, next: offset + headerBytes + consumed + 8, block };
}

/** Unpacks one member: as much as is wanted of what is in it, and how many bytes it has. */
async function inflated(file: FileHandle, from: number, wanted: number): Promise<{ bytes: Buffer; consumed: number }> {
  const inflate = createInflateRaw();
  const parts: Buffer[] = [];
  let size = 0;
  inflate.on('data', (part: Buffer) => {
    if (size < wanted) parts.push(part);
    size += part.length;
  });
  let isOver = false;
  const over = new Promise<void>((done, failed) => {
    inflate.once('end', () => {
      isOver = true;
      done();
    });
    inflate.once('error', failed);
  });
  over.catch(() => undefined);
  for (let at = from; !isOver; at += STEP) {
    const part = await bytesAt(file, at, STEP);
    if (part.length === 0) {
      inflate.end();
      break;
    }
    await Promise.race([over, new Promise<void>((done) => inflate.write(part, () => done()))]);
  }
  await over;
  return { bytes: Buffer.concat(parts), consumed: inflate.bytesWritten };
}

/** How many bytes the header of a gzip member has. */
function gzipHeader(bytes: Buffer): number {
  const flags = bytes[3];
  let at = 10;
  if (flags & 4) at += 2 + bytes.readUInt16LE(at);
  for (const flag of [8, 16])
    if (flags & flag) {
      while (bytes[at] !== 0 && at < bytes.length) at++;
      at++;
    }
  return flags & 2 ? at + 2 : at;
}

function headOf(bytes: Buffer): { head: WarcHead; bytes: number } | null {
  const crlf = bytes.indexOf('\r\n\r\n');
  const lf = bytes.indexOf('\n\n');
  const isCrlf = crlf >= 0 && (lf < 0 || crlf < lf);
  const end = isCrlf ? crlf : lf;
  if (end < 0 || end > HEAD_BYTES) return null;
  const head = readWarcHead(bytes.subarray(0, end).toString('utf8'));
  return head && { head, bytes: end + (isCrlf ? 4 : 2) };
}

async function bytesAt(file: FileHandle, at: number, most: number): Promise<Buffer> {
  const buffer = Buffer.alloc(most);
  const { bytesRead } = await file.read(buffer, 0, most, at);
  return buffer.subarray(0, bytesRead);
}

/** @returns the file, opened to be read. */
export const openWarc = (path: string): Promise<FileHandle> => open(path, 'r');
