import { Readable } from 'node:stream';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { decoderOf, guessCharset } from '../../core/formats/charset';
import type { CsvProblem } from '../../core/formats/csv';
import type { Archive } from '../../core/formats/sheets/archive';
import { odsSheets } from '../../core/formats/sheets/ods';
import type { Sheet } from '../../core/formats/sheets/sheet';
import { textSheets } from '../../core/formats/sheets/text';
import { type OpenSheet, xlsxSheets } from '../../core/formats/sheets/xlsx';
import { FileProblem } from './file-problem';
import { packingOf, unpacked } from './packing';
import { parquetRows } from './parquet-rows';

/** What a file holds. */
export interface FoundSheets {
  /** What it is: how it is packed, and what of. */
  kind: string;
  sheets: Sheet[];
  problems: CsvProblem[];
}

const MOST_DEPTH = 3;
const MOST_BYTES = 512 * 2 ** 20;
const MOST_ENTRIES = 5000;
/** Files in an archive that are no list. */
export const NO_LIST = /(^|\/)(__MACOSX\/|\.|Thumbs\.db$)|\/$|\.(png|jpe?g|gif|pdf|docx?|exe|js|css)$/i;

/**
 * All tables of a file in memory, whatever it is packed in.
 *
 * @param most bytes that what is packed may come to. @throws FileProblem with a message for people.
 */
export async function sheetsOf(bytes: Uint8Array, most = MOST_BYTES, depth = 0): Promise<FoundSheets> {
  if (bytes.length === 0) throw new FileProblem('The file is empty.');
  const packing = packingOf(bytes);
  switch (packing) {
    case 'gzip':
    case 'zstd':
    case 'bzip2': {
      if (depth >= MOST_DEPTH) throw new FileProblem('The file is packed more often than lists are.');
      const found = await sheetsOf(
        await wholeOf(
          unpacked(Readable.from([Buffer.from(bytes)]), packing, () => bytes.length),
          most,
        ),
        most,
        depth + 1,
      );
      return { ...found, kind: `${packing} ${found.kind}` };
    }
    case 'zip':
      return await zipSheets(bytes, most, depth);
    case 'parquet':
      return { kind: 'parquet', sheets: [{ name: '', rows: await wholeParquet(bytes, most) }], problems: [] };
    default: {
      if (String.fromCharCode(...bytes.subarray(0, 5)) === '%PDF-')
        throw new FileProblem('This is a PDF document, not a list.');
      const text = decoderOf(guessCharset(bytes, false)).decode(bytes);
      return textSheets(text);
    }
  }
}

async function wholeParquet({ buffer, byteOffset, byteLength }: Uint8Array, most: number): Promise<string[][]> {
  const rows: string[][] = [];
  for await (const row of parquetRows(buffer.slice(byteOffset, byteOffset + byteLength) as ArrayBuffer, most))
    rows.push(row);
  return rows;
}

async function wholeOf(chunks: AsyncIterable<Buffer>, most: number): Promise<Buffer> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const chunk of chunks) {
    size += chunk.length;
    if (size > most) throw tooMuch(most);
    parts.push(chunk);
  }
  return Buffer.concat(parts, size);
}

const tooMuch = (most: number) => new FileProblem(`What is packed takes more than ${most / 2 ** 20} MB.`);

async function zipSheets(bytes: Uint8Array, most: number, depth: number): Promise<FoundSheets> {
  const zip = await opened(() => yauzl.fromBufferPromise(Buffer.from(bytes), { lazyEntries: true }));
  const archive = await archiveOf(zip, most);
  const workbook = await workbookSheets(archive);
  if (workbook) {
    const sheets: Sheet[] = [];
    for (const { name, rows } of workbook.sheets) {
      const all: string[][] = [];
      for await (const row of rows()) if (row.length > 0) all.push(row);
      sheets.push({ name, rows: all });
    }
    return { kind: workbook.kind, sheets, problems: [] };
  }
  if (depth >= MOST_DEPTH) throw new FileProblem('The file is packed more often than lists are.');
  const sheets: Sheet[] = [];
  const problems: CsvProblem[] = [];
  let failure: unknown = null;
  for (const name of archive.names) {
    if (NO_LIST.test(name)) continue;
    try {
      const found = await sheetsOf(await wholeOf(archive.open(name) as AsyncIterable<Buffer>, most), most, depth + 1);
      for (const sheet of found.sheets)
        sheets.push({ name: [name, sheet.name].filter(Boolean).join(': '), rows: sheet.rows });
      problems.push(...found.problems);
    } catch (error) {
      // another file of the archive may be the list
      failure ??= error;
    }
  }
  if (sheets.length === 0) throw failure ?? new FileProblem('The archive holds no list.');
  return { kind: 'zip', sheets, problems };
}

/** Sheets of a workbook of either kind; null: the archive is none. */
export async function workbookSheets(archive: Archive): Promise<{ kind: 'xlsx' | 'ods'; sheets: OpenSheet[] } | null> {
  try {
    if (archive.names.some((name) => /(^|\/)workbook\.xml$/i.test(name)))
      return { kind: 'xlsx', sheets: await xlsxSheets(archive) };
    if (archive.names.includes('content.xml') && archive.names.includes('META-INF/manifest.xml'))
      return { kind: 'ods', sheets: await odsSheets(archive) };
  } catch (error) {
    if (error instanceof FileProblem) throw error;
    throw new FileProblem(`The workbook is damaged (${(error as Error).message}).`);
  }
  return null;
}

export async function opened(open: () => Promise<ZipFile>): Promise<ZipFile> {
  try {
    return await open();
  } catch (error) {
    throw new FileProblem(`The ZIP archive is damaged (${(error as Error).message}).`);
  }
}

/** The parts of an archive that stays open. @param most bytes that they may come to as they are read. */
export async function archiveOf(zip: ZipFile, most = Number.POSITIVE_INFINITY): Promise<Archive> {
  let read = 0;
  const entries = new Map<string, Entry>();
  if (zip.entryCount > MOST_ENTRIES) throw new FileProblem('The archive has more parts than a list can have.');
  for await (const entry of zip.eachEntry()) entries.set(entry.fileName, entry);
  const entryOf = (name: string): Entry => {
    const found = entries.get(name);
    if (!found) throw new FileProblem(`The archive has no part ${name}.`);
    return found;
  };
  return {
    names: [...entries.keys()],
    size: (name) => entryOf(name).uncompressedSize,
    open: async function* (name) {
      // yauzl ends with an error where more comes out than was said
      for await (const chunk of (await zip.openReadStreamPromise(entryOf(name))) as AsyncIterable<Uint8Array>) {
        read += chunk.length;
        if (read > most) throw tooMuch(most);
        yield chunk;
      }
    },
  };
}
