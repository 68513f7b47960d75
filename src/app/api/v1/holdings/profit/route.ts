import { csvLine } from '../../../../../core/formats/csv';
import { type MoneyEntry, profitBy } from '../../../../../core/money/profit';
import { readRates } from '../../../../../store/base/settings';
import { moneyEntries } from '../../../../../store/portfolio/holdings';
import { getStore } from '../../../../server';
import { route } from '../../../respond';

const COLUMNS = ['date', 'domain', 'brief', 'venue', 'kind', 'amount', 'currency', 'words', 'order'];
const AMOUNT = COLUMNS.indexOf('amount');

/** Profit and loss of what is owned; as a file, every entry, so that each sum can be traced. */
export const GET = route('GET /holdings/profit', async ({ query: { by, format } }) => {
  const store = await getStore();
  const entries = moneyEntries(store);
  const { home } = readRates(store);
  if (format === 'json') return { currency: home, by, lines: profitBy(entries, by) };
  const rows = entries.map((entry) => cellsOf(entry, home));
  if (format === 'csv') {
    const written = rows.map((row) => row.map((cell, n) => (n === AMOUNT ? Number(cell).toFixed(2) : cell)));
    return file('text/csv; charset=utf-8', 'csv', [COLUMNS, ...written].map((row) => csvLine(row)).join(''));
  }
  return file('application/vnd.openxmlformats-officedocument.spreadsheetml.sheet', 'xlsx', await sheet(rows));
});

function cellsOf({ at, domain, brief, venue, kind, amountMinor, words, orderId }: MoneyEntry, currency: string) {
  const date = new Date(at).toISOString().slice(0, 10);
  return [date, domain, brief ?? '', venue ?? '', kind, amountMinor / 100, currency, words, orderId];
}

async function sheet(rows: (string | number | null)[][]): Promise<ArrayBuffer> {
  const { default: ExcelJS } = await import('exceljs');
  const book = new ExcelJS.Workbook();
  const page = book.addWorksheet('Profit and loss');
  page.addRow(COLUMNS);
  for (const row of rows) page.addRow(row);
  return (await book.xlsx.writeBuffer()) as unknown as ArrayBuffer;
}

const file = (type: string, ending: string, body: BodyInit) =>
  new Response(body, {
    headers: { 'content-type': type, 'content-disposition': `attachment; filename="profit-and-loss.${ending}"` },
  });
