import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { parse } from 'tldts';
import { beforeAll, describe, expect, it } from 'vitest';
import { domainAt, type LargeDomain, MOST_DOMAINS, writeLargeWorld } from './large-world';

const NOW = Date.UTC(2026, 10, 20, 8);
const DOMAINS = 20_000;
const OPTIONS = { domains: DOMAINS, seed: 7, now: NOW };
const world = Array.from({ length: DOMAINS }, (_, index) => domainAt(index, 7, NOW));
const share = (test: (domain: LargeDomain) => boolean) => world.filter(test).length / DOMAINS;

describe('the domains of a large world', () => {
  it('are all different, and registrable', () => {
    expect(new Set(world.map(({ name }) => name)).size).toBe(DOMAINS);
    for (const { name, ending } of world.slice(0, 2000))
      expect(parse(name)).toMatchObject({ domain: name, publicSuffix: ending });
  });

  it('are different also where labels come again with another ending', () => {
    const labels = MOST_DOMAINS / 8;
    const names = new Set<string>();
    for (let index = 0; index < 500; index++)
      for (let round = 0; round < 8; round++) names.add(domainAt(round * labels + index, 7, NOW).name);
    expect(names.size).toBe(4000);
    expect(() => domainAt(MOST_DOMAINS, 7, NOW)).toThrow(RangeError);
  });

  it('follow from the seed', () => {
    expect(domainAt(123, 7, NOW)).toEqual(world[123]);
    expect(domainAt(123, 8, NOW).name).not.toBe(world[123].name);
  });

  it('are worth little for the most part, with few that hold most of the links', () => {
    expect(share(({ referrers }) => referrers === 0)).toBeGreaterThan(0.5);
    const sorted = world.map(({ referrers }) => referrers).sort((a, b) => b - a);
    const sum = sorted.reduce((total, count) => total + count, 0);
    const top = sorted.slice(0, DOMAINS / 100).reduce((total, count) => total + count, 0);
    expect(top / sum).toBeGreaterThan(0.4);
    const prices = world.map(({ worthMinor }) => worthMinor).sort((a, b) => a - b);
    const median = prices[DOMAINS / 2];
    expect(median).toBeLessThan(4000);
    expect(prices[Math.floor(DOMAINS * 0.999)]).toBeGreaterThan(20 * median);
  });

  it('are in every phase, and not everything is known of them', () => {
    for (const phase of ['active', 'auto-renew', 'redemption', 'pending-delete', 'free'] as const)
      expect(share((domain) => domain.phase === phase)).toBeGreaterThan(0.1);
    expect(share(({ isAgeKnown }) => !isAgeKnown)).toBeGreaterThan(0.15);
    expect(share(({ ending }) => ending === 'com')).toBeGreaterThan(0.3);
  });
});

describe('the files of a large world', () => {
  const folder = mkdtempSync(join(tmpdir(), 'large-'));
  const text = (name: string) => {
    const bytes = readFileSync(join(folder, name));
    return (name.endsWith('.gz') ? gunzipSync(bytes) : bytes).toString('utf8');
  };
  const lines = (name: string) => text(name).trim().split(/\r?\n/);
  beforeAll(() => writeLargeWorld(folder, OPTIONS), 60_000);

  it('list what drops and what has expired, each in its own way', () => {
    const drops = lines('drop-list.csv');
    const dropping = world.filter(({ phase }) => phase === 'pending-delete' || phase === 'free');
    expect(drops).toHaveLength(dropping.length + 1);
    expect(drops[1].split(',')[0]).toBe(dropping[0].name);
    const expired = lines('expired-list.tsv.gz');
    expect(expired[0].split('\t')).toHaveLength(5);
    expect(expired.some((line) => /\t\d\d\.\d\d\.\d{4}\t\d+\.\dk/.test(line))).toBe(true);
    expect(expired).toHaveLength(world.filter(({ lateDays }) => lateDays >= 0 && lateDays < 65).length + 1);
  });

  it('offer at two venues, some names at both', () => {
    const feed = JSON.parse(text('saltmarch-listings.json'));
    const kinds = new Set(feed.listings.map(({ kind }: { kind: string }) => kind));
    expect([...kinds].sort()).toEqual(['auction', 'backorder', 'buy-now', 'expired-auction', 'falling', 'offer']);
    const lots = lines('quayside-lots.csv')
      .slice(1)
      .map((line) => line.split(';')[0]);
    const both = new Set(feed.listings.map(({ domain }: { domain: string }) => domain));
    expect(lots.filter((name) => both.has(name)).length).toBeGreaterThan(3);
  });

  it('hold the zone a month apart: what is gone had expired meanwhile', () => {
    const names = (file: string) => new Set([...text(file).matchAll(/^([a-z0-9]+) IN NS/gm)].map(([, label]) => label));
    const [older, newer] = [names('zone-org-older.gz'), names('zone-org-newer.gz')];
    const gone = [...older].filter((label) => !newer.has(label));
    const expected = world.filter(({ ending, lateDays }) => ending === 'org' && lateDays >= 35 && lateDays < 65);
    expect(gone.sort()).toEqual(expected.map(({ name }) => name.slice(0, -4)).sort());
  });

  it('hold the links of a crawl, half of them within a site', () => {
    const rows = lines('link-export.csv.gz').slice(1);
    expect(rows).toHaveLength(DOMAINS * 3);
    const inside = rows.filter((row) => {
      const [from, to] = row.split(',').map((address) => /^http:\/\/(?:www\.)?([^/]+)/.exec(address)?.[1]);
      return from === to;
    });
    expect(inside.length / rows.length).toBeGreaterThan(0.4);
    expect(inside.length / rows.length).toBeLessThan(0.6);
  });
});
