import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { domainsTogether } from '../src/core/crawl/forecast';
import { SearchRow } from '../src/core/crawl/search-gates';
import { TrialReport } from '../src/core/crawl/trial-report';
import type { ReferrerCuts } from '../src/core/formats/referrer-fields';
import { checkPage } from '../src/engine/crawl/page-check';
import { importReferrers, previewReferrers } from '../src/engine/files/referrers';
import { runCrawl } from '../src/engine/jobs/crawl';
import { runMeasure } from '../src/engine/jobs/measure';
import { runSearch } from '../src/engine/jobs/search';
import { trial } from '../src/engine/jobs/testing';
import { runTrial } from '../src/engine/jobs/trial';
import type { Store } from '../src/store/base/database';
import { jobRows } from '../src/store/base/jobs';
import { crawlFunnel, pageKinds, siteYields } from '../src/store/crawl/crawl-report';
import { deadTargets, linkingPages } from '../src/store/crawl/pages';
import { trapsOf } from '../src/store/crawl/sites';
import { findDomain } from '../src/store/domains/domains';
import { eachReject, readSource } from '../src/store/sources/sources';
import { stateAt, type World, type WorldDomain } from '../standins/world';
import { now, type ServedWorld, serveWorld } from './served-world';

let served: ServedWorld;
let world: World;
let store: Store;

beforeAll(async () => {
  served = await serveWorld(5, 500);
  ({ world, store } = served);
});
afterAll(() => served.close());

/** A job over the served world. */
function jobOf(kind: 'crawl' | 'trial' | 'search' | 'measure' | 'page', params: Record<string, unknown>) {
  const run = trial(store, kind, params);
  const settings = { ...run.context.settings, ...store.config.settings };
  return { ...run, context: { ...run.context, settings } };
}

describe('a trial', () => {
  let reports: Map<string, TrialReport>;
  beforeAll(async () => {
    const seeds = [...world.sites.keys(), 'ossenmerebeeclub.org', 'never-was-there.org', 'minutes/of a meeting'];
    const run = jobOf('trial', { seeds, delayMs: 0 });
    await runTrial(run.context);
    reports = new Map(jobRows(store, run.context.job.id, TrialReport).map((row) => [row.seed, row]));
    expect(reports.size).toBe(seeds.length);
  }, 180_000);

  it.each([
    ['umberleymarket.com', /challenge/],
    ['umberleyparishnews.org', /consent wall/],
    ['sallowmerechoir.org', /robots.txt forbids \d+%/],
    ['never-was-there.org', /connection|nothing/i],
    ['minutes/of a meeting', /no web address/],
  ])('says why %s will not work', (seed, reason) => {
    expect(reports.get(seed)).toMatchObject({ works: false, reason: expect.stringMatching(reason) });
  });

  it('lets ordinary sites pass, with what a page gives', () => {
    const good = reports.get('merrowvalebeekeepers.org');
    expect(good).toMatchObject({ works: true, reason: null, status: 200 });
    expect(good?.pages).toBeGreaterThan(5);
    expect(good?.domains).toBeGreaterThan(3);
    const works = [...reports.values()].filter((report) => report.works).length;
    expect(works).toBeGreaterThanOrEqual(world.sites.size - 4);
  });

  it('notices a site that answers 200 to addresses that do not exist', () => {
    expect(reports.get('skeldrakenectarnotes.net')?.reason).toContain('do not exist');
  });

  it('forecasts what most sites turn out to have', () => {
    let within = 0;
    let asked = 0;
    for (const [name, { site, pages }] of world.sites) {
      const report = reports.get(name);
      if (!report?.works || site.manners.length > 0) continue;
      asked++;
      const { pages: range } = report.forecasts[4];
      if (pages.size >= range.low * 0.8 && pages.size <= range.high * 1.2) within++;
      for (let depth = 1; depth <= 4; depth++) {
        expect(report.forecasts[depth].pages.low).toBeGreaterThanOrEqual(report.forecasts[depth - 1].pages.low);
        expect(report.forecasts[depth].pages.high).toBeGreaterThanOrEqual(report.forecasts[depth].pages.low);
      }
    }
    expect(within / asked).toBeGreaterThan(0.7);
  });

  it('forecasts outside domains without counting them twice, in ranges of at most four times', () => {
    const truths = new Map<string, Set<string>>();
    for (const { from, to } of world.links) {
      const names = truths.get(from.name) ?? new Set();
      truths.set(from.name, names.add(to.name));
    }
    const tried = [...world.sites].flatMap(([name, { site }]) => {
      const report = reports.get(name);
      return report?.works && site.manners.length === 0 && truths.has(name) ? [{ name, report }] : [];
    });
    const isWithin = (truth: number, { low, high }: { low: number; high: number }) => truth >= low && truth <= high;
    const held = tried.filter(({ name, report }) => isWithin(truths.get(name)?.size ?? 0, report.forecasts[4].domains));
    expect(held.length / tried.length).toBeGreaterThanOrEqual(0.8);
    for (const { report } of tried) {
      const { low, high } = report.forecasts[4].domains;
      if (low > 4) expect(high / low).toBeLessThanOrEqual(4.7); // whole numbers
    }
    const together = domainsTogether(
      tried.map(({ report }) => ({ domains: report.forecasts[4].domains, names: report.names })),
    );
    const all = new Set(tried.flatMap(({ name }) => [...(truths.get(name) ?? [])])).size;
    expect(isWithin(all, together)).toBe(true);
    expect(together.high / together.low).toBeLessThanOrEqual(4.1);
  });
});

describe('a crawl of sites that misbehave', () => {
  const SEEDS = ['wexcombehivestore.com', 'skeldrakenectarnotes.net', 'marlowickskeptrust.org', 'ottergarthwalks.org', 'tallowendcalendar.org', 'umberleymarket.com', 'umberleyparishnews.org', 'cradlewickhoneyfair.com', 'pinderwellastroclub.org', 'rushenbyplatenguild.org', 'vennacreapiary.org', 'merrowvaleanswers.com']; // biome-ignore format: a list
  let sourceId: number;
  beforeAll(async () => {
    const run = jobOf('crawl', {
      seeds: SEEDS,
      depth: 4,
      pageBudget: 5000,
      delayMs: 0,
      retryMs: 20,
      excludedEndings: ['info'],
    });
    sourceId = run.sourceId;
    await runCrawl(run.context);
  }, 180_000);

  it('ends, and reports each trap with an example', () => {
    const traps = new Map(trapsOf(store, sourceId).map((trap) => [`${trap.site} ${trap.kind}`, trap]));
    expect(traps.get('tallowendcalendar.org calendar')?.example).toMatch(/calendar\/20(2[7-9]|[3-9]\d)-\d\d/);
    expect(traps.get('wexcombehivestore.com facets')?.example).toContain('&');
    expect(traps.get('ottergarthwalks.org deeper')?.example).toContain('more/more/more');
    expect(traps.has('marlowickskeptrust.org copies')).toBe(true);
    expect(traps.has('skeldrakenectarnotes.net not-found')).toBe(true);
  });

  it('reads every page there is behind a mood, a session id and a broken answer, and no copy of it twice', () => {
    const readOf = (site: string) =>
      new Set(
        store.raw
          .prepare("SELECT url FROM pages WHERE source_id = ? AND site = ? AND state = 'done' AND kind IS NOT 'copy'")
          .pluck()
          .all(sourceId, site)
          .map((url) => new URL(url as string).pathname),
      );
    for (const name of ['cradlewickhoneyfair.com', 'pinderwellastroclub.org', 'merrowvaleanswers.com']) {
      const read = readOf(name);
      const missing = [...(world.sites.get(name)?.pages.keys() ?? [])].filter((path) => !read.has(path));
      expect([name, missing]).toEqual([name, []]);
    }
    const yields = new Map(siteYields(store, sourceId).map((row) => [row.site, row]));
    const cut = yields.get('rushenbyplatenguild.org');
    expect(cut?.failed).toBeGreaterThan(3);
    // every page that it does not break off, and the site is not given up for those it does
    expect(cut).toMatchObject({ state: 'reading', queued: 0 });
    expect(cut?.pages).toBeGreaterThan(75);
    // the mirror is looked at, and not followed
    expect(yields.get('marlowickskeptrust.org')?.pages).toBeLessThan(160);
  });

  it('reports sites that show a door as doors, not as empty', () => {
    const yields = new Map(siteYields(store, sourceId).map((row) => [row.site, row]));
    expect(yields.get('umberleymarket.com')).toMatchObject({ challenges: 1 });
    expect(yields.get('umberleyparishnews.org')).toMatchObject({ challenges: 1 });
    expect(pageKinds(store, sourceId).find(({ kind }) => kind === 'consent')?.note).toContain('Before you continue');
  });

  it('keeps links of pages that ask not to be indexed, and does not count them', () => {
    const marked = store.raw
      .prepare("SELECT count(*), sum(indexable) FROM links WHERE source_id = ? AND unindexed = 'noindex'")
      .raw()
      .get(sourceId) as [number, number];
    expect(marked[0]).toBeGreaterThan(0);
    expect(marked[1]).toBe(0);
  });

  it('checks what it finds while it runs, and its funnel adds up', () => {
    const funnel = crawlFunnel(store, sourceId);
    const aside = funnel.setAside.reduce((sum, { domains }) => sum + domains, 0);
    expect(funnel.named).toBe(funnel.inPool + funnel.leftOut + aside);
    expect(funnel.inPool).toBe(funnel.askedDns + funnel.waiting);
    expect(funnel.askedDns).toBe(funnel.delegated + funnel.askedRegistry);
    expect(funnel.lapsed - funnel.lapsedByList).toBeLessThanOrEqual(funnel.askedRegistry);
    expect(funnel.lapsed).toBeGreaterThan(30);
    expect(funnel.switches.find(({ cause }) => cause === 'ending')?.alone).toBeGreaterThan(3);
    expect(store.raw.prepare("SELECT count(*) FROM domains WHERE in_pool = 1 AND ending = 'info'").pluck().get()).toBe(
      0,
    );
  });

  it('adds the readers up of the pages that mention a domain', async () => {
    await runMeasure(jobOf('measure', { ids: [] }).context);
    const pages = world.sites.get('merrowvaleanswers.com')?.pages;
    const link = world.links.find(
      ({ from, fromPath, to }) =>
        from.name === 'merrowvaleanswers.com' &&
        (pages?.get(fromPath)?.readers ?? 0) > 0 &&
        to.role === 'target' &&
        to.ending !== 'info',
    );
    const mentioning = new Set(
      world.links
        .filter(({ from, to }) => from.name === 'merrowvaleanswers.com' && to === link?.to)
        .map(({ fromPath }) => fromPath),
    );
    const expected = [...mentioning].reduce((sum, path) => sum + (pages?.get(path)?.readers ?? 0), 0);
    expect(findDomain(store, link?.to.name ?? '')?.readers).toBe(expected);
  });
});

describe('a search', () => {
  it('lets whole sites pass only when their home page is about it, and names phrases without results', async () => {
    const run = jobOf('search', {
      engine: store.config.settings.searchEngine,
      phrases: ['varroa', 'queen', 'zymurgical flange'],
      perPhrase: 40,
      briefWords: ['bees', 'hives', 'honey'],
    });
    await runSearch(run.context);
    const rows = jobRows(store, run.context.job.id, SearchRow);
    expect(rows.length).toBeGreaterThan(10);
    for (const { site, gate, because } of rows) {
      const subject = world.sites.get(site)?.site.subject;
      if (gate === 'site') expect([site, subject]).toEqual([site, 'bees']);
      expect(because).not.toBe('');
    }
    expect(new Set(rows.map(({ gate }) => gate))).toEqual(new Set(['site', 'page']));
    expect(run.progress.at(-1)?.message).toContain('nothing new for "zymurgical flange"');
    expect(rows.some(({ readers }) => (readers ?? 0) > 0)).toBe(true);
  });

  it('says so when the search is none', async () => {
    const run = jobOf('search', { engine: 'http://merrowvalepress.org/', phrases: ['ink'] });
    await expect(runSearch(run.context)).rejects.toThrow(/does not describe|no XML/);
  });
});

const NO_CUTS: ReferrerCuts = { leastStrength: null, seenWithinDays: null, endingsOut: [], countries: [], languages: [], family: null, keepUnknown: true }; // biome-ignore format: defaults
describe('a referrer file', () => {
  const file = () => join(served.files, 'competitor-referrers.csv');

  it('is mapped by its header, and every row is accounted for', async () => {
    const cuts = {
      ...NO_CUTS,
      leastStrength: 20,
      seenWithinDays: 365,
      endingsOut: ['de'],
      languages: ['en'],
      family: 4 as const,
    };
    const preview = await previewReferrers(store, file(), cuts, undefined);
    expect(preview.columns).toEqual(['domain', 'strength', 'last-seen', 'country', 'language', 'address']);
    const removed = preview.cuts.reduce((sum, { removes }) => sum + removes, 0);
    const aside = preview.aside.reduce((sum, { rows }) => sum + rows, 0);
    expect(preview.read).toBe(preview.kept + preview.repeated + removed + aside);
    expect(preview.aside.map(({ reason }) => reason).sort()).toEqual([
      'a bare address, not a domain',
      'not a registrable domain',
    ]);
    expect(preview.cuts.filter(({ removes }) => removes > 0).map(({ cut }) => cut)).toEqual([
      'strength',
      'last seen',
      'ending',
      'language',
      'address family',
    ]);
    expect(preview.kept).toBeGreaterThan(20);
    expect((await previewReferrers(store, file(), { ...cuts, keepUnknown: false }, undefined)).kept).toBeLessThan(
      preview.kept,
    );
  });

  it('reads the same from a workbook, and remembers a corrected mapping by the header', async () => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet('Referrers');
    sheet.addRows([
      ['Site', 'How strong', 'Seen'],
      ['one-vale.org', 55, new Date(Date.UTC(2026, 10, 1))],
      ['127.0.0.1', 5, null],
      ['two, "vale".org', 1, null],
      ['three-vale.org', 3, '2019-01-01'],
    ]);
    const path = join(served.files, 'referrers.xlsx');
    await book.xlsx.writeFile(path);
    const first = await previewReferrers(store, path, NO_CUTS, ['domain', 'strength', 'last-seen']);
    expect(first).toMatchObject({ read: 4, kept: 2, remembered: false });
    await importReferrers(
      store,
      { path, name: 'x', columns: ['domain', 'strength', 'last-seen'], cuts: NO_CUTS, to: 'seeds' },
      () => undefined,
    );
    const again = await previewReferrers(store, path, { ...NO_CUTS, seenWithinDays: 90 }, undefined);
    expect(again).toMatchObject({
      remembered: true,
      columns: ['domain', 'strength', 'last-seen'],
      kept: 1,
      sample: ['one-vale.org'],
    });
  });

  it('goes to the pool with each row counted, and what its cuts kept out is found all the same by a crawl', async () => {
    const columns = (await previewReferrers(store, file(), NO_CUTS, undefined)).columns;
    const cuts = { ...NO_CUTS, leastStrength: 25 };
    const { sourceId } = await importReferrers(
      store,
      { path: file(), name: 'competitor', columns, cuts, to: 'pool' },
      () => undefined,
    );
    const source = readSource(store, sourceId ?? 0);
    expect(source?.rows_read).toBe(
      (source?.rows_taken ?? 0) +
        (source?.rows_repeated ?? 0) +
        (source?.rows_excluded ?? 0) +
        (source?.rows_set_aside ?? 0),
    );
    expect([...eachReject(store, sourceId ?? 0)].length).toBe(source?.rows_set_aside);

    const { seeds } = await importReferrers(
      store,
      { path: file(), name: 'c', columns, cuts, to: 'seeds' },
      () => undefined,
    );
    expect(seeds.length).toBe(source?.rows_taken);
    const run = jobOf('crawl', {
      seeds: ['quillbrooktypefriends.org'],
      depth: 4,
      pageBudget: 300,
      delayMs: 0,
      retryMs: 20,
      checkAfter: false,
    });
    await runCrawl(run.context);
    const linked = new Set(
      world.links.filter(({ from }) => from.name === 'quillbrooktypefriends.org').map(({ to }) => to.name),
    );
    // cuts choose seeds: what they kept out of those comes in when a page names it
    const cut = store.raw
      .prepare("SELECT name FROM set_aside WHERE source_id = ? AND reason LIKE 'cut: %'")
      .pluck()
      .all(sourceId) as string[];
    const back = cut.filter((name) => linked.has(name));
    expect(back.length).toBeGreaterThan(2);
    const found = new Set(
      store.raw
        .prepare('SELECT d.name FROM sightings s JOIN domains d ON d.id = s.domain_id WHERE s.source_id = ?')
        .pluck()
        .all(run.sourceId) as string[],
    );
    expect(back.filter((name) => !found.has(name))).toEqual([]);
  });

  it('that is none is told so', async () => {
    const path = join(served.files, 'fake.xlsx');
    writeFileSync(path, 'PK\u0003\u0004 and nothing else');
    await expect(previewReferrers(store, path, NO_CUTS, undefined)).rejects.toThrow(/no workbook/);
  });
});

describe('one page, now', () => {
  const silent = { head: () => undefined, link: () => undefined, progress: () => undefined };
  const look = (url: string) => {
    const { context } = jobOf('page', {});
    return checkPage(context, url, silent, { pauseMs: 300 });
  };

  it('tells working, redirected and dead links, and the dead page from the dead domain', async () => {
    const page = [...(world.sites.get('merrowvalebeekeepers.org')?.pages.values() ?? [])].find(
      ({ kind }) => kind === 'list',
    );
    const links = await look(`merrowvalebeekeepers.org${page?.path}`);
    expect(links.length).toBeGreaterThan(10);
    for (const link of links) {
      const truth = world.domains.get(new URL(link.url).host) as WorldDomain;
      const { delegated } = stateAt(truth, now());
      expect([link.url, link.state === 'dead' && link.gone === 'domain']).toEqual([link.url, !delegated]);
      // a living domain whose server is silent is no dead page
      if (delegated && link.state === 'dead') expect([404, 410]).toContain(link.status);
      if (!delegated && truth.ending !== 'me')
        expect(findDomain(store, truth.name)?.phase).toBe(stateAt(truth, now()).phase);
    }
    const states = new Set(links.map(({ state, gone }) => `${state} ${gone}`));
    expect(states).toContain('dead domain');
    expect(states).toContain('working null');
  });

  it('keeps dead pages on living domains as targets, with every page that links there', async () => {
    for (const { path, kind } of world.sites.get('harrowmeadarchives.org')?.pages.values() ?? [])
      if (kind === 'list') await look(`harrowmeadarchives.org${path}`);
    const targets = deadTargets(store);
    expect(targets.length).toBeGreaterThan(3);
    for (const { url, status, domain } of targets) {
      expect([404, 410]).toContain(status);
      expect(stateAt(world.domains.get(domain) as WorldDomain, now()).delegated).toBe(true);
      const pages = linkingPages(store, url);
      expect(pages.length).toBeGreaterThan(0);
      expect(pages.every(({ page, target }) => page !== '' && target === url)).toBe(true);
    }
  });

  it.each([
    ['not a page', /no web address/],
    ['ossenmerebeeclub.org', /connection|answer/i],
    ['merrowvalebeekeepers.org/minutes.pdf', /application\/pdf/],
    ['merrowvalebeekeepers.org/loop-a', /without end/],
    ['http://127.0.0.1:1/', /.+/],
  ])('says why %s cannot be looked at', async (url, message) => {
    await expect(look(url)).rejects.toThrow(message);
  });
});
