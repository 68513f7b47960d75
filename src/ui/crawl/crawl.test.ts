import { describe, expect, it } from 'vitest';
import type { CrawlSample } from '../../contracts/crawl';
import type { SiteYield } from '../../contracts/sources';
import { paceOf } from './pace';
import { suggestDeeper } from './suggest';

const sample = (seconds: number, pages: number, finds: number): CrawlSample => ({
  at: seconds * 1000,
  pages,
  finds,
  queued: 0,
  domains: 0,
});

describe('paceOf', () => {
  it('turns totals into rates, and leaves pauses out of the time', () => {
    const pace = paceOf([
      sample(0, 0, 0),
      sample(2, 40, 4),
      sample(4, 100, 4),
      sample(1000, 100, 4),
      sample(1002, 120, 5),
    ]);
    expect(pace.map(({ pagesPerSecond }) => pagesPerSecond)).toEqual([0, 20, 30, 0, 10]);
    expect(pace.at(-1)?.minutes).toBeCloseTo(6 / 60);
    expect(pace[1].findsPer1000).toBe(100);
    expect(pace[2].findsPer1000).toBe(40);
  });
  it('says nothing of finds over a handful of pages', () => {
    expect(paceOf([sample(0, 0, 0), sample(2, 5, 5)])[1].findsPer1000).toBeNull();
    expect(paceOf([])).toEqual([]);
  });
});

describe('suggestDeeper', () => {
  const site = (name: string, more: Partial<SiteYield>): SiteYield => ({
    site: name,
    state: 'reading',
    pages: 50,
    queued: 0,
    beyond: 30,
    lapsed: 0,
    failed: 0,
    challenges: 0,
    domains: 0,
    note: null,
    ...more,
  });
  it('names sites that gave more than the whole and have pages left, best first', () => {
    const sites = [
      site('good.org', { lapsed: 20 }),
      site('better.org', { lapsed: 30, queued: 5 }),
      site('dry.org', {}),
      site('read-out.org', { lapsed: 40, beyond: 0 }),
      site('dropped.org', { lapsed: 40, state: 'dropped' }),
      site('hardly-read.org', { lapsed: 2, pages: 2 }),
    ];
    expect(suggestDeeper(sites)).toEqual(
      [
        { site: 'better.org', per100: 60, left: 35 },
        // two of five, which is not above the average of all
      ].concat([]),
    );
    expect(suggestDeeper([])).toEqual([]);
  });
});
