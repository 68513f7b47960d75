import { PassThrough } from 'node:stream';
import { type Cell, type ColumnKind, type ExportColumn, flat, MOST_SHEET_ROWS } from '../../core/formats/exports';

const FORMATS = {
  text: undefined,
  list: undefined,
  number: undefined,
  date: 'yyyy-mm-dd hh:mm',
  money: '#,##0.00',
} as const;
const WIDTHS = { text: 24, list: 40, number: 12, date: 17, money: 12 } as const;

/**
 * A workbook as it is made: rows go out as they come, in several sheets where they are more than one holds. Numbers are numbers, dates
 * dates, texts never formulas; the last sheet says what the columns are.
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
  write(out, rows, columns, name, mostRows).catch((error: Error) => out.destroy(error));
  return out;
}

async function write<Row>(
  out: PassThrough,
  rows: AsyncIterable<Row> | Iterable<Row>,
  columns: readonly ExportColumn<Row>[],
  name: string,
  mostRows: number,
): Promise<void> {
  // a large package that few exports need
  const { default: ExcelJS } = await import('exceljs');
  const book = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true, useSharedStrings: false });
  const begin = (n: number) => {
    const sheet = book.addWorksheet(n === 1 ? name : `${name} ${n}`, {
      views: [{ state: 'frozen', ySplit: 1, xSplit: 1 }],
    });
    sheet.columns = columns.map(({ title, kind }) => ({
      header: title,
      width: WIDTHS[kind],
      style: { numFmt: FORMATS[kind] },
    }));
    sheet.getRow(1).font = { bold: true };
    sheet.getRow(1).commit();
    return sheet;
  };
  let sheet = begin(1);
  let sheets = 1;
  let count = 0;
  for await (const row of rows) {
    if (out.destroyed) return;
    if (count === mostRows) {
      sheet.commit();
      sheet = begin(++sheets);
      count = 0;
    }
    sheet.addRow(columns.map(({ of, kind }) => cellOf(of(row), kind))).commit();
    count++;
    // what was taken is written before more is read
    if (out.writableLength > 1 << 20) await new Promise((done) => setImmediate(done));
    while (out.writableLength > 1 << 22 && !out.destroyed) await new Promise((done) => setTimeout(done, 5));
  }
  sheet.commit();
  const about = book.addWorksheet('About the columns');
  about.columns = [
    { header: 'column', width: 24 },
    { header: 'what it says', width: 90 },
  ];
  for (const { title, about: words } of columns) about.addRow([title, words]).commit();
  about.commit();
  await book.commit();
}

function cellOf(given: Cell, kind: ColumnKind): string | number | Date | null {
  const cell = flat(given);
  if (cell === null || typeof cell === 'string') return cell;
  if (kind === 'date') return new Date(cell);
  return kind === 'money' ? cell / 100 : cell;
}
