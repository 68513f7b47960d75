import { buffer } from 'node:stream/consumers';
import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import { describe, expect, it, vi } from 'vitest';
import yauzl, { type Entry } from 'yauzl';
import { type ExportColumn, exportedText } from '../../core/formats/exports';
import { odsSheets } from '../../core/formats/sheets/ods';
import { xlsxSheets } from '../../core/formats/sheets/xlsx';
import { domainColumns } from '../../core/pool/export-columns';
import { rowsOfColumns } from '../../core/pool/row-columns';
import { exportedOpenDocument } from '../../services/exports/open-document';
import { exportedWorkbook } from '../../services/exports/workbook';
import { COLUMNS } from '../../ui/pool/columns';

interface Row {
  name: string;
  at: number | null;
  minor: number | null;
}
const AT = Date.UTC(2026, 11, 5, 14, 30);
const COLUMNS_OF_TEST: ExportColumn<Row>[] = [
  { title: 'name', kind: 'text', of: ({ name }) => name, about: 'what it is called' },
  { title: 'at', kind: 'date', of: ({ at }) => at, about: 'when' },
  { title: 'price', kind: 'money', of: ({ minor }) => minor, about: 'for what' },
  { title: 'length', kind: 'number', of: ({ name }) => name.length, about: 'how long' },
];
const ROWS: Row[] = [
  { name: 'tarnhives.org', at: AT, minor: 125_000 },
  { name: '=HYPERLINK("http://wexcombe.co.uk")', at: null, minor: null },
  { name: '<a & "b">\u0001', at: AT, minor: -50 },
];
async function* each<R>(rows: readonly R[]): AsyncGenerator<R> {
  yield* rows;
}
/** The sheets of a workbook, as our own readers find them. */
async function sheetsOf(bytes: Buffer): Promise<{ kind: string; sheets: { name: string; rows: string[][] }[] }> {
  const zip = await yauzl.fromBufferPromise(bytes, { lazyEntries: true });
  const entries = new Map<string, Entry>();
  for await (const entry of zip.eachEntry()) entries.set(entry.fileName, entry);
  const archive = {
    names: [...entries.keys()],
    size: (name: string) => entries.get(name)?.uncompressedSize ?? 0,
    open: async function* (name: string) {
      yield* (await zip.openReadStreamPromise(entries.get(name) as Entry)) as AsyncIterable<Uint8Array>;
    },
  };
  const kind = entries.has('content.xml') ? 'ods' : 'xlsx';
  const sheets = [];
  for (const { name, rows } of await (kind === 'ods' ? odsSheets : xlsxSheets)(archive)) {
    const all: string[][] = [];
    for await (const row of rows()) all.push(row);
    sheets.push({ name, rows: all });
  }
  return { kind, sheets };
}
const text = async (format: 'csv' | 'tsv' | 'jsonl') => {
  let all = '';
  for await (const part of exportedText(each(ROWS), COLUMNS_OF_TEST, format)) all += part;
  return all;
};

describe('an export', () => {
  it('as a workbook has numbers as numbers, dates as dates, and texts that are no formulas', async () => {
    const book = new ExcelJS.Workbook();
    const bytes = await buffer(exportedWorkbook(each(ROWS), COLUMNS_OF_TEST, 'pool'));
    await book.xlsx.load(bytes as unknown as ArrayBuffer);
    const sheet = book.getWorksheet('pool');
    expect(sheet?.getRow(1).values).toEqual([undefined, 'name', 'at', 'price', 'length']);
    expect(sheet?.getRow(2).values).toEqual([undefined, 'tarnhives.org', new Date(AT), 1250, 13]);
    expect(sheet?.getCell('A3').value).toBe('=HYPERLINK("http://wexcombe.co.uk")');
    expect(sheet?.getCell('A3').type).toBe(ExcelJS.ValueType.String);
    expect(sheet?.getCell('C4').value).toBe(-0.5);
    expect(book.getWorksheet('About the columns')?.getRow(3).values).toEqual([undefined, 'at', 'when']);
    // and comes in again as it went out
    const { sheets } = await sheetsOf(bytes);
    expect(sheets[0].rows.slice(0, 2)).toEqual([
      ['name', 'at', 'price', 'length'],
      ['tarnhives.org', '2026-12-05T14:30:00', '1250', '13'],
    ]);
  });

  it('as text says the same, and what a spreadsheet takes for a formula is defused', async () => {
    const read = parse(await text('csv'), { columns: true }) as Record<string, string>[];
    expect(read[0]).toEqual({ name: 'tarnhives.org', at: '2026-12-05T14:30:00.000Z', price: '1250.00', length: '13' });
    expect(read[1].name).toBe(`'=HYPERLINK("http://wexcombe.co.uk")`);
    expect(read[2]).toMatchObject({ price: '-0.50', at: '2026-12-05T14:30:00.000Z' });
    expect((await text('tsv')).split('\n')[1]).toBe('tarnhives.org\t2026-12-05T14:30:00.000Z\t1250.00\t13');
    expect(JSON.parse((await text('jsonl')).split('\n')[1])).toEqual({
      name: ROWS[1].name,
      at: null,
      price: null,
      length: 35,
    });
  });

  it('of the pool has a column for each that the grid shows, and those that are shown alone in their order', () => {
    // what is read of a name's letters for the rows on the screen only, and what a brief knows (services/exports/lists/decided)
    const left = ['words', 'sayability', 'nameSubject', 'fit', 'worth'];
    for (const { id } of COLUMNS)
      if (!left.includes(id)) expect([id, domainColumns([id]).length]).toEqual([id, expect.any(Number)]);
    const bare = COLUMNS.filter(({ id }) => id !== 'domain' && !left.includes(id) && domainColumns([id]).length < 2);
    expect(bare.map(({ id }) => id)).toEqual([]);
    expect(domainColumns(['pair', 'domain', 'age']).map(({ title }) => title)).toEqual([
      'domain',
      'strength',
      'trust',
      'registered',
    ]);
    const [row] = rowsOfColumns({ id: [1], name: ['tarnhives.org'], fields: {} });
    expect(
      domainColumns(null)
        .map(({ of }) => of(row))
        .filter((cell) => cell !== null),
    ).toEqual(['tarnhives.org', 'unknown', 'not-yet', 'org']);
  });

  it('as an OpenDocument has the same, and comes in again as it went out', async () => {
    const bytes = await buffer(exportedOpenDocument(each(ROWS), COLUMNS_OF_TEST, 'pool'));
    expect(bytes.subarray(38, 84).toString()).toBe('application/vnd.oasis.opendocument.spreadsheet');
    const { kind, sheets } = await sheetsOf(bytes);
    expect(kind).toBe('ods');
    expect(sheets[0].rows).toEqual([
      ['name', 'at', 'price', 'length'],
      ['tarnhives.org', '2026-12-05T14:30:00', '1250', '13'],
      [ROWS[1].name, '', '', '35'],
      ['<a & "b">', '2026-12-05T14:30:00', '-0.5', '10'],
    ]);
    expect(sheets[1].rows[2]).toEqual(['at', 'when']);
  });

  it('whose reader goes away lets its rows go', async () => {
    for (const make of [exportedWorkbook, exportedOpenDocument]) {
      let isLetGo = false;
      async function* endless(): AsyncGenerator<Row> {
        try {
          for (;;) {
            yield ROWS[0];
            await new Promise((resolve) => setImmediate(resolve));
          }
        } finally {
          isLetGo = true;
        }
      }
      const book = make(endless(), COLUMNS_OF_TEST, 'pool');
      book.read();
      await new Promise((resolve) => setTimeout(resolve, 20));
      book.destroy();
      await vi.waitFor(() => expect([make.name, isLetGo]).toEqual([make.name, true]));
    }
  });

  it.each([
    ['XLSX', exportedWorkbook],
    ['ODS', exportedOpenDocument],
  ])('goes on in another sheet where one is full: %s', async (_, made) => {
    const bytes = await buffer(made(each(ROWS), COLUMNS_OF_TEST, 'pool', 2));
    const { sheets } = await sheetsOf(bytes);
    expect(sheets.map(({ name, rows }) => [name, rows.length])).toEqual([
      ['pool', 3],
      ['pool 2', 2],
      ['About the columns', 5],
    ]);
    expect(sheets[1].rows[0][0]).toBe('name');
  });
});
