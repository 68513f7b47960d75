import { gzipSync } from 'node:zlib';
import ExcelJS from 'exceljs';
import { describe, expect, it } from 'vitest';
import { readHoldings } from '../../core/formats/holdings';
import { readRankings } from '../../core/formats/rankings';
import { readSales } from '../../core/formats/sales';
import { readPlaces } from '../../core/ideas/read-places';
import { tablesOf } from './table-of';

const bytes = (text: string) => Buffer.from(text);
const SOLD = [{ name: 'tarn.com', priceMinor: 125_000, currency: 'EUR', at: Date.UTC(2026, 2, 14) }];

/** A workbook whose sheets are rows of cells. */
async function workbook(sheets: Record<string, unknown[][]>): Promise<Buffer> {
  const book = new ExcelJS.Workbook();
  for (const [name, rows] of Object.entries(sheets)) book.addWorksheet(name).addRows(rows);
  return Buffer.from(await book.xlsx.writeBuffer());
}

const JSON_SALES = JSON.stringify({
  result: { sales: [{ domain: 'tarn.com', price: '1,250.00 EUR', date: '2026-03-14' }] },
});

describe('a table that is read by its titles', () => {
  it.each([
    ['CSV', () => bytes('domain,price,date\ntarn.com,1250 EUR,2026-03-14\n')],
    ['with lines above its titles', () => bytes('Sales of the spring\n\nas of,2026-04-01\nDomain;Preis (EUR);Verkauft am\ntarn.com;1.250,00;14.03.2026\n')],
    ['in UTF-16', () => Buffer.from('\ufeffdomain\tprice\tcurrency\tsold on\ntarn.com\t1250\tEUR\t14 Mar 2026\n', 'utf16le')],
    ['gzipped', () => gzipSync('domain,price,currency,date\ntarn.com,"1,250.00",eur,03/14/2026\n')],
    ['JSON', () => bytes(JSON_SALES)],
    ['a page', () => bytes('<html><body><table><tr><th>Domain</th><th>Sold for</th><th>Date</th></tr><tr><td>tarn.com</td><td>€1,250</td><td>14 March 2026</td></tr></table></body></html>')],
    ['a workbook, its second sheet', () => workbook({ Notes: [['Sales'], ['made by Mara']], Sold: [['Spring'], ['Domain', 'Price (EUR)', 'Date'], ['tarn.com', 1250, new Date(Date.UTC(2026, 2, 14))]] })],
  ])('is taken as it comes: %s', async (_, file) => {
    const { sales, aside, problem } = readSales(await tablesOf(await file()));
    expect([problem, aside]).toEqual([null, []]);
    expect(sales).toMatchObject(SOLD);
  }); // biome-ignore format: a file a line

  it('counts what it could not read, by line', async () => {
    const { sales, aside } = readSales(
      await tablesOf(bytes('Sold names\ndomain,price,date\ntarn.com,1250,2026-03-14\nTotal,1250,\n')),
    );
    expect([sales.length, aside.map(({ line, reason }) => [line, reason])]).toEqual([
      1,
      [[4, '"Total" is no registrable domain']],
    ]);
  });

  it('is what one owns, what names are found by, or places', async () => {
    const owned = await workbook({
      Own: [
        ['Domain name', 'Purchase price', 'Expiry date'],
        ['tarn.com', '£42', '14/03/2027'],
      ],
    });
    expect(readHoldings(await tablesOf(owned)).holdings).toMatchObject([
      { name: 'tarn.com', costMinor: 4200, currency: 'GBP', renewsAt: Date.UTC(2027, 2, 14) },
    ]);
    const found = bytes('Site;Suchbegriff;Position;Suchvolumen;CPC (EUR)\ntarn.com;Bienen halten;3;1.2k;0,85\n');
    expect(readRankings(await tablesOf(found)).rankings).toMatchObject([
      { name: 'tarn.com', phrase: 'Bienen halten', position: 3, searches: 1200, clickMinor: 85, currency: 'EUR' },
    ]);
    const places = bytes('[{"town":"Eskerby","population":"12,400"},{"town":"Wexcombe","population":"900"}]');
    expect(readPlaces(await tablesOf(places)).places).toMatchObject([
      { word: 'eskerby', people: 12_400 },
      { word: 'wexcombe', people: 900 },
    ]);
  });

  it('is refused with a word on why where it is damaged, or unpacks to more than is read whole', async () => {
    await expect(tablesOf(Buffer.from('PK\x03\x04 and no archive'))).rejects.toThrow(/damaged/);
    await expect(tablesOf(gzipSync(Buffer.alloc(80 * 2 ** 20)))).rejects.toThrow(
      'What is packed takes more than 64 MB.',
    );
  });
});
