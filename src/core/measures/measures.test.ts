import { describe, expect, it } from 'vitest';
import { chooseCount, disagreement, readCountRule, type SourceCount } from './counts';
import { type MeasureCandidate, planMeasures } from './plan';

const DAY = 86_400_000;
const NOW = Date.UTC(2026, 10, 20);
const count = (source: string, referringDomains: number | null, more: Partial<SourceCount> = {}): SourceCount => ({
  sourceId: source.length,
  source,
  kind: 'links',
  at: NOW,
  backlinks: referringDomains,
  referringDomains,
  nofollow: 0,
  coverage: 1000,
  ...more,
});

describe('chooseCount', () => {
  const counts = [count('old', 90, { at: NOW - 400 * DAY }), count('new', 30), count('silent', null)];
  const together = { backlinks: 200, referringDomains: 100 };
  it.each([
    ['together', 100, '3 sources together'],
    ['largest', 90, 'old'],
    ['newest', 30, 'new'],
    ['source:new', 30, 'new'],
    ['source:silent', 100, '3 sources together'],
    ['source:nobody', 100, '3 sources together'],
    ['nonsense', 100, '3 sources together'],
  ])('by %s', (rule, referringDomains, from) => {
    expect(chooseCount(counts, together, readCountRule(rule))).toMatchObject({ referringDomains, from });
  });
});

describe('disagreement', () => {
  it('is none within the factor, or with one figure', () => {
    expect(disagreement([count('a', 30), count('b', 11)], 3)).toBeNull();
    expect(disagreement([count('a', 30), count('b', null)], 3)).toBeNull();
  });
  it.each([
    ['a crawl', count('b', 2, { kind: 'crawl' }), 'it knows only the pages it read'],
    ['an old date', count('b', 2, { at: NOW - 300 * DAY }), 'b is 300 days older: links may have come since'],
    ['a small index', count('b', 2, { coverage: 20 }), 'a knows 50 times as many links'],
    ['nofollow', count('b', 2), 'a counts nofollow links'],
    ['pages of few sites', count('b', 2, { backlinks: 800, nofollow: 800 }), 'b lists many pages of few sites'],
  ])('names %s as the cause', (_, other, cause) => {
    const found = disagreement([count('a', 40, { nofollow: 30 }), other], 3);
    expect(found).toMatchObject({ factor: 20, most: 'a', least: 'b' });
    expect(found?.causes.join('; ')).toContain(cause);
  });
  it('leaves a crawl out where two others can be compared', () => {
    const crawl = count('crawl', 1, { kind: 'crawl' });
    expect(disagreement([count('a', 40), count('b', 30), crawl], 3)).toBeNull();
    expect(disagreement([count('a', 40), count('b', 2), crawl], 3)).toMatchObject({ least: 'b' });
  });
  it('says when nothing explains it', () => {
    expect(disagreement([count('a', 40), count('b', 2)], 3)?.causes[0]).toContain(
      'neither date, coverage nor nofollow',
    );
  });
});

describe('planMeasures', () => {
  const never = { captures: null, forwarding: null, referrers: null, marks: null };
  const candidate = (part: Partial<MeasureCandidate> = {}): MeasureCandidate => ({
    name: 'beeclub.org', referringDomains: 20, strength: 30, spamRisk: 10, captures: 40, shortlisted: false, isByHand: false, takenAt: never, ...part,
  }); // biome-ignore format: a row
  const gate = { leastReferring: 3, mostSpamRisk: 70 };

  it('keeps costly measures behind what the links say', () => {
    expect(planMeasures(candidate({ referringDomains: 2 }), gate, NOW)).toMatchObject({
      measures: [],
      why: 'fewer than 3 referring domains are known',
    });
    expect(planMeasures(candidate({ spamRisk: 71 }), gate, NOW)).toMatchObject({
      measures: [],
      why: 'its spam risk is over 70 already',
    });
    expect(planMeasures(candidate({ spamRisk: 71, shortlisted: true }), gate, NOW).measures).toHaveLength(4);
    expect(planMeasures(candidate({ referringDomains: null, isByHand: true }), gate, NOW).why).toContain(
      'asked for by hand',
    );
  });
  it('takes again what is no longer fresh, and nothing else', () => {
    const takenAt = {
      captures: NOW - 10 * DAY,
      forwarding: NOW - 31 * DAY,
      referrers: NOW - 10 * DAY,
      marks: NOW - 10 * DAY,
    };
    expect(planMeasures(candidate({ takenAt }), gate, NOW)).toMatchObject({ measures: ['forwarding'], cost: 1 });
    expect(planMeasures(candidate({ takenAt: { ...takenAt, forwarding: NOW } }), gate, NOW).why).toBe(
      'everything is fresh',
    );
  });
  it('puts what promises most for its cost first', () => {
    const worth = (part: Partial<MeasureCandidate>) => planMeasures(candidate(part), gate, NOW).worth;
    expect(worth({ isByHand: true })).toBeGreaterThan(worth({ shortlisted: true }));
    expect(worth({ shortlisted: true })).toBeGreaterThan(worth({ strength: 90 }));
    expect(worth({ strength: 40 })).toBeGreaterThan(worth({ strength: 30 }));
    expect(planMeasures(candidate({ referringDomains: 5000 }), gate, NOW).cost).toBeLessThan(500);
  });
});
