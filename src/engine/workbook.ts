import { once } from 'node:events';
import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { open, rename } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { constants, createGunzip, gunzipSync } from 'node:zlib';
import { JobError } from './context';

/** A workbook's first sheet as CSV beside it, gzipped too; any other file as it is. @throws JobError on what is neither. */
export async function asTextFile(given: string): Promise<string> {
  const converted = `${given}.csv`;
  if (existsSync(converted)) return converted;
  const path = await unpackedWorkbook(given);
  if (path === null) return given;
  // a large package that few files need
  const { default: ExcelJS } = await import('exceljs');
  const out = createWriteStream(`${converted}.part`);
  try {
    const reader = new ExcelJS.stream.xlsx.WorkbookReader(path, {
      worksheets: 'emit',
      sharedStrings: 'cache',
      hyperlinks: 'ignore',
      styles: 'ignore',
    });
    for await (const sheet of reader) {
      for await (const row of sheet) {
        const values = Array.isArray(row.values) ? row.values.slice(1) : [];
        const line = values
          .map((value) => cellText(value).replace(/[\r\n]+/g, ' '))
          .map((text) => (/[",]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text));
        if (!out.write(`${line.join(',')}\n`)) await once(out, 'drain');
      }
      break; // the first sheet
    }
  } catch (error) {
    throw new JobError(`This is a ZIP archive, and no workbook that can be read (${(error as Error).message}).`);
  } finally {
    out.end();
    await once(out, 'close');
  }
  await rename(`${converted}.part`, converted);
  return converted;
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
