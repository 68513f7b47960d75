import { createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import ExcelJS from 'exceljs';
import { previewList } from '../src/core/formats/list-columns';
import { asTextFile } from '../src/engine/files/plain-table';
import { lookAtFile } from '../src/engine/files/text-file';
import { ListParams, readList, settleReading } from '../src/engine/lists/read-list';
import { type Bench, round, sized } from './figure';

const ROWS = sized('BENCH_FORMAT_ROWS', 400_000, 3000);
/** Rows of the workbook: 200 MB of it. */
const SHEET_ROWS = sized('BENCH_SHEET_ROWS', 1_000_000, 3000);

const nameOf = (n: number) => `vale${n.toString(36)}hives.org`;
/** Digits that cannot be packed. */
const mixed = (n: number) =>
  Math.imul(n + 1, 2_654_435_761).toString(36) + Math.imul(n + 17, 1_597_334_677).toString(36);
const dayOf = (n: number) => `${String(1 + (n % 28)).padStart(2, '0')}/${String(1 + (n % 12)).padStart(2, '0')}/2026`;

/** Ways in which lists come that are no plain tables, each as a file of so many rows. */
const FORMATS: [name: string, text: (n: number) => string, around?: [before: string, after: string]][] = [
  ['json-lines', (n) => `{"domain":"${nameOf(n)}","price":"${n % 900} EUR","ends":"2026-12-05T14:30:00Z"}\n`],
  ['json', (n) => `${n ? ',' : ''}{"domain":"${nameOf(n)}","price":"${n % 900} EUR","ends":"2026-12-05T14:30:00Z"}`, ['{"lots":[', ']}']],
  ['xml', (n) => `<lot><domain>${nameOf(n)}</domain><price>${n % 900} EUR</price><ends>2026-12-05</ends></lot>`, ['<lots>', '</lots>']],
  ['html', (n) => `<tr><td>${nameOf(n)}</td><td>${n % 900} EUR</td><td>2026-12-05</td></tr>`, ['<table><tr><th>Domain</th><th>Price</th><th>Ends</th></tr>', '</table>']],
  ['aligned', (n) => `${nameOf(n).padEnd(30)}  ${String(n % 900).padStart(8)} EUR  2026-12-05\n`],
  ['notes', (n) => `${nameOf(n)} - lot ${n}, ask Mara\n`],
  ['day-first', (n) => `${nameOf(n)};1.${String(n % 900).padStart(3, '0')},50 €;${dayOf(n)} 14:30\n`, ['Domain;Gebot;Endet am\n', '']],
  ['name-and-tld', (n) => `vale${n.toString(36)}hives;org;${n % 900}\n`, ['name;tld;price\n', '']],
]; // biome-ignore format: a format a line

/** Lists that are no plain tables, from the file to rows that are ready to be written. */
export const listFormats: Bench = async (log) => {
  const folder = mkdtempSync(join(tmpdir(), 'bench-formats-'));
  const figures = [];
  let slowest = Number.POSITIVE_INFINITY;
  let which = '';
  try {
    // first: what others leave in the memory would hide what it takes
    log('writing a workbook');
    const book = join(folder, 'book.xlsx');
    await writeBook(book);
    log('reading it');
    const { rate, memory } = await readWhole(book, SHEET_ROWS);
    figures.push({ name: 'list-workbook', value: Math.round(rate), unit: `rows/s of a workbook of ${round(statSync(book).size / 2 ** 20)} MB`, baseline: null, ratio: null, goal: 'none', met: true }); // biome-ignore format: a figure a line
    figures.push({ name: 'list-workbook-memory', value: memory, unit: 'MB more than before', baseline: null, ratio: null, goal: 'at most 400 MB', met: memory <= 400 }); // biome-ignore format: a figure a line
    for (const [name, text, [before, after] = ['', '']] of FORMATS) {
      log(name);
      const path = join(folder, name);
      await pipeline(Readable.from(parts(text, before, after)), createWriteStream(path));
      const rate = (await readWhole(path, ROWS)).rate;
      log(`${name}: ${Math.round(rate).toLocaleString('en')} rows/s`);
      if (rate < slowest) [slowest, which] = [rate, name];
    }
    figures.push({ name: 'list-formats', value: Math.round(slowest), unit: `rows/s of the slowest format (${which})`, baseline: null, ratio: null, goal: 'at least 40,000 rows/s', met: slowest >= 40_000 }); // biome-ignore format: a figure a line
  } finally {
    rmSync(folder, { recursive: true });
  }
  return figures;
};

function* parts(text: (n: number) => string, before: string, after: string): Generator<string> {
  let part = before;
  for (let n = 0; n < ROWS; n++) {
    part += text(n);
    if (part.length > 1 << 18) {
      yield part;
      part = '';
    }
  }
  yield part + after;
}

/** From the file to rows that are packed for writing. @throws Error when rows are lost. */
async function readWhole(path: string, rows: number): Promise<{ rate: number; memory: number }> {
  const before = process.memoryUsage().rss;
  let most = before;
  const watch = setInterval(() => {
    most = Math.max(most, process.memoryUsage().rss);
  }, 20);
  const started = performance.now();
  const { sample } = await lookAtFile(await asTextFile(path));
  const { format, keys, delimiter, hasHeader, headRows, columns } = previewList(sample);
  const params = ListParams.parse({ path, format, keys, delimiter, hasHeader, headRows, columns, now: 0 });
  let taken = 0;
  await readList({ ...params, ...(await settleReading(params)) }, 0, ({ batch }) => {
    taken += batch.count;
    return true;
  });
  const seconds = (performance.now() - started) / 1000;
  clearInterval(watch);
  if (taken !== rows) throw new Error(`${path}: ${taken} of ${rows} rows were read`);
  return { rate: rows / seconds, memory: Math.round((most - before) / 2 ** 20) };
}

async function writeBook(path: string): Promise<void> {
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ filename: path, useStyles: true });
  const sheet = book.addWorksheet('lots');
  sheet.columns = ['Domain', 'Price', 'Ends', 'Remark', 'Backlinks', 'Referring domains', 'Bids', 'Link'].map(
    (header) => ({
      header,
      ...(header === 'Ends' && { style: { numFmt: 'yyyy-mm-dd hh:mm' } }),
    }),
  );
  for (let n = 0; n < SHEET_ROWS; n++)
    sheet
      .addRow([nameOf(n), n % 900, new Date(Date.UTC(2026, 11, 1 + (n % 28), 14, 30)), `remark ${mixed(n)} and ${mixed(n + 7)} and ${mixed(n + 31)}, some more words on ${mixed(n + 3)} and ${n}`, n, n % 977, n % 30, `https://saltmarchexchange.com/lots/${mixed(n + 1)}${mixed(n + 9)}`])
      .commit(); // biome-ignore format: a row
  await book.commit();
}
