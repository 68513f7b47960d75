import { once } from 'node:events';
import { createReadStream, createWriteStream, existsSync, type ReadStream, type WriteStream } from 'node:fs';
import { open, rename } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { constants, createGunzip, gunzipSync } from 'node:zlib';
import { JobError } from '../runner/context';
import { refuseBombs } from './zip-limits';

/** A workbook's first sheet as CSV beside it, gzipped too; any other file as it is. @throws JobError on what is neither. */
export async function asTextFile(given: string): Promise<string> {
  const converted = `${given}.csv`;
  if (existsSync(converted)) return converted;
  const path = await unpackedWorkbook(given);
  if (path === null) return given;
  await refuseBombs(path);
  const out = createWriteStream(`${converted}.part`);
  // a full disk is told of below, not by ending the process
  out.on('error', () => undefined);
  const source = createReadStream(path);
  try {
    await unlessStalled(source, (moved) => writeFirstSheet(source, out, moved));
  } catch (error) {
    throw new JobError(`This is a ZIP archive, and no workbook that can be read (${(error as Error).message}).`);
  } finally {
    source.destroy();
    out.end();
    if (!out.closed) await once(out, 'close');
  }
  if (out.errored) throw new JobError(`The workbook cannot be unpacked: ${out.errored.message}`);
  await rename(`${converted}.part`, converted);
  return converted;
}

/** @param moved called for every row. */
async function writeFirstSheet(source: ReadStream, out: WriteStream, moved: () => void): Promise<void> {
  // a large package that few files need
  const { default: ExcelJS } = await import('exceljs');
  const reader = new ExcelJS.stream.xlsx.WorkbookReader(source, {
    worksheets: 'emit',
    sharedStrings: 'cache',
    hyperlinks: 'ignore',
    styles: 'ignore',
  });
  for await (const sheet of reader) {
    for await (const row of sheet) {
      moved();
      const values = Array.isArray(row.values) ? row.values.slice(1) : [];
      const line = values
        .map((value) => cellText(value).replace(/[\r\n]+/g, ' '))
        .map((text) => (/[",]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text));
      if (!out.write(`${line.join(',')}\n`)) await once(out, 'drain');
    }
    return; // the first sheet
  }
  throw new Error('it holds no sheet');
}

/** The reader of workbooks waits for ever for the end of a part that is damaged; nothing else makes it stand still for so long. */
export const workbookLimits = { stallMs: 10_000 };

/** Gives up when no byte of the file is read and no row comes out for a while. */
async function unlessStalled(source: ReadStream, act: (moved: () => void) => Promise<void>): Promise<void> {
  const { stallMs } = workbookLimits;
  let rows = 0;
  let seen = -1;
  let timer: NodeJS.Timeout | undefined;
  const stalled = new Promise<never>((_, reject) => {
    timer = setInterval(() => {
      const now = source.bytesRead + rows;
      if (now === seen) reject(new Error('it is damaged: nothing more comes out of it'));
      seen = now;
    }, stallMs);
  });
  try {
    await Promise.race([act(() => rows++), stalled]);
  } finally {
    clearInterval(timer);
  }
}

const HEAD_BYTES = 4096;

/** The workbook as a plain file; null: it is none. */
async function unpackedWorkbook(path: string): Promise<string | null> {
  const handle = await open(path);
  const { buffer, bytesRead } = await handle.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
  await handle.close();
  const head = buffer.subarray(0, bytesRead);
  if (isZip(head)) return path;
  if (head[0] !== 0x1f || head[1] !== 0x8b || !isZip(startUnpacked(head))) return null;
  const plain = `${path}.xlsx`;
  try {
    await pipeline(createReadStream(path), createGunzip(), createWriteStream(plain));
  } catch (error) {
    throw new JobError(`The gzip file is damaged or cut short (${(error as Error).message}).`);
  }
  return plain;
}

function isZip(bytes: Buffer): boolean {
  return bytes.subarray(0, 4).toString('latin1') === 'PK\u0003\u0004';
}

/** What the start of a gzip file unpacks to; nothing when it is damaged, which is told of when it is read. */
function startUnpacked(head: Buffer): Buffer {
  try {
    return gunzipSync(head, { finishFlush: constants.Z_SYNC_FLUSH });
  } catch {
    return Buffer.alloc(0);
  }
}

function cellText(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString();
  if (typeof value !== 'object') return String(value);
  const cell = value as { text?: unknown; result?: unknown; richText?: { text: string }[] };
  if (cell.richText) return cell.richText.map(({ text }) => text).join('');
  return cellText(cell.text ?? cell.result ?? '');
}
