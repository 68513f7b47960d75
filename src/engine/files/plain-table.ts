import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yauzl from 'yauzl';
import { z } from 'zod';
import { type Charset, decoderOf, guessCharset } from '../../core/formats/charset';
import { likeliest } from '../../core/formats/sheets/json';
import type { Sheet } from '../../core/formats/sheets/sheet';
import { textKind } from '../../core/formats/sheets/text';
import type { OpenSheet } from '../../core/formats/sheets/xlsx';
import { Refusal } from '../../core/refusal';
import { type Packing, packingOf, unpacked } from '../../services/files/packing';
import { parquetRows } from '../../services/files/parquet-rows';
import { archiveOf, NO_LIST, opened, sheetsOf, workbookSheets } from '../../services/files/sheets';
import { refuseBombs } from '../../services/files/zip-limits';
import { JobError } from '../runner/context';
import { rowsOfLarge } from './large-tables';

/** A file as a table of text that can be read as a stream, and what else there is in it. */
export interface PlainTable {
  path: string;
  /** Sheets, arrays or files that could be the list; empty where there is only one. */
  sheets: string[];
  /** The one of them that was taken. */
  sheet: string | null;
}

const MB = 2 ** 20;
const HEAD_BYTES = 64 * 1024;
const MOST_DEPTH = 3;
/** Rows of a sheet that tell whether it is the list. */
const LOOKED_AT = 400;
/** What is not read as a stream is held in memory while it is turned into a table. */
const MOST_HELD = 96 * MB;

const Kept = z.object({ sheets: z.array(z.string()), likeliest: z.number() });

/**
 * A file as a table of text: as it is where it is one (gzipped, too), else turned into CSV beside it, once. Workbooks, archives, JSON, XML,
 * pages, zones, texts aligned by spaces and Parquet are turned so.
 *
 * @param wanted one of the sheets; absent: the likeliest. @throws JobError with a message for people.
 */
export async function plainTable(given: string, wanted: string | null = null, depth = 0): Promise<PlainTable> {
  const kept = await keptOf(given);
  if (kept) {
    const at = wanted === null ? kept.likeliest : kept.sheets.indexOf(wanted);
    const path = pathOf(given, Math.max(0, at));
    if (at >= 0 && existsSync(path)) return told(path, kept.sheets, at);
  }
  const head = await headOf(given);
  const packing = packingOf(head);
  switch (packing) {
    case null: {
      if (head.subarray(0, 5).toString('latin1') === '%PDF-') throw new JobError('This is a PDF document, not a list.');
      return (await isReadAsItIs(given, head)) ? told(given, [], 0) : await fromMemory(given, wanted);
    }
    case 'gzip':
    case 'zstd':
    case 'bzip2':
      return await fromPacked(given, packing, wanted, depth);
    case 'zip':
      return await fromArchive(given, wanted, depth);
    case 'parquet':
      return await fromParquet(given);
  }
}

/** The path of a file as a table of text. */
export async function asTextFile(given: string, wanted: string | null = null): Promise<string> {
  return (await plainTable(given, wanted)).path;
}

const told = (path: string, sheets: string[], at: number): PlainTable => ({
  path,
  sheets: sheets.length > 1 ? sheets : [],
  sheet: sheets.length > 1 ? (sheets[at] ?? null) : null,
});

const pathOf = (given: string, sheet: number) => `${given}.${sheet}.csv`;
const keptPath = (given: string) => `${given}.sheets.json`;

async function keptOf(given: string): Promise<z.infer<typeof Kept> | null> {
  try {
    return Kept.parse(JSON.parse(await readFile(keptPath(given), 'utf8')));
  } catch {
    return null;
  }
}

async function headOf(path: string): Promise<Buffer> {
  const handle = await open(path);
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    if (bytesRead === 0) throw new JobError('The file is empty.');
    return buffer.subarray(0, bytesRead);
  } finally {
    await handle.close();
  }
}

/** Objects within those of JSON Lines are columns of their own, unless there are too many lines to be held. */
async function isReadAsItIs(path: string, head: Buffer): Promise<boolean> {
  if (isPlainText(head)) return true;
  return kindOf(head) === 'json-lines' && (await stat(path)).size > MOST_HELD;
}

function isPlainText(head: Buffer): boolean {
  const text = startOf(head);
  const kind = kindOf(head);
  if (kind === 'table') return !isQuotedLines(text);
  return kind === 'json-lines' && !/:\s*[[{]/.test(text);
}

const kindOf = (head: Buffer) => textKind(startOf(head), head.length < HEAD_BYTES);

/** The first whole lines. */
function startOf(head: Buffer): string {
  const isCut = head.length === HEAD_BYTES;
  const charset: Charset = guessCharset(head, isCut);
  return decoderOf(charset).decode(isCut ? head.subarray(0, head.lastIndexOf(10) + 1 || head.length) : head);
}

/** Each line is one text in quotes, with a table in it. */
function isQuotedLines(text: string): boolean {
  const lines = text.split(/\r\n|\n|\r/).filter((line) => line.trim() !== '');
  return lines.length > 1 && lines.slice(0, 50).every((line) => /^"[^"]*[,;\t|][^"]*"$/.test(line));
}

async function fromPacked(
  given: string,
  packing: 'gzip' | 'zstd' | 'bzip2',
  wanted: string | null,
  depth: number,
): Promise<PlainTable> {
  if (depth >= MOST_DEPTH) throw new JobError('The file is packed more often than lists are.');
  const file = createReadStream(given);
  const start: Buffer[] = [];
  let size = 0;
  for await (const chunk of unpacked(file, packing, () => file.bytesRead)) {
    start.push(chunk);
    size += chunk.length;
    if (size >= HEAD_BYTES) break;
  }
  file.destroy();
  const head = Buffer.concat(start).subarray(0, HEAD_BYTES);
  if (head.length === 0) throw new JobError('The file is empty.');
  const within: Packing = packingOf(head);
  // text that is gzipped is read as it is
  if (packing === 'gzip' && within === null && isPlainText(head)) return told(given, [], 0);
  const plain = `${given}.plain`;
  if (!existsSync(plain)) {
    const whole = createReadStream(given);
    await pipeline(
      unpacked(whole, packing, () => whole.bytesRead),
      createWriteStream(`${plain}.part`),
    );
    await rename(`${plain}.part`, plain);
  }
  return await plainTable(plain, wanted, depth + 1);
}

async function fromArchive(given: string, wanted: string | null, depth: number): Promise<PlainTable> {
  await refuseBombs(given);
  const zip = await opened(() => yauzl.openPromise(given, { autoClose: false, lazyEntries: true }));
  try {
    const archive = await archiveOf(zip);
    const workbook = await workbookSheets(archive);
    if (workbook) return await fromWorkbook(given, workbook.sheets, wanted);
    if (depth >= MOST_DEPTH) throw new JobError('The file is packed more often than lists are.');
    const found: { name: string; table: PlainTable; sample: Sheet }[] = [];
    let failure: unknown = null;
    for (const [n, name] of archive.names.entries()) {
      if (NO_LIST.test(name)) continue;
      const part = `${given}.part${n}`;
      await pipeline(archive.open(name), createWriteStream(part));
      try {
        const table = await plainTable(part, null, depth + 1);
        found.push({ name, table, sample: { name, rows: await firstRows(table.path) } });
      } catch (error) {
        // another file of the archive may be the list
        failure ??= error;
        await rm(part, { force: true });
      }
    }
    const best =
      wanted === null ? likeliest(found.map(({ sample }) => sample)) : found.findIndex(({ name }) => name === wanted);
    if (best < 0 && wanted !== null) throw new JobError(`The archive has no list "${wanted}".`);
    if (best < 0) throw failure ?? new JobError('The archive holds no list.');
    return {
      path: found[best].table.path,
      sheets: found.length > 1 ? found.map(({ name }) => name) : [],
      sheet: found.length > 1 ? found[best].name : null,
    };
  } finally {
    zip.close();
  }
}

/** The first lines of a text, each as a row of one cell. */
async function firstRows(path: string): Promise<string[][]> {
  const head = await headOf(path);
  return decoderOf(guessCharset(head, head.length === HEAD_BYTES))
    .decode(head)
    .split(/\r\n|\n|\r/, LOOKED_AT)
    .map((line) => line.split(/[,;\t|]/));
}

async function fromWorkbook(given: string, sheets: OpenSheet[], wanted: string | null): Promise<PlainTable> {
  if (sheets.length === 0) throw new JobError('The workbook holds no sheet.');
  const kept = await keptOf(given);
  const names = sheets.map(({ name }) => name);
  const best = kept?.likeliest ?? (await likeliestOf(sheets));
  await keep(given, names, best);
  const at = wanted === null ? best : names.indexOf(wanted);
  if (at < 0) throw new JobError(`The workbook has no sheet "${wanted}".`);
  await writeCsv(pathOf(given, at), sheets[at].rows());
  return told(pathOf(given, at), names, at);
}

async function fromParquet(given: string): Promise<PlainTable> {
  const { asyncBufferFromFile } = await import('hyparquet');
  await keep(given, [''], 0);
  await writeCsv(pathOf(given, 0), parquetRows(await asyncBufferFromFile(given)));
  return told(pathOf(given, 0), [''], 0);
}

async function likeliestOf(sheets: readonly OpenSheet[]): Promise<number> {
  if (sheets.length === 1) return 0;
  const samples: Sheet[] = [];
  for (const { name, rows } of sheets) {
    const first: string[][] = [];
    for await (const row of readable(rows())) if (first.push(row) >= LOOKED_AT) break;
    samples.push({ name, rows: first });
  }
  return Math.max(0, likeliest(samples));
}

/** Tables of what is read as a whole; of what is too large for that, the kinds that can be read a part at a time. */
async function fromMemory(given: string, wanted: string | null): Promise<PlainTable> {
  const { size } = await stat(given);
  if (size > MOST_HELD) {
    const rows = await rowsOfLarge(given);
    if (rows) {
      await keep(given, [''], 0);
      await writeCsv(pathOf(given, 0), rows);
      return told(pathOf(given, 0), [''], 0);
    }
    throw new JobError(
      `A file of this kind may have ${MOST_HELD / MB} MB, and this one has ${Math.round(size / MB)}. Save it as CSV or as JSON Lines.`,
    );
  }
  let sheets: Sheet[];
  try {
    ({ sheets } = await sheetsOf(await readFile(given)));
  } catch (error) {
    throw error instanceof Refusal ? error : new JobError((error as Error).message);
  }
  const best = likeliest(sheets);
  if (best < 0) throw new JobError('The file holds no table.');
  const names = sheets.map(({ name }) => name);
  await keep(given, names, best);
  const at = wanted === null ? best : names.indexOf(wanted);
  if (at < 0) throw new JobError(`The file has no table "${wanted}".`);
  const rows = sheets[at].rows;
  await writeCsv(
    pathOf(given, at),
    (async function* () {
      yield* rows;
    })(),
  );
  return told(pathOf(given, at), names, at);
}

async function keep(given: string, sheets: string[], best: number): Promise<void> {
  await writeFile(keptPath(given), JSON.stringify({ sheets, likeliest: best }));
}

async function writeCsv(path: string, rows: AsyncIterable<string[]>): Promise<void> {
  if (existsSync(path)) return;
  try {
    await pipeline(Readable.from(csvParts(readable(rows))), createWriteStream(`${path}.part`));
  } catch (error) {
    await rm(`${path}.part`, { force: true });
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
      throw new JobError(`The file cannot be unpacked: ${(error as Error).message}`);
    throw error;
  }
  await rename(`${path}.part`, path);
}

const PART_CHARS = 128 * 1024;

async function* csvParts(rows: AsyncIterable<string[]>): AsyncGenerator<string> {
  let part = '';
  for await (const row of rows) {
    part += csvLineOf(row);
    if (part.length < PART_CHARS) continue;
    yield part;
    part = '';
  }
  if (part !== '') yield part;
}

/** Rows, with a message for people where the file that they come from is damaged. */
async function* readable(rows: AsyncIterable<string[]>): AsyncGenerator<string[]> {
  try {
    yield* rows;
  } catch (error) {
    throw error instanceof Refusal ? error : new JobError(`The workbook is damaged (${(error as Error).message}).`);
  }
}

/** As it is read again: a line a row, whatever stood in the cells. */
function csvLineOf(row: readonly string[]): string {
  const cells = row.map((cell) => {
    const text = cell.replace(/[\r\n]+/g, ' ');
    return /[",]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  });
  return `${cells.join(',')}\n`;
}
