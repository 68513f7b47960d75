import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatView, type SievePart } from '../pool/conditions';
import { subjectSpokenOf } from '../topics/subjects';
import { type LineVocabulary, readLine } from './read-line';

const NOW = Date.UTC(2026, 10, 20);
const TLDS = new Set(['com', 'org', 'net', 'de', 'co.uk', 'uk', 'info', 'shop', 'in', 'it', 'me', 'eu', 'io']);
const VOCABULARY: LineVocabulary = {
  isTld: (text) => TLDS.has(text),
  subjectOf: subjectSpokenOf,
  languages: [
    { code: 'en', name: 'English' },
    { code: 'de', name: 'German' },
  ],
  venues: ['Saltmarch Exchange', 'Quayside Lots'],
  tags: [{ id: 3, name: 'ask Nell' }],
  sources: [{ id: 9, name: 'Saltmarch drops' }],
  currency: 'EUR',
  now: NOW,
};
const read = (line: string) => readLine(line, VOCABULARY);
/** Conditions as an address has them. */
const conditions = (parts: SievePart[]) => formatView({ parts, sorts: [], columns: null }).getAll('c');
const said = (line: string) => conditions(read(line).parts.map(({ part }) => part));
const unknown = (line: string) => read(line).unknown.map(({ text }) => text);

describe('a line that is typed', () => {
  it('becomes conditions, each with the words it comes from', () => {
    const line = 'free org over 10 years, 20+ referring domains, about bees, under 50 EUR';
    const { parts, unknown: not } = read(line);
    expect(parts.map(({ start, end }) => line.slice(start, end))).toEqual([
      'free',
      'org',
      'over 10 years',
      '20+ referring domains',
      'about bees',
      'under 50 EUR',
    ]);
    expect(conditions(parts.map(({ part }) => part)).slice(0, 4)).toEqual([
      'phase:free',
      'ending:org',
      'age:10..',
      'referringDomains:20..',
    ]);
    expect(parts[4].part).toMatchObject({
      type: 'group',
      mode: 'any',
      parts: [
        { fact: 'name', mode: 'wordish', values: ['bees'] },
        { fact: 'nameSubject', values: ['Beekeeping'] },
        { fact: 'subject', values: ['Beekeeping'] },
      ],
    });
    expect(parts[5].part).toMatchObject({ fact: 'price', min: null, max: 50 });
    expect(not).toEqual([]);
  });

  it.each([
    ['available or pending delete', ['phase:free,pending-delete']],
    ['lapsed .com .co.uk', ['phase:free,pending-delete,redemption', 'ending:com,co.uk']],
    ['not com, not net', ['ending:!com,net']],
    ['in redemption', ['phase:redemption']],
    ['registered', ['phase:active']],
    ['trust at least 12', ['trust:12..']],
    ['trust > 12 and strength >= 8.5', ['trust:12..', 'strength:8.5..']],
    ['spam risk under 20', ['spamRisk:..20']],
    ['spam <= 20', ['spamRisk:..20']],
    ['spam 20', ['spamRisk:..20']],
    ['5 to 10 letters', ['length:5..10']],
    ['5-letter', ['length:5..5']],
    ['between 4 and 8 characters', ['length:4..8']],
    ['up to 14 characters', ['length:..14']],
    ['2 words', ['words:2..2']],
    ['at most 2 words, no hyphens, no digits', ['words:..2', 'hyphens:..0', 'digits:..0']],
    ['without numbers', ['digits:..0']],
    ['10 years old', ['age:10..']],
    ['18 months or more', ['age:1.5..']],
    ['older than 5 years', ['age:5..']],
    ['age 5-10 years', ['age:5..10']],
    ['age over 18 months', ['age:1.5..']],
    ['registered before 2010', ['age:16.88..']],
    ['1,200 backlinks', ['backlinks:1200..']],
    ['10k+ backlinks', ['backlinks:10000..']],
    ['100 RD', ['referringDomains:100..']],
    ['referring domains: 30+', ['referringDomains:30..']],
    ['€50 to 100', ['price:50..100']],
    ['€50', ['price:..50']],
    ['price under 80', ['price:..80']],
    ['20 to 60 euros', ['price:20..60']],
    ['closing in 2 days', ['closing:..48']],
    ['closing today', ['closing:..24']],
    ['drops this week', ['drop:..7']],
    ['drops within 3 days', ['drop:..3']],
    ['expires within a month', ['expires:..30.42']],
    ['2 drops', ['drops:2..2']],
    ['never dropped', ['drops:..0']],
    ['no trademarks', ['wordMarks:..0']],
    ['no bids', ['bids:..0']],
    ['auctions at Saltmarch Exchange', ['listing:auction,expired-auction', 'venue:Saltmarch%20Exchange']],
    ['buy now or backorder', ['listing:buy-now,backorder']],
    ['English or German', ['language:en,de']],
    ['containing bee or hive', ['name:contains=bee,hive']],
    ['"honey"', ['name:contains=honey']],
    ['starting with the', ['name:starts=the']],
    ['ends in shop', ['name:ends=shop']],
    ['not containing casino', ['name:!contains=casino']],
    ['tagged ask nell', ['tag:3']],
    ['found in saltmarch drops', ['source:9']],
    ['unjudged', ['judged:not-yet']],
    ['not judged', ['judged:not-yet']],
    ['registrar Coombe Names, com', ['registrar:Coombe%20Names', 'ending:com']],
    ['show me all available domains with 3+ captures, please', ['phase:free', 'captures:3..']],
  ])('"%s"', (line, expected) => {
    expect([said(line), unknown(line)]).toEqual([expected, []]);
  });

  it('says in which order', () => {
    const sorts = (line: string) => read(line).sorts.map(({ fact, descending }) => `${fact} ${descending}`);
    expect(sorts('free com by trust')).toEqual(['trust true']);
    expect(sorts('cheapest first, sorted by age up')).toEqual(['price false', 'age false']);
    expect(sorts('sort by price, ordered by closing')).toEqual(['price false', 'closing false']);
    expect(sorts('shortest')).toEqual(['length false']);
  });

  it('tells what it does not understand, words that belong together as one, and guesses nothing', () => {
    expect(unknown('free wobbly things, trust over 5')).toEqual(['wobbly things']);
    expect(read('free wobbly').unknown).toEqual([{ text: 'wobbly', start: 5, end: 11, reason: null }]);
    // a figure of nothing, a TLD that is none, a venue nobody knows
    expect(unknown('42, .zzz, at Nowhere Lots')).toEqual(['42', '.zzz', 'Nowhere Lots']);
    expect(said('42')).toEqual([]);
    // words of the language are no TLDs without their dot
    expect(said('in it')).toEqual([]);
    expect(said('.in .it')).toEqual(['ending:in,it']);
    expect(read('under 50 USD')).toMatchObject({
      parts: [],
      unknown: [{ text: 'under 50 USD', reason: 'prices are compared in EUR, your own currency' }],
    });
  });

  it('takes a subject that nobody lists as a word of the name', () => {
    expect(said('about zeppelins')).toEqual(['name:wordish=zeppelins']);
  });

  it('reads any text without failing, tells every word once, and conditions never overlap', () => {
    const word = fc.constantFrom(
      'free', 'org', 'over', '10', 'years', ',', '20+', 'referring', 'domains', 'about', 'bees', 'under', 'EUR', '€', 'not', 'or',
      'to', '-', 'closing', 'in', 'days', 'sorted', 'by', 'trust', '"x y"', '.com', 'xyzzy', 'between', 'and', '>', '=', 'tagged',
    ); // biome-ignore format: words
    fc.assert(
      fc.property(
        fc.oneof(
          fc.array(word, { maxLength: 14 }).map((words) => words.join(' ')),
          fc.string({ unit: 'grapheme' }),
        ),
        (line) => {
          const { parts, unknown: not } = read(line);
          const spans = [...parts, ...not].map(({ start, end }) => [start, end]).sort(([a], [b]) => a - b);
          for (const [n, [start, end]] of spans.entries()) {
            expect(end).toBeGreaterThan(start);
            expect(end).toBeLessThanOrEqual(line.length);
            if (n > 0) expect(start).toBeGreaterThanOrEqual(spans[n - 1][1]);
          }
          for (const { text, start, end } of not) expect(line.slice(start, end)).toBe(text);
        },
      ),
      { numRuns: 600 },
    );
  });
});

describe('the subject that words speak of', () => {
  it('is the one with that title, or the only one that they tell', () => {
    expect(subjectSpokenOf('Beekeeping')).toBe('Beekeeping');
    expect(subjectSpokenOf('bees')).toBe('Beekeeping');
    expect(subjectSpokenOf('zeppelins')).toBeNull();
  });
});
