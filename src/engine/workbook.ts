import { once } from 'node:events';
import { createWriteStream, existsSync } from 'node:fs';
import { open, rename } from 'node:fs/promises';
import { JobError } from './context';

/** A workbook's first sheet as CSV beside it; any other file as it is. @throws JobError on what is neither. */
export async function asTextFile(path: string): Promise<string> {
  const handle = await open(path);
  const { buffer } = await handle.read(Buffer.alloc(4), 0, 4, 0);
  await handle.close();
  if (buffer.toString('latin1') !== 'PK\u0003\u0004') return path;
  const converted = `${path}.csv`;
  if (existsSync(converted)) return converted;
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

function cellText(value: unknown): string {
  if (value === null || value === undefined) return '';
  if (value instanceof Date) return value.toISOString();
  if (typeof value !== 'object') return String(value);
  const cell = value as { text?: unknown; result?: unknown; richText?: { text: string }[] };
  if (cell.richText) return cell.richText.map(({ text }) => text).join('');
  return cellText(cell.text ?? cell.result ?? '');
}
