import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type CsvProblem, CsvReader, type CsvRow, csvLine } from './csv';
import { CsvByteReader } from './csv-bytes';
import { type ListBatch, ListBatchBuilder } from './list-batch';
import { EXCLUDED, fieldsOf, ListByteReader } from './list-bytes';
import type { ListField } from './list-fields';
import { LIST_FIGURES, statedFigures } from './list-figures';
import { ListRowReader } from './list-row';
import { UNTOLD } from './told';

/** Feeds a text in pieces of so many bytes. */
function feed(text: string, piece: number, table: CsvByteReader): void {
  const bytes = new TextEncoder().encode(text);
  for (let at = 0; at < bytes.length; at += piece) table.write(bytes.subarray(at, at + piece));
  table.end();
}

type Plain = [line: number, fields: string[] | string];

function byBytes(text: string, piece: number, delimiter = ','): Plain[] {
  const found: Plain[] = [];
  const table: CsvByteReader = new CsvByteReader(
    {
      row: () => found.push([table.line, fieldsOf(table, 99)]),
      problem: (line, reason) => found.push([line, reason]),
    },
    { delimiter, headRows: 0, width: 99 },
  );
  feed(text, piece, table);
  expect(table.rows).toBe(found.length);
  return found;
}

function byText(text: string, delimiter = ',', piece = 1 << 16): Plain[] {
  const found: Plain[] = [];
  const reader = new CsvReader(
    ({ line, fields }: CsvRow) => found.push([line, fields]),
    ({ line, reason }: CsvProblem) => found.push([line, reason]),
    { delimiter, maxRowChars: 65_536 },
  );
  for (let at = 0; at < text.length; at += piece) reader.write(text.slice(at, at + piece));
  reader.end();
  return found;
}

describe('CsvByteReader', () => {
  it('finds the rows and the problems that CsvReader finds, wherever the pieces of either end', () => {
    const part = fc.constantFrom('a', ';', ';', '"', '""', '\n', '\r\n', '\r', '\0', ' ', 'bc', 'ö', '😀', ',');
    fc.assert(
      fc.property(fc.array(part, { maxLength: 60 }), fc.integer({ min: 1, max: 30 }), (parts, piece) => {
        const text = parts.join('');
        expect(byBytes(text, piece, ';')).toEqual(byText(text, ';'));
        expect(byText(text, ';', piece)).toEqual(byText(text, ';'));
      }),
      { numRuns: 3000 },
    );
  });

  it('drops a byte order mark, and takes a row of nothing but marks for what it is', () => {
    expect(byBytes('\ufeffa,b\n,,\n', 1)).toEqual([
      [1, ['a', 'b']],
      [2, ['', '', '']],
    ]);
  });

  it('refuses a delimiter of more than one byte', () => {
    for (const delimiter of ['§', '', ',,'])
      expect(() => byBytes('a', 1, delimiter)).toThrow('the delimiter is one byte');
  });
});

const COLUMNS: ListField[] = ['domain', 'phase', 'drop-date', 'closing', 'registered', 'price', 'currency', 'bids', 'kind', 'venue', 'ignore', 'backlinks', 'traffic', 'position', 'cpc', 'score', 'score', 'score']; // biome-ignore format: a list
const TOLD = COLUMNS.map((field, n) => ({
  ...UNTOLD,
  title: field === 'score' ? ['Pull', 'Reach', 'Pull'][n - 15] : '',
}));
const SCORES_AT = { Reach: 0, Pull: 2 };
const padded = <T>(value: fc.Arbitrary<T>) =>
  fc.tuple(fc.constantFrom('', '', '', ' ', '\t', '\u00a0', '\u0001'), value, fc.constantFrom('', '', ' ', '\u2009')).map(
    ([before, text, after]) => `${before}${text}${after}`,
  ); // biome-ignore format: three parts
const ending = fc.constantFrom('org', 'com', 'co.uk', 'de', 'ck', 'kawasaki.jp', 'nowhere', 'ORG', 'Com', '');
const domain = fc.oneof(
  fc.tuple(fc.stringMatching(/^[a-zA-Z0-9-]{0,12}$/), ending).map(([label, end]) => `${label}.${end}`),
  fc.tuple(fc.constantFrom('xn--hnig-5qa', 'a--b', 'XN--HNIG-5QA', 'höhle', 'a_b', 'x'.repeat(63), 'x'.repeat(64)), ending).map((two) => two.join('.')),
  fc.stringMatching(/^[a-z.\-/:@"]{0,20}$/),
  fc.tuple(fc.webUrl(), fc.constant('')).map(([url]) => url),
); // biome-ignore format: a list
const date = fc.oneof(
  fc.date({ min: new Date(0), max: new Date('2210-01-01'), noInvalidDate: true }).map((at) => at.toISOString().slice(0, 10)),
  fc.tuple(fc.nat(2300), fc.nat(14), fc.nat(33)).map(([y, m, d]) => `${String(y).padStart(4, '0')}-${String(m).padStart(2, '0')}-${String(d).padStart(2, '0')}`),
  fc.constantFrom('', '27.11.2026', '2026-11-27T10:00:00Z', '11/27/2026', '20261127', 'soon', '2026-1a-01', '2024-02-29'),
); // biome-ignore format: a list
const figure = fc.oneof(
  fc.nat().map(String),
  fc.constantFrom(
    '',
    '007',
    '1.2k',
    '$1,250',
    '12,50 €',
    'EUR 140',
    '-3',
    '999999999',
    '9999999999',
    '1 250',
    '12"',
    'x',
  ),
);
const words = (...all: string[]) => fc.constantFrom('', ...all, 'Ünknown "kind"');
const fields = fc.tuple(
  padded(domain),
  padded(words('pending delete', 'Redemption', 'dropped')),
  padded(date),
  padded(date),
  padded(date),
  padded(figure),
  padded(words('EUR', 'eur', 'USD')),
  padded(figure),
  padded(words('auction', 'Buy now', 'expired auction', 'BIN', 'back-order')),
  padded(words('Saltmarch Exchange', 'Thornabeck, Rooms', 'x'.repeat(100))),
  words('two\nlines', 'plain'),
  padded(figure),
  padded(figure),
  padded(figure),
  padded(figure),
  padded(figure),
  padded(figure),
  padded(figure),
);

const CODED = ['ending', 'venue', 'currency', 'cpcCurrency'];

/** Every row of a batch by its line, with words for their codes. */
function contents(parts: ListBatch[]): Map<number, Record<string, unknown>> {
  const rows = new Map<number, Record<string, unknown>>();
  for (const part of parts) addContents(part, rows);
  return rows;
}

function addContents(
  { nameBytes, nameEnd, words, ...columns }: ListBatch,
  rows: Map<number, Record<string, unknown>>,
): void {
  for (let r = 0; r < columns.count; r++) {
    const one: Record<string, unknown> = {
      name: new TextDecoder().decode(nameBytes.subarray(r === 0 ? 0 : nameEnd[r - 1], nameEnd[r])),
    };
    for (const [field, values] of Object.entries(columns))
      if (ArrayBuffer.isView(values)) {
        const value = (values as Uint16Array)[r];
        one[field] = CODED.includes(field) ? (words[value - 1] ?? null) : value;
      }
    for (const [n, figures] of columns.figures.entries()) one[LIST_FIGURES[n]] = figures[r] ?? null;
    rows.set(columns.line[r], one);
  }
}

describe('ListByteReader', () => {
  it('puts into a batch what the same rows give as texts, and leaves out the same for the same reasons', () => {
    fc.assert(
      fc.property(
        fc.array(fields, { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 5, max: 300 }),
        (rows, piece) => {
          const text = rows.map((row) => row.map((field) => (/[",\r\n]/.test(field) ? `"${field.replaceAll('"', '""')}"` : field)).join(',')).join('\r\n'); // biome-ignore format: one row after another
          const isExcluded = (end: string) => end === 'de';
          const left: Plain[] = [];
          const stated = statedFigures(COLUMNS, TOLD, SCORES_AT);
          const byTexts = new ListBatchBuilder(100, stated, SCORES_AT);
          for (const [line, given] of byText(text)) {
            const row = typeof given === 'string' ? given : new ListRowReader(COLUMNS, TOLD).read(given);
            if (typeof row === 'string') left.push([line, row]);
            else if (isExcluded(row.ending)) left.push([line, EXCLUDED]);
            else byTexts.add(row, line);
          }
          const leftByBytes: Plain[] = [];
          const builder = new ListBatchBuilder(100, stated, SCORES_AT);
          const reader = new ListByteReader(COLUMNS, isExcluded, TOLD, null, SCORES_AT);
          const table: CsvByteReader = new CsvByteReader(
            {
              row: () => {
                const reason = reader.take(table, builder);
                if (reason !== null) leftByBytes.push([table.line, reason]);
              },
              problem: (line, reason) => leftByBytes.push([line, reason]),
            },
            { delimiter: ',', headRows: 0, width: COLUMNS.length },
          );
          feed(text, piece, table);
          expect(leftByBytes).toEqual(left);
          expect(contents(builder.take(100))).toEqual(contents(byTexts.take(7)));
        },
      ),
      { numRuns: 1500 },
    );
  });

  it('knows every day that parseDate knows', () => {
    const table: CsvByteReader = new CsvByteReader(
      { row: () => reader.take(table, builder), problem: () => undefined },
      { delimiter: ',', headRows: 0, width: 2 },
    );
    const reader = new ListByteReader(['domain', 'drop-date'], () => false);
    const builder = new ListBatchBuilder(1 << 17);
    const first = Date.UTC(1969, 11, 20);
    const days = Array.from({ length: 84_500 }, (_, n) => new Date(first + n * 86_400_000).toISOString().slice(0, 10));
    feed(days.map((day) => csvLine(['pellgate.org', day])).join(''), 1 << 16, table);
    const [batch] = builder.take(1 << 20);
    for (let r = 0; r < batch.count; r++) {
      const at = new Date(days[batch.line[r] - 1]).getTime();
      if (at < 0 || at >= Date.UTC(2201)) expect(batch.dropAt[r]).toBeNaN();
      else if (batch.dropAt[r] !== at)
        expect([days[batch.line[r] - 1], batch.dropAt[r]]).toEqual([days[batch.line[r] - 1], at]);
    }
    expect(batch.count).toBe(days.length);
  });
});
