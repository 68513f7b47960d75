import { once } from 'node:events';
import { PassThrough, Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { type Cell, type ColumnKind, type ExportColumn, flat, MOST_SHEET_ROWS } from '../../core/formats/exports';
import { inParts } from './in-parts';

const MAIN = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const RELATIONS = 'http://schemas.openxmlformats.org/package/2006/relationships';
const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml';
const HEAD = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
/** Formats of cells by their place: plain, titles, moments, money. */
const STYLES = `${HEAD}<styleSheet xmlns="${MAIN}"><numFmts count="2"><numFmt numFmtId="164" formatCode="yyyy\\-mm\\-dd\\ hh:mm"/><numFmt numFmtId="165" formatCode="#,##0.00"/></numFmts><fonts count="2"><font><sz val="11"/><name val="Calibri"/></font><font><b/><sz val="11"/><name val="Calibri"/></font></fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border/></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="4"><xf xfId="0"/><xf xfId="0" fontId="1" applyFont="1"/><xf xfId="0" numFmtId="164" applyNumberFormat="1"/><xf xfId="0" numFmtId="165" applyNumberFormat="1"/></cellXfs></styleSheet>`;
const BOLD = 1;
const STYLE_OF: Record<ColumnKind, number> = { text: 0, list: 0, number: 0, date: 2, money: 3 };
const WIDTHS: Record<ColumnKind, number> = { text: 24, list: 40, number: 12, date: 17, money: 12 };
/** More a cell cannot hold. */
const MOST_CHARS = 32_767;
const DAY_MS = 86_400_000;
/** The day that spreadsheets count from, in days before 1970. */
const FIRST_DAY = 25_569;

/**
 * A workbook (ECMA-376, SpreadsheetML) as it is made: rows go out as they come, in several sheets where they are more than one holds. Numbers
 * are numbers, dates dates, texts never formulas; the last sheet says what the columns are.
 *
 * @param name of the sheet. @param mostRows of a sheet.
 */
export function exportedWorkbook<Row>(
  rows: AsyncIterable<Row> | Iterable<Row>,
  columns: readonly ExportColumn<Row>[],
  name: string,
  mostRows = MOST_SHEET_ROWS,
): PassThrough {
  const out = new PassThrough({ highWaterMark: 1 << 18 });
  const zip = new ZipFile();
  zip.outputStream.pipe(out);
  write(zip, out, rows, columns, name, mostRows).catch((error: Error) => out.destroy(error));
  return out;
}

async function write<Row>(
  zip: ZipFile,
  out: PassThrough,
  rows: AsyncIterable<Row> | Iterable<Row>,
  columns: readonly ExportColumn<Row>[],
  name: string,
  mostRows: number,
): Promise<void> {
  const iterator = Symbol.asyncIterator in rows ? rows[Symbol.asyncIterator]() : rows[Symbol.iterator]();
  const titles = columns.map(({ title }) => title);
  const widths = columns.map(({ kind }) => WIDTHS[kind]);
  let next = await iterator.next();
  async function* body(): AsyncGenerator<Cells> {
    for (let count = 0; count < mostRows && !next.done; count++) {
      const row = next.value;
      yield columns.map(({ of, kind }) => [of(row), kind]);
      next = await iterator.next();
    }
  }
  const names: string[] = [];
  try {
    do {
      names.push(names.length === 0 ? name : `${name} ${names.length + 1}`);
      await addSheet(zip, out, names.length, titles, widths, body());
    } while (!next.done && !out.destroyed);
  } finally {
    // where nobody reads on, the rows are let go
    await iterator.return?.();
  }
  if (out.destroyed) return;
  names.push('About the columns');
  async function* about(): AsyncGenerator<Cells> {
    for (const { title, about: words } of columns) yield [[title, 'text'], [words, 'text']]; // biome-ignore format: two cells
  }
  await addSheet(zip, out, names.length, ['column', 'what it says'], [24, 90], about());
  addFrame(zip, names);
  zip.end();
}

type Cells = (readonly [Cell, ColumnKind])[];

/** Adds a sheet and waits until its last row is on its way. */
async function addSheet(
  zip: ZipFile,
  out: PassThrough,
  number: number,
  titles: readonly string[],
  widths: readonly number[],
  rows: AsyncIterable<Cells>,
): Promise<void> {
  const content = Readable.from(inParts(sheetOf(titles, widths, rows)));
  const stop = () => content.destroy();
  out.once('close', stop);
  zip.addReadStream(content, `xl/worksheets/sheet${number}.xml`);
  await once(content, 'close');
  out.off('close', stop);
  if (content.errored) throw content.errored;
}

async function* sheetOf(
  titles: readonly string[],
  widths: readonly number[],
  rows: AsyncIterable<Cells>,
): AsyncGenerator<string> {
  const letters = titles.map((_, n) => lettersOf(n));
  const cols = widths.map((width, n) => `<col min="${n + 1}" max="${n + 1}" width="${width}" customWidth="1"/>`);
  yield `${HEAD}<worksheet xmlns="${MAIN}"><sheetViews><sheetView workbookViewId="0"><pane xSplit="1" ySplit="1" topLeftCell="B2" activePane="bottomRight" state="frozen"/></sheetView></sheetViews><cols>${cols.join('')}</cols><sheetData>`;
  yield rowOf(1, titles.map((title, n) => textCell(`${letters[n]}1`, title, BOLD))); // biome-ignore format: one row
  let number = 1;
  for await (const cells of rows) {
    number++;
    yield rowOf(number, cells.map(([cell, kind], n) => cellOf(`${letters[n]}${number}`, cell, kind))); // biome-ignore format: one row
  }
  yield '</sheetData></worksheet>';
}

const rowOf = (number: number, cells: readonly string[]) => `<row r="${number}">${cells.join('')}</row>`;

function cellOf(at: string, given: Cell, kind: ColumnKind): string {
  const cell = flat(given);
  if (cell === null || cell === '') return '';
  if (typeof cell === 'string') return textCell(at, cell, 0);
  const value = kind === 'date' ? cell / DAY_MS + FIRST_DAY : kind === 'money' ? cell / 100 : cell;
  const style = STYLE_OF[kind];
  return `<c r="${at}"${style === 0 ? '' : ` s="${style}"`}><v>${value}</v></c>`;
}

const textCell = (at: string, text: string, style: number) =>
  `<c r="${at}" t="inlineStr"${style === 0 ? '' : ` s="${style}"`}><is><t xml:space="preserve">${escaped(text.slice(0, MOST_CHARS))}</t></is></c>`;

/** A, B ... Z, AA ... */
function lettersOf(column: number): string {
  return (column >= 26 ? lettersOf(Math.floor(column / 26) - 1) : '') + String.fromCharCode(65 + (column % 26));
}

/** As XML 1.0 holds it: control characters are none of its own; what looks like one that a spreadsheet writes in letters is said to be text. */
function escaped(text: string): string {
  return text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/_x[0-9A-Fa-f]{4}_/g, '_x005F$&')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');
}

/** What names the sheets and says what each part is. */
function addFrame(zip: ZipFile, names: readonly string[]): void {
  const add = (path: string, xml: string) => zip.addBuffer(Buffer.from(xml), path);
  const sheets = names.map((name, n) => `<sheet name="${escaped(name.replace(/[\\/?*[\]:]/g, ' ').slice(0, 31))}" sheetId="${n + 1}" r:id="rId${n + 1}"/>`); // biome-ignore format: one sheet
  add(
    'xl/workbook.xml',
    `${HEAD}<workbook xmlns="${MAIN}" xmlns:r="${OFFICE}"><sheets>${sheets.join('')}</sheets></workbook>`,
  );
  const parts = names.map((_, n) => `<Relationship Id="rId${n + 1}" Type="${OFFICE}/worksheet" Target="worksheets/sheet${n + 1}.xml"/>`); // biome-ignore format: one part
  add(
    'xl/_rels/workbook.xml.rels',
    `${HEAD}<Relationships xmlns="${RELATIONS}">${parts.join('')}<Relationship Id="rId${names.length + 1}" Type="${OFFICE}/styles" Target="styles.xml"/></Relationships>`,
  );
  add('xl/styles.xml', STYLES);
  add(
    '_rels/.rels',
    `${HEAD}<Relationships xmlns="${RELATIONS}"><Relationship Id="rId1" Type="${OFFICE}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
  );
  const types = names.map((_, n) => `<Override PartName="/xl/worksheets/sheet${n + 1}.xml" ContentType="${TYPE}.worksheet+xml"/>`); // biome-ignore format: one part
  add(
    '[Content_Types].xml',
    `${HEAD}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="${TYPE}.sheet.main+xml"/><Override PartName="/xl/styles.xml" ContentType="${TYPE}.styles+xml"/>${types.join('')}</Types>`,
  );
}
