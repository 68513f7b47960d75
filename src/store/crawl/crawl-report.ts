import type { PageKind } from '../../core/crawl/content';
import type { UnreadCause } from '../../core/crawl/unread';
import type { Store } from '../base/database';
import { all, camel, columns, knex, known, pick, run, sql, the } from '../base/query';
import { PAGES } from './crawl';
import { type SwitchCount, switchCounts } from './find-causes';
import type { SiteState } from './sites';

const SET_ASIDE = columns('set_aside');

/** Lapsed domains that the pages of a crawl were the first to name. */
export function sumOfFinds(store: Store, sourceId: number): number {
  return the(
    store,
    pick(knex('pages'), { finds: sql<number>('coalesce(sum(finds), 0)') })
      .where('source_id', sourceId)
      .where('finds', '>', 0),
  ).finds;
}

export interface CrawlCounts {
  queued: number;
  beyond: number;
  done: number;
  skipped: number;
  failed: number;
}

export function countPages(store: Store, sourceId: number): CrawlCounts {
  const counts: CrawlCounts = { queued: 0, beyond: 0, done: 0, skipped: 0, failed: 0 };
  const rows = all(
    store,
    pick(knex('pages'), { ...camel(PAGES, 'state'), pages: sql<number>('count(*)') })
      .where('source_id', sourceId)
      .groupBy('state'),
  );
  for (const { state, pages } of rows) counts[state] = pages;
  return counts;
}

/** Pages read or failed, by site: what a budget of pages counts. */
export function readBySite(store: Store, sourceId: number): Map<string, number> {
  const rows = all(
    store,
    pick(knex('pages'), { ...camel(PAGES, 'site'), pages: sql<number>('count(*)') })
      .where('source_id', sourceId)
      .whereIn('state', ['done', 'failed'])
      .groupBy('site'),
  );
  return new Map(rows.map(({ site, pages }) => [site, pages]));
}

export interface SiteYield {
  site: string;
  state: SiteState;
  note: string | null;
  pages: number;
  failed: number;
  queued: number;
  beyond: number;
  challenges: number;
  /** Outside domains first found here, and how many of them are free or about to be. */
  domains: number;
  lapsed: number;
}

/** What each site of a crawl gave. */
export function siteYields(store: Store, sourceId: number): SiteYield[] {
  const finds = knex('sightings as s')
    .join('domains as d', 'd.id', 's.domain_id')
    .where('s.source_id', sourceId)
    .groupByRaw('1')
    .select({
      site: sql("json_extract(s.said, '$.site')"),
      domains: sql('count(*)'),
      lapsed: sql("sum(d.phase IN ('free', 'pending-delete', 'redemption'))"),
    });
  return all(
    store,
    pick(
      knex('pages as p')
        .leftJoin(finds.as('f'), 'f.site', 'p.site')
        .leftJoin('crawl_sites as c', (on) => on.on('c.source_id', 'p.source_id').on('c.site', 'p.site')),
      {
        site: sql<string>('p.site'),
        state: sql<SiteState>("coalesce(c.state, 'reading')"),
        note: sql<string | null>('c.note'),
        pages: sql<number>("sum(p.state = 'done')"),
        failed: sql<number>("sum(p.state = 'failed')"),
        queued: sql<number>("sum(p.state = 'queued')"),
        beyond: sql<number>("sum(p.state = 'beyond')"),
        challenges: sql<number>("coalesce(sum(p.kind IN ('challenge', 'consent')), 0)"),
        domains: sql<number>('coalesce(f.domains, 0)'),
        lapsed: sql<number>('coalesce(f.lapsed, 0)'),
      },
    )
      .where('p.source_id', sourceId)
      .groupBy('p.site')
      .orderByRaw('lapsed DESC, domains DESC, p.site'),
  );
}

/** Why pages were skipped or failed, commonest first, with an example. */
export function pageTroubles(
  store: Store,
  sourceId: number,
): { state: string; note: string; pages: number; example: string }[] {
  return all(
    store,
    pick(knex('pages'), {
      ...camel(PAGES, 'state'),
      note: sql<string>("coalesce(note, 'no reason kept')"),
      pages: sql<number>('count(*)'),
      example: sql<string>('min(url)'),
    })
      .where('source_id', sourceId)
      .whereIn('state', ['failed', 'skipped'])
      .groupBy('state', 'note')
      .orderBy('pages', 'desc')
      .limit(40),
  );
}

/** A seed that was not read. */
export interface UnreadSeed {
  url: string;
  site: string;
  cause: UnreadCause | null;
  /** What the server said, or why it was not asked. */
  note: string;
}

/** Seeds whose page was not read, and those of sites that gave up or showed a door. */
export function unreadSeeds(store: Store, sourceId: number): UnreadSeed[] {
  return all(
    store,
    pick(knex('pages'), { ...camel(PAGES, 'url', 'site', 'cause'), note: sql<string>("coalesce(note, '')") })
      .where({ source_id: sourceId, depth: 0, hops: 0 })
      .whereIn('state', ['failed', 'skipped'])
      .orderBy([{ column: 'site' }, { column: 'url' }]),
  );
}

/** What the pages that were read turned out to be. */
export function pageKinds(
  store: Store,
  sourceId: number,
): { kind: PageKind; pages: number; example: string; note: string | null }[] {
  return all(
    store,
    pick(knex('pages'), {
      kind: known(PAGES.kind),
      pages: sql<number>('count(*)'),
      example: sql<string>('min(url)'),
      note: sql<string | null>('min(note)'),
    })
      .where('source_id', sourceId)
      .whereNotNull('kind')
      .groupBy('kind')
      .orderBy('pages', 'desc'),
  );
}

export interface Funnel {
  pagesRead: number;
  linksOut: number;
  /** Distinct domains that the pages name: in the pool, left out and set aside. */
  named: number;
  /** Left out by a switch, and what each switch would keep out. */
  leftOut: number;
  switches: SwitchCount[];
  setAside: { reason: string; domains: number; example: string }[];
  inPool: number;
  /** In the pool before this source named them. */
  knownBefore: number;
  askedDns: number;
  delegated: number;
  askedRegistry: number;
  lapsed: number;
  /** Of the lapsed, those of which only a list says so yet. */
  lapsedByList: number;
  waiting: number;
  measured: number;
}

/** Stages of the way from a page to a measured find, each with what it let through. */
export function crawlFunnel(store: Store, sourceId: number): Funnel {
  const pages = the(
    store,
    pick(knex('pages'), {
      pagesRead: sql<number | null>("sum(state = 'done')"),
      linksOut: sql<number>('coalesce(sum(links_out), 0)'),
    }).where('source_id', sourceId),
  );
  const aside = all(
    store,
    pick(knex('set_aside'), {
      ...camel(SET_ASIDE, 'reason'),
      domains: sql<number>('count(*)'),
      example: sql<string>('min(name)'),
    })
      .where('source_id', sourceId)
      .groupBy('reason')
      .orderBy('domains', 'desc'),
  );
  const domains = the(
    store,
    pick(knex('sightings as s').join('domains as d', 'd.id', 's.domain_id'), {
      inPool: sql<number>('count(*)'),
      knownBefore: sql<number>('coalesce(sum(d.added_at < s.at), 0)'),
      askedDns: sql<number>('coalesce(sum(d.phase_at IS NOT NULL), 0)'),
      delegated: sql<number>("coalesce(sum(d.phase_at IS NOT NULL AND d.phase_source LIKE 'dns%'), 0)"),
      askedRegistry: sql<number>("coalesce(sum(d.phase_at IS NOT NULL AND d.phase_source NOT LIKE 'dns%'), 0)"),
      lapsed: sql<number>("coalesce(sum(d.phase IN ('free', 'pending-delete', 'redemption')), 0)"),
      lapsedByList: sql<number>(
        "coalesce(sum(d.phase_at IS NULL AND d.phase IN ('free', 'pending-delete', 'redemption')), 0)",
      ),
      waiting: sql<number>('coalesce(sum(d.phase_at IS NULL), 0)'),
      measured: sql<number>(
        "coalesce(sum(d.links_at IS NOT NULL AND d.phase IN ('free', 'pending-delete', 'redemption')), 0)",
      ),
    }).where('s.source_id', sourceId),
  );
  const cut = aside.reduce((sum, { domains: count }) => sum + count, 0);
  const { switches, out } = switchCounts(store, sourceId);
  return {
    pagesRead: pages.pagesRead ?? 0,
    linksOut: pages.linksOut,
    named: domains.inPool + out + cut,
    leftOut: out,
    switches,
    setAside: aside,
    ...domains,
  };
}

export interface CrawlSample {
  at: number;
  pages: number;
  queued: number;
  domains: number;
  finds: number;
}

export function addSample(store: Store, sourceId: number, sample: CrawlSample): void {
  run(
    store,
    knex('crawl_samples')
      .insert({
        source_id: sourceId,
        at: sample.at,
        pages: sample.pages,
        queued: sample.queued,
        domains: sample.domains,
        finds: sample.finds,
      })
      .onConflict(['source_id', 'at'])
      .merge(),
  );
}

/** Samples of a crawl, evenly thinned to at most `most`. */
export function samplesOf(store: Store, sourceId: number, most = 240): CrawlSample[] {
  const samples = all(
    store,
    knex('crawl_samples')
      .select('at', 'pages', 'queued', 'domains', 'finds')
      .where('source_id', sourceId)
      .orderBy('at'),
  );
  const step = Math.ceil(samples.length / most);
  return samples.filter((_, index) => index % step === 0 || index === samples.length - 1);
}
