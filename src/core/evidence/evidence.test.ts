import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrange, type EvidenceRow, type TableColumn } from './arrange';
import { factWords } from './fact-words';

const COLUMNS: TableColumn[] = [
  { key: 'site', title: 'Site', type: 'text' },
  { key: 'pages', title: 'Pages', type: 'number' },
];
const rows: EvidenceRow[] = [
  { cells: ['tarn.org', 3], note: 'all links nofollow' },
  { cells: ['Fell.org', null] },
  { cells: ['vale.com', 12] },
];
const names = (found: EvidenceRow[]) => found.map(({ cells }) => cells[0]);
const ask = { sort: null, descending: false, filter: '' };

describe('rows of evidence', () => {
  it('are sorted by number or letters, what is not known last either way', () => {
    expect(names(arrange(rows, COLUMNS, { ...ask, sort: 'pages' }))).toEqual(['tarn.org', 'vale.com', 'Fell.org']);
    expect(names(arrange(rows, COLUMNS, { ...ask, sort: 'pages', descending: true }))).toEqual([
      'vale.com',
      'tarn.org',
      'Fell.org',
    ]);
    expect(names(arrange(rows, COLUMNS, { ...ask, sort: 'site' }))).toEqual(['Fell.org', 'tarn.org', 'vale.com']);
  });

  it('keep their order where no column is named, or one that is not there', () => {
    expect(arrange(rows, COLUMNS, ask)).toEqual(rows);
    expect(arrange(rows, COLUMNS, { ...ask, sort: 'nonsense' })).toEqual(rows);
  });

  it('are found by letters of any text and of the note, all words of them', () => {
    expect(names(arrange(rows, COLUMNS, { ...ask, filter: 'ORG' }))).toEqual(['tarn.org', 'Fell.org']);
    expect(names(arrange(rows, COLUMNS, { ...ask, filter: 'nofollow tarn' }))).toEqual(['tarn.org']);
    expect(arrange(rows, COLUMNS, { ...ask, filter: 'nofollow vale' })).toEqual([]);
  });

  it('are the same rows however they are sorted', () => {
    const cell = fc.option(fc.oneof(fc.integer(), fc.string()));
    fc.assert(
      fc.property(
        fc.array(fc.tuple(cell, cell)),
        fc.constantFrom('site', 'pages'),
        fc.boolean(),
        (cells, sort, descending) => {
          const given = cells.map((pair): EvidenceRow => ({ cells: pair }));
          const sorted = arrange(given, COLUMNS, { ...ask, sort, descending });
          expect(new Set(sorted)).toEqual(new Set(given));
          const place = sort === 'site' ? 0 : 1;
          const firstUnknown = sorted.findIndex((row) => row.cells[place] === null);
          if (firstUnknown >= 0)
            expect(sorted.slice(firstUnknown).every((row) => row.cells[place] === null)).toBe(true);
        },
      ),
    );
  });
});

describe('values of facts in words', () => {
  it.each([
    ['registered_at', Date.parse('2012-03-04T10:00:00Z'), '2012-03-04'],
    ['strength', 17.2345, '17.2'],
    ['statuses', '["pending delete","redemption period"]', 'pending delete, redemption period'],
    ['name_servers', '[]', 'none'],
    ['name_servers', 'not json', 'not json'],
    ['language', 'de', 'German'],
    ['phase', 'pending-delete', 'pending delete'],
    ['referring_domains', 12345, '12,345'],
    ['registrar', null, 'none'],
  ])('%s %s', (fact, value, words) => {
    expect(factWords(fact, value)).toBe(words);
  });
});
