import type { LogTally } from '../../core/redirects/access-log';
import type { OwnPage } from '../../core/redirects/match';
import type { RedirectRule } from '../../core/redirects/rules';
import { type Store, write } from '../base/database';
import { all, camel, columns, knex, pick, prepared, run, sql, the } from '../base/query';

const OWN_PAGES = columns('own_pages');
const PAGES = columns('pages');
const LINKS = columns('links');
const REDIRECTS = columns('redirects');
const REDIRECT_LOGS = columns('redirect_logs');
const REDIRECT_HITS = columns('redirect_hits');

/** Replaces the own pages that a source of this name gave. @returns how many it has now. */
export function putOwnPages(store: Store, pages: readonly OwnPage[], source: string): number {
  return write(store, () => {
    run(store, knex('own_pages').where('source', source).delete());
    const at = store.now();
    for (const { url, title, text } of pages)
      run(store, knex('own_pages').insert({ url, title, text, source, taken_at: at }).onConflict('url').merge());
    return the(store, pick(knex('own_pages'), { count: sql<number>('count(*)') }).where('source', source)).count;
  });
}

export function readOwnPages(store: Store): OwnPage[] {
  return all(store, knex('own_pages').select('url', 'title', 'text').orderBy('url'));
}

export interface OwnSource {
  source: string;
  pages: number;
  takenAt: number;
}

export function ownSources(store: Store): OwnSource[] {
  return all(
    store,
    pick(knex('own_pages'), {
      ...camel(OWN_PAGES, 'source'),
      pages: sql<number>('count(*)'),
      takenAt: sql<number>('max(taken_at)'),
    })
      .groupBy('source')
      .orderBy('source'),
  );
}

/** Pages of a site that a crawl has read, as own pages. @param site registrable domain. */
export function crawledPages(store: Store, site: string, limit: number): OwnPage[] {
  const rows = all(
    store,
    pick(knex('pages').distinct(), { ...camel(PAGES, 'url'), pageTitle: PAGES.title })
      .where({ site, state: 'done', status: 200 })
      .orderBy('url')
      .limit(limit),
  );
  return rows.map(({ url, pageTitle }) => ({ url, title: pageTitle ?? '', text: '' }));
}

/** A link to an address of a domain: by whom, and with which words. */
export interface AddressLink {
  url: string;
  fromId: number;
  anchor: string;
}

/** Links to a domain by address, each referring domain's words once. */
export function linksByAddress(store: Store, domainId: number, limit: number): AddressLink[] {
  return all(
    store,
    pick(knex('links'), { url: LINKS.to_url, fromId: LINKS.from_id, anchor: sql<string>('max(anchor)') })
      .where('to_id', domainId)
      .groupBy('to_url', 'from_id')
      .limit(limit),
  );
}

/** Rules that were decided for a domain, by their path. */
export function readRules(store: Store, domainId: number): RedirectRule[] {
  return all(
    store,
    pick(knex('redirects'), { from: REDIRECTS.from_path, to: REDIRECTS.to_url })
      .where('domain_id', domainId)
      .orderBy('from_path'),
  );
}

/** A decision on an old address; undecided takes it back. */
export interface RuleChange {
  from: string;
  to?: string | null;
}

/** Decides rules. @returns what stood before, for undo. */
export function decideRules(store: Store, domainId: number, changes: readonly RuleChange[]): RuleChange[] {
  return write(store, () => {
    const before = new Map(readRules(store, domainId).map((rule) => [rule.from, rule.to]));
    const at = store.now();
    for (const { from: path, to } of changes)
      if (to === undefined) run(store, knex('redirects').where({ domain_id: domainId, from_path: path }).delete());
      else
        run(
          store,
          knex('redirects')
            .insert({ domain_id: domainId, from_path: path, to_url: to, decided_at: at })
            .onConflict(['domain_id', 'from_path'])
            .merge(),
        );
    return changes.map(({ from: path }) => ({
      from: path,
      to: before.has(path) ? (before.get(path) ?? null) : undefined,
    }));
  });
}

export interface TakenLog {
  source: string;
  takenAt: number;
  fromAt: number | null;
  toAt: number | null;
  lines: number;
  aside: number;
  robots: number;
}

const COUNT_HITS = prepared((hits: { domainId: number; source: string; path: string; requests: number }) =>
  knex('redirect_hits')
    .insert({ domain_id: hits.domainId, source: hits.source, path: hits.path, requests: hits.requests })
    .onConflict(['domain_id', 'source', 'path'])
    .merge({ requests: sql('requests + excluded.requests') }),
);

/** Keeps what a log says that old addresses of a domain got; one of the same name takes the place of the one before. */
export function putLog(store: Store, domainId: number, source: string, tally: LogTally): void {
  write(store, () => {
    run(
      store,
      knex('redirect_logs')
        .insert({
          domain_id: domainId,
          source,
          taken_at: store.now(),
          from_at: tally.from,
          to_at: tally.to,
          lines: tally.lines,
          aside: tally.aside,
          robots: tally.robots,
        })
        .onConflict(['domain_id', 'source'])
        .merge(),
    );
    run(store, knex('redirect_hits').where({ domain_id: domainId, source }).delete());
    for (const hits of [tally.moved, tally.gone])
      for (const [path, requests] of hits) COUNT_HITS.run(store, { domainId, source, path, requests });
  });
}

/** Logs that were taken for a domain. */
export function logsOf(store: Store, domainId: number): TakenLog[] {
  return all(
    store,
    pick(
      knex('redirect_logs'),
      camel(REDIRECT_LOGS, 'source', 'taken_at', 'from_at', 'to_at', 'lines', 'aside', 'robots'),
    )
      .where('domain_id', domainId)
      .orderBy('source'),
  );
}

/** Requests by old path, over all logs of a domain. */
export function hitsOf(store: Store, domainId: number): Map<string, number> {
  return new Map(
    all(
      store,
      pick(knex('redirect_hits'), { ...camel(REDIRECT_HITS, 'path'), asked: sql<number>('sum(requests)') })
        .where('domain_id', domainId)
        .groupBy('path'),
    ).map(({ path, asked }) => [path, asked]),
  );
}

/** Domains whose rules were decided, or whose logs were taken. */
export function redirectedDomains(store: Store): { id: number; name: string }[] {
  return all(
    store,
    knex('domains')
      .select('id', 'name')
      .whereRaw('id IN (SELECT domain_id FROM redirects UNION SELECT domain_id FROM redirect_logs)')
      .orderBy('name'),
  );
}
