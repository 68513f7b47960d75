import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { forecast, type TrialSample } from './forecast';

const addresses = (from: number, count: number) => Array.from({ length: count }, (_, i) => `/p${from + i}`);
const sample = (more: Partial<TrialSample> = {}): TrialSample => ({
  homeLinks: 4,
  levels: [],
  read: [{ depth: 0, outside: ['a.org', 'b.org'], isChosen: false }],
  failed: 0,
  msPerPage: 100,
  delayMs: 900,
  ...more,
});
const within = (value: number, { low, high }: { low: number; high: number }) => {
  expect(low).toBeLessThanOrEqual(value);
  expect(high).toBeGreaterThanOrEqual(value);
};

describe('forecast', () => {
  it('counts the home page and what it links to', () => {
    const [home, first] = forecast(sample({ homeLinks: 30 }));
    expect(home.pages).toEqual({ low: 1, high: 1 });
    expect(first.pages).toEqual({ low: 31, high: 31 });
  });

  it('lets a page stand for those that look like it', () => {
    // four sections, one of them read, each of 24 pages that nothing else links to
    const two = forecast(sample({ levels: [[{ standsFor: 4, fresh: addresses(0, 24) }]] }))[2];
    within(1 + 4 + 96, two.pages);
    expect(two.pages.low).toBeGreaterThan(40);
    expect(two.pages.high).toBeLessThan(150);
  });

  it('believes what was seen where the samples overlap', () => {
    const same = addresses(0, 20);
    const levels = [
      [
        { standsFor: 2, fresh: same },
        { standsFor: 2, fresh: same },
      ],
    ];
    const [, , two] = forecast(sample({ levels }));
    expect(two.pages.low).toBeLessThan(45);
    within(25, two.pages);
  });

  it('ends where nothing new was seen', () => {
    const all = forecast(sample({ levels: [[{ standsFor: 4, fresh: [] }]] }));
    expect(all.map(({ pages }) => pages)).toEqual([1, 5, 5, 5, 5].map((pages) => ({ low: pages, high: pages })));
  });

  it('does not pretend to know levels that it did not see', () => {
    const all = forecast(sample({ levels: [[{ standsFor: 4, fresh: addresses(0, 10) }]] }));
    expect(all[3].pages.low).toBe(all[2].pages.low);
    expect(all[3].pages.high).toBeGreaterThan(all[2].pages.high);
  });

  it('takes the pause between requests into the time', () => {
    const [, slow] = forecast(sample({ homeLinks: 59 }));
    within(60, slow.seconds);
    const [, quick] = forecast(sample({ homeLinks: 59, delayMs: 0 }));
    expect(quick.seconds.high).toBeLessThan(slow.seconds.low);
  });

  describe('of outside domains', () => {
    const page = (depth: number, ...outside: string[]) => ({ depth, outside, isChosen: false });
    const pages = (count: number, named: (n: number) => string[]) =>
      Array.from({ length: count }, (_, n) => page(1, ...named(n)));

    it('says what was seen where every page was read', () => {
      const read = [page(0, 'a.org'), page(1, 'a.org', 'b.org'), page(1, 'c.org')];
      const [home, first] = forecast(sample({ homeLinks: 2, levels: [], read }));
      expect(home.domains).toEqual({ low: 1, high: 1 });
      expect(first.domains).toEqual({ low: 3, high: 3 });
    });

    it('expects few more where all pages name the same, and many where each names others', () => {
      const same = forecast(
        sample({ homeLinks: 200, read: [page(0), ...pages(18, () => ['a.org', 'b.org', 'c.org'])] }),
      )[1].domains;
      const other = forecast(
        sample({ homeLinks: 200, read: [page(0), ...pages(18, (n) => [`a${n}.org`, `b${n}.org`, `c${n}.org`])] }),
      )[1].domains;
      expect(same.high).toBeLessThan(20);
      expect(other.low).toBeGreaterThan(80);
    });

    it('is never more than four times as wide as it begins, of small sites too', () => {
      for (let names = 0; names < 60; names++) {
        const read = [page(0), ...pages(18, (n) => (n < names % 19 ? [`a${n}.org`, `b${names}.org`] : []))];
        for (const homeLinks of [20, 60, 400]) {
          const { low, high } = forecast(sample({ homeLinks, read }))[1].domains;
          expect(high).toBeLessThanOrEqual(4 * Math.max(1, low));
        }
      }
    });

    it('expects nothing of addresses that are no pages', () => {
      const read = [page(0), ...pages(9, (n) => [`a${n}.org`])];
      const all = forecast(sample({ homeLinks: 200, read }))[1].domains;
      const half = forecast(sample({ homeLinks: 200, read, failed: 10 }))[1].domains;
      expect(half.high).toBeLessThan(all.high);
    });

    it('counts a page of links with what it names, and does not take the others to be like it', () => {
      const names = Array.from({ length: 60 }, (_, n) => `friend${n}.org`);
      const read = [page(0), ...pages(17, () => ['a.org']), { depth: 1, outside: names, isChosen: true }];
      const { domains } = forecast(sample({ homeLinks: 200, read }))[1];
      expect(domains.low).toBeGreaterThanOrEqual(61);
      expect(domains.high).toBeLessThan(180);
    });
  });

  it('is always a range, grows with depth, and stays finite', () => {
    const page = fc.record({
      standsFor: fc.integer({ min: 1, max: 500 }),
      fresh: fc.array(
        fc.integer({ min: 0, max: 60 }).map((n) => `/p${n}`),
        { maxLength: 40 },
      ),
    });
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 500 }),
        fc.array(fc.array(page, { maxLength: 5 }), { maxLength: 3 }),
        fc.array(
          fc.array(
            fc.integer({ min: 0, max: 99 }).map((n) => `d${n}.org`),
            { maxLength: 9 },
          ),
          { maxLength: 9 },
        ),
        (homeLinks, levels, outside) => {
          const read = outside.map((names, n) => ({
            depth: Math.min(n, 3),
            outside: [...new Set(names)],
            isChosen: n % 3 === 2,
          }));
          const all = forecast(sample({ homeLinks, levels, read }));
          expect(all).toHaveLength(5);
          all.forEach(({ pages, seconds, domains }, depth) => {
            for (const { low, high } of [pages, seconds, domains]) {
              expect(low).toBeGreaterThanOrEqual(0);
              expect(high).toBeGreaterThanOrEqual(low);
              expect(Number.isSafeInteger(high)).toBe(true);
            }
            if (depth > 0) expect(pages.low).toBeGreaterThanOrEqual(all[depth - 1].pages.low);
          });
        },
      ),
    );
  });
});
