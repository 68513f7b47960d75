import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ReferrerCuts } from './referrer-fields';
import { cutBy, guessReferrerColumns, headerKey, type Referrer, readReferrer, referrerHead } from './referrers';

const NOW = Date.UTC(2026, 10, 20);
const NO_CUTS: ReferrerCuts = {
  leastStrength: null,
  seenWithinDays: null,
  endingsOut: [],
  countries: [],
  languages: [],
  family: null,
  keepUnknown: true,
};
const referrer = (more: Partial<Referrer> = {}): Referrer => ({
  name: 'pellgate.co.uk',
  ending: 'co.uk',
  strength: 30,
  lastSeenAt: NOW - 10 * 86_400_000,
  country: 'gb',
  language: 'en',
  family: 4,
  links: 3,
  ...more,
});

describe('guessReferrerColumns', () => {
  it.each([
    [['Referring domain', 'Strength', 'Last seen', 'Country', 'Language', 'IP'], ['domain', 'strength', 'last-seen', 'country', 'language', 'address']],
    [['Source URL', 'Rank', 'Links'], ['domain', 'strength', 'links']],
    [['host', 'host', 'remark'], ['domain', 'ignore', 'ignore']],
  ])('%j', (header, columns) => {
    expect(guessReferrerColumns(header)).toEqual(columns);
  }); // biome-ignore format: a header a line

  it('finds a header again whatever its case and spacing', () => {
    expect(headerKey(['Referring  Domain ', 'IP'])).toBe(headerKey(['referring domain', 'ip']));
    expect(headerKey(['a', 'b'])).not.toBe(headerKey(['b', 'a']));
  });
});

describe('readReferrer', () => {
  const columns = ['domain', 'strength', 'last-seen', 'country', 'language', 'address'] as const;
  it('reads what a row says', () => {
    expect(
      readReferrer(['http://www.Pellgate.co.uk/links', '30', '2026-11-10', 'GB', 'en-GB', '127.4.4.4'], columns),
    ).toMatchObject({
      name: 'pellgate.co.uk',
      strength: 30,
      lastSeenAt: Date.UTC(2026, 10, 10),
      country: 'gb',
      language: 'en',
      family: 4,
      links: null,
    });
    expect(readReferrer(['pellgate.org', '', '', 'Great Britain', '', '::1'], columns)).toMatchObject({
      strength: null,
      country: null,
      family: 6,
    });
  });
  it.each([
    ['127.4.4.4', 'a bare address, not a domain'],
    ['http://127.4.4.4:8080/x', 'a bare address, not a domain'],
    ['[::1]', 'a bare address, not a domain'],
    ['::1', 'a bare address, not a domain'],
    ['', 'the row names no domain'],
    ['not a domain', '"not a domain" is no registrable domain'],
    ['co.uk', '"co.uk" is no registrable domain'],
  ])('sets %j aside', (text, reason) => {
    expect(readReferrer([text], columns)).toMatchObject({ aside: reason });
  });
  it('never throws, whatever stands in a row', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ unit: 'binary', maxLength: 40 }), { maxLength: 8 }), (fields) => {
        const read = readReferrer(fields, columns);
        expect('aside' in read || read.name.endsWith(read.ending)).toBe(true);
      }),
    );
  });
});

describe('cutBy', () => {
  it.each([
    [{ leastStrength: 31 }, 'strength'],
    [{ leastStrength: 30 }, null],
    [{ seenWithinDays: 9 }, 'last seen'],
    [{ seenWithinDays: 10 }, null],
    [{ endingsOut: ['uk'] }, 'ending'],
    [{ endingsOut: ['co.uk'] }, 'ending'],
    [{ endingsOut: ['org'] }, null],
    [{ countries: ['de', 'fr'] }, 'country'],
    [{ countries: ['gb'] }, null],
    [{ languages: ['de'] }, 'language'],
    [{ family: 6 as const }, 'address family'],
    [{ leastStrength: 31, languages: ['de'] }, 'strength'],
  ])('%j keeps out by %s', (cuts, expected) => {
    expect(cutBy(referrer(), { ...NO_CUTS, ...cuts }, NOW)).toBe(expected);
  });
  it('keeps rows that do not say, or not, as asked', () => {
    const silent = referrer({ strength: null, lastSeenAt: null, country: null, language: null, family: null });
    const cuts: ReferrerCuts = {
      ...NO_CUTS,
      leastStrength: 5,
      seenWithinDays: 5,
      countries: ['gb'],
      languages: ['en'],
      family: 4,
    };
    expect(cutBy(silent, cuts, NOW)).toBeNull();
    expect(cutBy(silent, { ...cuts, keepUnknown: false }, NOW)).toBe('strength');
    expect(cutBy(silent, { ...NO_CUTS, keepUnknown: false }, NOW)).toBeNull();
  });
});

describe('referrerHead', () => {
  const rows = (text: string) => text.split('\n').map((line) => line.split(','));
  it.each([
    ['titles at the top', 'Domain,Score\na.org,4\nb.org,5', 1, ['Domain', 'Score']],
    [
      'lines above the titles',
      'Referrers of a rival\nas of,today\nDomain,Score\na.org,4\nb.org,5',
      3,
      ['Domain', 'Score'],
    ],
    ['titles that nobody knows', 'Wer,Wie viel\na.org,4\nb.org,5', 1, ['Wer', 'Wie viel']],
    ['no titles at all', 'a.org,4\nb.org,5', 0, ['', '']],
    ['a row of nonsense first', 'Domain,Score\nnonsense,1\na.org,4\nb.org,5', 1, ['Domain', 'Score']],
    ['no domain anywhere', 'Domain,Score\nx,1\ny,2', 1, ['Domain', 'Score']],
  ])('finds where rows begin: %s', (_, text, headRows, header) => {
    expect(referrerHead(rows(text))).toEqual({ headRows, header });
  });
});
