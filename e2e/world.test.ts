import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_POINTS } from '../src/core/spam/scorecard';
import { runCheck } from '../src/engine/jobs/check';
import { runLinks } from '../src/engine/jobs/links';
import { runMeasure } from '../src/engine/jobs/measure';
import { trial } from '../src/engine/jobs/testing';
import { runVenue } from '../src/engine/jobs/venue';
import { DnsClient } from '../src/net/dns';
import type { Store } from '../src/store/base/database';
import { findDomain, putDomain, putSighting } from '../src/store/domains/domains';
import { readBudgets } from '../src/store/lifecycle/budgets';
import { countQueues } from '../src/store/lifecycle/question-queues';
import { checksOf } from '../src/store/lifecycle/verdicts';
import { spamCardOf } from '../src/store/links/measures';
import { readSource } from '../src/store/sources/sources';
import { capturesOf } from '../standins/archive';
import { DAY, makeWorld, stateAt, type World, type WorldDomain } from '../standins/world';
import { now, type ServedWorld, START, serveWorld } from './served-world';

let served: ServedWorld;
let world: World;
let store: Store;
let files: string;
let dns: string;

beforeAll(async () => {
  served = await serveWorld(7);
  ({ world, store, files, dns } = served);
});
afterAll(() => served.close());

const sample = () => [...world.domains.values()].filter((domain, i) => domain.story || i % 19 === 0);

describe('the world', () => {
  it('has at least the promised size', () => {
    expect(world.sources.length).toBeGreaterThanOrEqual(12);
    expect(world.domains.size).toBeGreaterThan(5000);
    const full = makeWorld(1, START);
    expect(full.listed.length).toBeGreaterThanOrEqual(50_000);
  });

  it('is the same from the same seed', () => {
    const again = makeWorld(7, START, 2000);
    expect([...again.domains.values()].map(({ name, spans }) => [name, spans])).toEqual(
      [...world.domains.values()].map(({ name, spans }) => [name, spans]),
    );
    expect(again.links.length).toBe(world.links.length);
  });

  it('lets its drop list tell the truth', () => {
    const lines = readFileSync(join(files, 'drop-list.csv'), 'utf8').trim().split('\r\n').slice(1);
    for (const line of lines) {
      const [name, status] = line.split(',');
      const { phase } = stateAt(world.domains.get(name) as WorldDomain, START);
      expect([name, status]).toEqual([name, phase === 'free' ? 'deleted' : 'pending delete']);
    }
  });

  it('lets its link index hold every link, and only links of domains that live', () => {
    const lines = gunzipSync(readFileSync(join(files, 'link-index.csv.gz')))
      .toString()
      .trim()
      .split('\n');
    expect(lines.length - 1).toBe(world.links.length);
    for (const link of world.links) expect(stateAt(link.from, START).span, link.from.name).not.toBeNull();
  });
});

describe('the product in the world', () => {
  it('finds out what every server agrees on, and every verdict is the truth', async () => {
    const run = trial(store, 'list', { sourceId: 1 });
    const truth = new Map<string, WorldDomain>();
    for (const domain of sample()) {
      // the registry that answers five times an hour is asked below
      if (domain.ending === 'me') continue;
      const { id } = putDomain(store, domain, true, START);
      putSighting(store, id, run.sourceId, START, null, {});
      truth.set(domain.name, domain);
    }
    expect(truth.size).toBeGreaterThan(300);
    await runCheck({ ...run.context, job: { ...run.context.job, params: { sourceId: run.sourceId } } });
    const wrong: string[] = [];
    for (const [name, domain] of truth) {
      const row = findDomain(store, name)!;
      const state = stateAt(domain, now());
      // a delegated name in its auto-renew period is taken, and its registry is not asked further
      const expected = state.delegated ? 'active' : state.phase;
      if (row.phase !== expected && !domain.disagrees && !domain.atRegistrar)
        wrong.push(`${name}: ${row.phase}, but ${expected}`);
      // some WHOIS servers tell only the day, RDAP the second
      const precision = row.record_source?.startsWith('whois') ? DAY : 1000;
      if (row.record_at !== null && row.registered_at !== null && state.span) {
        expect(row.registered_at).toBeLessThanOrEqual(state.span.from);
        expect(row.registered_at).toBeGreaterThan(state.span.from - precision);
      }
    }
    expect(wrong).toEqual([]);
  });

  it('keeps the answers as evidence, the latest first', () => {
    const free = findDomain(store, 'cradlewickhivecraft.com')!;
    expect(checksOf(store, free.id).map(({ step, outcome }) => [step, outcome])).toEqual([
      ['rdap', 'not-found'],
      ['dns', 'nxdomain'],
    ]);
  });

  it('does not take a name for free that the zone still delegates', () => {
    const odd = findDomain(store, 'fennimoorbeeschool.co.uk')!;
    expect(odd.phase).toBe('active');
  });

  it('sees answers that need TCP, and lame names as failures', async () => {
    const client = new DnsClient({ resolvers: [dns], timeoutMs: 500, tries: 1 });
    const outcomes = new Set<string>();
    for (const domain of world.domains.values()) {
      if (domain.role !== 'background') continue;
      const { outcome } = await client.delegation(domain.name);
      outcomes.add(outcome);
      if (stateAt(domain, now()).delegated) expect(['delegated', 'failed']).toContain(outcome);
    }
    expect(outcomes).toEqual(new Set(['delegated', 'failed', 'nxdomain']));
  });

  it('goes on without a registry that answers five times an hour, which is asked in its turn', async () => {
    const run = trial(store, 'list', {});
    const names = [...world.domains.values()].filter(({ ending }) => ending === 'me').slice(0, 60);
    for (const domain of names)
      putSighting(store, putDomain(store, domain, true, START).id, run.sourceId, START, null, {});
    await runCheck({ ...run.context, job: { ...run.context.job, params: { sourceId: run.sourceId } } });
    const waiting = countQueues(store).find(({ server }) => server.includes('tarnregistry'));
    expect(waiting?.waiting).toBeGreaterThan(5);
    const budget = readBudgets(store).get('rdap.tarnregistry.me')!;
    expect(budget).toMatchObject({ refusedTimes: 1 });
    // five an hour, as it found out by one refusal
    expect(3_600_000 / budget.intervalMs).toBeGreaterThan(3);
    expect(3_600_000 / budget.intervalMs).toBeLessThan(5);
    expect(run.progress.at(-1)?.message).toContain('answers seldom');
  });

  it('asks the registrar last, and shows where it disagrees with the record', async () => {
    const names = ['lathergillbeemuseum.org', 'thornabeckhoney.com', 'cradlewickhivecraft.com'];
    const ids = names.map(
      (name) => findDomain(store, name)?.id ?? putDomain(store, world.domains.get(name)!, true, START).id,
    );
    const run = trial(store, 'check', { ids, since: now() + 1e9, depth: 'registrar' });
    await runCheck(run.context);
    const [reserved, premium] = names.map((name) => findDomain(store, name)!);
    expect(reserved).toMatchObject({ phase: 'not-registrable' });
    expect(reserved.contradictions).toContain('refuses it');
    expect(premium).toMatchObject({ phase: 'free' });
    expect(premium.contradictions).toMatch(/premium name at the registrar: \d+\.00 EUR/);
    expect(checksOf(store, reserved.id).map(({ step }) => step)).toEqual(
      expect.arrayContaining(['dns', 'rdap', 'registrar']),
    );
  });

  it('measures links, age and spam risk so that the tales are told', async () => {
    const links = trial(store, 'links', { path: join(files, 'link-index.csv.gz') });
    await runLinks(links.context);
    expect(readSource(store, links.sourceId)).toMatchObject({ rows_set_aside: 0 });
    const ids = [
      'ossenmerebeeclub.org',
      'cradlewickhivecraft.com',
      'dunscarrowhiveshop.com',
      'tallowendhoneypath.net',
    ].map((name) => findDomain(store, name)!.id);
    const measure = trial(store, 'list', { ids });
    await runMeasure(measure.context);
    const club = findDomain(store, 'ossenmerebeeclub.org')!;
    const casino = findDomain(store, 'cradlewickhivecraft.com')!;
    const shop = findDomain(store, 'dunscarrowhiveshop.com')!;

    const counted = new Set(world.links.filter((link) => link.to.name === club.name).map((link) => link.from.name));
    expect(club.referring_domains).toBe(counted.size);
    expect(club.strength).toBeGreaterThan(15);
    expect(club.spam_risk).toBeLessThan(10);
    expect(casino.spam_risk).toBeGreaterThan(40);
    expect(shop.trust ?? 0).toBeLessThan(club.trust ?? 0);
    expect(shop.spam_risk).toBeGreaterThanOrEqual(30);
    expect(spamCardOf(store, casino.id)?.card.results.find(({ rule }) => rule === 'money-anchors')?.points).toBe(
      SHIPPED_POINTS.points['money-anchors'],
    );

    const captures = capturesOf(world.domains.get(club.name) as WorldDomain, now());
    expect(club.captures).toBe(captures.length);
    expect(club.first_seen_at).toBe(captures[0].at);
  });

  it('reads a venue, and again with the same outcome', async () => {
    const run = trial(store, 'venue', { url: 'http://saltmarchexchange.com/listings.json' });
    await runVenue(run.context);
    const before = store.raw.prepare('SELECT count(*) FROM domains WHERE listing IS NOT NULL').pluck().get();
    expect(before).toBeGreaterThan(100);
    await runVenue(trial(store, 'venue', {}, run).context);
    expect(store.raw.prepare('SELECT count(*) FROM domains WHERE listing IS NOT NULL').pluck().get()).toBe(before);
  });
});
