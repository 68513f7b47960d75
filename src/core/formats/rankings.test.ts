import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readRankings } from './rankings';

const HEADER = 'domain,phrase,position,searches,cpc,currency,competition,date\n';

describe('a list of phrases', () => {
  it('is read by its titles', () => {
    const { rankings, aside, problem } = readRankings(
      `${HEADER}www.pellgatehives.org,"bee hives, used",3,"1,200",0.45,EUR,40%,2026-01-31\n`,
    );
    expect({ aside, problem }).toEqual({ aside: [], problem: null });
    expect(rankings).toEqual([
      {
        line: 2,
        name: 'pellgatehives.org',
        phrase: 'bee hives, used',
        position: 3,
        searches: 1200,
        clickMinor: 45,
        currency: 'EUR',
        competition: 0.4,
        at: Date.UTC(2026, 0, 31),
      },
    ]);
  });

  it('needs no more than domain, phrase, position and searches', () => {
    const { rankings } = readRankings('Keyword;Pos;Search volume;Site\nskep yard;12;90;pellgatehives.org\n');
    expect(rankings).toMatchObject([{ phrase: 'skep yard', position: 12, clickMinor: 0, competition: null, at: null }]);
  });

  it.each([
    ['not a domain,a,1,10', 'no registrable domain'],
    ['pellgatehives.org,,1,10', 'no phrase'],
    ['pellgatehives.org,a,0,10', 'no place'],
    ['pellgatehives.org,a,1,many', 'no number of searches'],
    ['pellgatehives.org,a,1,10,dear', 'no price'],
  ])('sets %s aside with its reason', (row, reason) => {
    const { rankings, aside } = readRankings(`${HEADER}${row}\npellgatehives.org,good,1,10\n`);
    expect(rankings).toHaveLength(1);
    expect(aside).toMatchObject([{ line: 2, reason: expect.stringContaining(reason) }]);
  });

  it('says which columns it misses', () => {
    expect(readRankings('domain,price\na.org,3\n').problem).toBe(
      'No line of titles names a column for phrase, position, searches.',
    );
  });

  it('takes or sets aside every row, whatever is in it', () => {
    const cell = fc.string({ unit: fc.constantFrom('a', '.', '1', ' ', '€', '%', '-'), maxLength: 12 });
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell, cell, cell), { maxLength: 15 }), (rows) => {
        const text = rows.map((row) => row.map((one) => `"${one}"`).join(',')).join('\n');
        const { rankings, aside } = readRankings(`${HEADER}${text}`);
        expect(rankings.length + aside.length).toBe(rows.length);
      }),
    );
  });
});
