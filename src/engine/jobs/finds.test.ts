import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { LeaveOut } from '../../core/crawl/leave-out';
import { type Store, write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { crawlFunnel } from '../../store/crawl/crawl-report';
import { eachLeftOut, switchCounts } from '../../store/crawl/find-causes';
import { findDomain, putDomain } from '../../store/domains/domains';
import { saveBrief } from '../../store/shortlist/briefs';
import { keepDetail } from '../../store/sources/sources';
import { PoolHost } from '../pool/host';
import { runCrawl } from './crawl';
import { runFinds } from './finds';
import { type Trial, trial } from './testing';

let store: Store;
let server: Server;
let pool: PoolHost;

const NAMED = ['plain.org', 'school.edu', 'mymaps.org', 'casinobees.org', 'classbees.org', 'everybody.org', 'before.org', 'judged.org', 'both.edu']; // biome-ignore format: a list

beforeEach(async () => {
  server = createServer((request, response) => {
    response.writeHead(200, { 'content-type': 'text/html' });
    if (request.url === '/late') {
      setTimeout(() => response.end('<a href="http://late.edu/">late</a>'), 1500);
      return;
    }
    if (request.headers.host === 'slow.org') {
      response.end('<a href="http://school.edu/">s</a><a href="/late">more</a>');
      return;
    }
    response.end(
      `${NAMED.map((name) => `<a href="http://${name}/">${name}</a>`).join('')}<a href="http://10.1.2.3/">x</a>`,
    );
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  store = await freshStore({ connector: `127.0.0.1:${(server.address() as AddressInfo).port}` });
  write(store, () => {
    for (const name of ['before.org', 'judged.org', 'everybody.org'])
      putDomain(store, { name, ending: 'org' }, true, store.now() - 1000);
    putDomain(store, { name: 'both.edu', ending: 'edu' }, true, store.now() - 1000);
    // known as a site that links, not in the pool
    putDomain(store, { name: 'plain.org', ending: 'org' }, false, store.now() - 1000);
    store.raw.prepare(`UPDATE domains SET judged = 'spam' WHERE name = 'judged.org'`).run();
    store.raw.prepare(`UPDATE domains SET referring_domains = 1500 WHERE name = 'everybody.org'`).run();
  });
  pool = new PoolHost(store);
  pool.load();
});
afterEach(async () => {
  server.close();
  await store.close();
});

const briefId = () =>
  saveBrief(store, {
    name: 'bees',
    purpose: 'rebuild',
    subjectWords: ['bees'],
    trustedSites: [],
    excludedEndings: [],
    budgetMinor: null,
    currency: 'EUR',
    unwantedWords: ['casino', 'ass'],
  });

async function crawl(leaveOut?: LeaveOut[]): Promise<Trial> {
  const run = trial(store, 'crawl', {
    seeds: ['seed.org'],
    depth: 0,
    checkAfter: false,
    excludedEndings: ['edu'],
    knownSites: ['mymaps.org'],
    briefId: briefId(),
  });
  if (leaveOut) keepDetail(store, run.sourceId, { leaveOut });
  hear(run);
  await runCrawl(run.context);
  return run;
}
/** What the engine does with what a job tells. */
function hear({ context, sourceId }: Trial): void {
  context.changed = (ids) => pool.refresh(Uint32Array.from(ids), sourceId);
  context.removed = (ids, source, isSourceGone) => pool.remove(Uint32Array.from(ids), source, isSourceGone);
}
async function turn({ sourceId }: Trial, leaveOut: LeaveOut[], stopAfter = Number.POSITIVE_INFINITY): Promise<void> {
  keepDetail(store, sourceId, { leaveOut });
  const job = { ...trial(store, 'finds', {}), sourceId };
  job.context.job = { ...job.context.job, sourceId };
  hear(job);
  if (stopAfter < 1) job.stop.abort();
  await runFinds(job.context).catch(() => undefined);
  await new Promise((done) => setTimeout(done, 50));
}
const found = ({ sourceId }: Trial) =>
  store.raw
    .prepare('SELECT d.name FROM sightings s JOIN domains d ON d.id = s.domain_id WHERE s.source_id = ? ORDER BY 1')
    .pluck()
    .all(sourceId) as string[];
const out = ({ sourceId }: Trial) =>
  [...eachLeftOut(store, sourceId)].map(({ name, causes }) => `${name} ${causes.join('+')}`);
const inPool = ({ sourceId }: Trial) => {
  const { columns } = pool.questions;
  return Array.from({ length: columns.count }, (_, row) => columns.isMember('source', sourceId, row)).filter(Boolean)
    .length;
};

describe('the switches of a crawl', () => {
  it('leave out what they name, and say how many each would', async () => {
    const run = await crawl();
    expect(found(run)).toEqual(['before.org', 'classbees.org', 'judged.org', 'plain.org']);
    expect(out(run)).toEqual([
      'both.edu ending+known',
      'casinobees.org brief',
      'everybody.org shared+known',
      'mymaps.org known-site',
      'school.edu ending',
    ]);
    const { switches } = switchCounts(store, run.sourceId);
    expect(switches.map(({ cause, isOn, would, alone }) => [cause, isOn, would, alone])).toEqual([
      ['known-site', true, 1, 1],
      ['ending', true, 2, 2],
      ['brief', true, 1, 1],
      ['shared', true, 1, 1],
      ['known', false, 4, 2],
      ['judged', false, 1, 1],
    ]);
    // what is left out and in nobody else's finds is not in the pool; its links are kept all the same
    expect(findDomain(store, 'school.edu')?.in_pool).toBe(0);
    expect(findDomain(store, 'both.edu')?.in_pool).toBe(1);
    expect(store.raw.prepare('SELECT count(*) FROM links').pluck().get()).toBe(NAMED.length);
  });

  it('add up, whatever is switched, in the database, the funnel and the pool', async () => {
    const run = await crawl();
    const sets: LeaveOut[][] = [[], ['ending'], ['known', 'judged'], ['known-site', 'ending', 'brief', 'shared', 'known', 'judged'], ['brief']]; // biome-ignore format: a list
    for (const leaveOut of sets) {
      await turn(run, leaveOut);
      const funnel = crawlFunnel(store, run.sourceId);
      expect(funnel.named).toBe(NAMED.length + 1);
      expect(funnel.inPool + funnel.leftOut + 1).toBe(funnel.named);
      expect(funnel.inPool).toBe(found(run).length);
      expect([leaveOut, inPool(run)]).toEqual([leaveOut, found(run).length]);
      expect(new Set([...found(run), ...out(run).map((line) => line.split(' ')[0])])).toEqual(new Set(NAMED));
      for (const name of ['before.org', 'judged.org', 'everybody.org', 'both.edu'])
        expect([name, findDomain(store, name)?.in_pool]).toEqual([name, 1]);
    }
    await turn(run, []);
    expect(found(run)).toEqual([...NAMED].sort());
    expect(findDomain(store, 'school.edu')?.in_pool).toBe(1);
  });

  it('bring back what was said of a domain, and are the same after a stop in the midst', async () => {
    const run = await crawl();
    const said = () =>
      store.raw
        .prepare(`SELECT s.said FROM sightings s JOIN domains d ON d.id = s.domain_id WHERE d.name = 'school.edu'`)
        .pluck()
        .get() as string | undefined;
    await turn(run, [], 0);
    await turn(run, []);
    const first = said();
    expect(JSON.parse(first ?? '{}')).toMatchObject({ site: 'seed.org', anchor: 'school.edu' });
    await turn(run, ['ending']);
    expect(said()).toBeUndefined();
    await turn(run, []);
    expect(said()).toBe(first);
  });

  it('leave a shortlisted domain in the pool', async () => {
    const run = await crawl([]);
    const id = findDomain(store, 'school.edu')?.id ?? 0;
    store.raw
      .prepare(
        `INSERT INTO shortlist (brief_id, domain_id, added_at, changed_at, stage) VALUES (1, ?, 1, 1, 'watching')`,
      )
      .run(id);
    await turn(run, ['ending']);
    expect(findDomain(store, 'school.edu')?.in_pool).toBe(1);
  });

  it('that are turned while it runs count from then on', async () => {
    const run = trial(store, 'crawl', { seeds: ['slow.org'], depth: 1, checkAfter: false, excludedEndings: ['edu'] });
    keepDetail(store, run.sourceId, { leaveOut: [] });
    const crawling = runCrawl(run.context);
    await expect.poll(() => found(run)).toEqual(['school.edu']);
    keepDetail(store, run.sourceId, { leaveOut: ['ending'] });
    await crawling;
    expect(found(run)).toEqual(['school.edu']);
    expect(out(run)).toEqual(['late.edu ending']);
    await turn(run, ['ending']);
    expect(found(run)).toEqual([]);
  });
});
