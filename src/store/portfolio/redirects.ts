import type { LogTally } from '../../core/redirects/access-log';
import type { OwnPage } from '../../core/redirects/match';
import type { RedirectRule } from '../../core/redirects/rules';
import { type Store, statement, write } from '../base/database';

/** Replaces the own pages that a source of this name gave. @returns how many it has now. */
export function putOwnPages(store: Store, pages: readonly OwnPage[], source: string): number {
  return write(store, () => {
    statement(store.raw, 'DELETE FROM own_pages WHERE source = ?').run(source);
    const insert = statement(store.raw, 'INSERT OR REPLACE INTO own_pages VALUES (?, ?, ?, ?, ?)');
    const at = store.now();
    for (const { url, title, text } of pages) insert.run(url, title, text, source, at);
    return statement(store.raw, 'SELECT count(*) AS ofSource FROM own_pages WHERE source = ?')
      .pluck()
      .get(source) as number;
  });
}

export function readOwnPages(store: Store): OwnPage[] {
  return statement(store.raw, 'SELECT url, title, text FROM own_pages ORDER BY url').all() as OwnPage[];
}

export interface OwnSource {
  source: string;
  pages: number;
  takenAt: number;
}

export function ownSources(store: Store): OwnSource[] {
  return statement(
    store.raw,
    'SELECT source, count(*) AS pages, max(taken_at) AS takenAt FROM own_pages GROUP BY source ORDER BY source',
  ).all() as OwnSource[];
}

/** Pages of a site that a crawl has read, as own pages. @param site registrable domain. */
export function crawledPages(store: Store, site: string, limit: number): OwnPage[] {
  const rows = statement(
    store.raw,
    `SELECT DISTINCT url, title AS pageTitle FROM pages WHERE site = ? AND state = 'done' AND status = 200 ORDER BY url LIMIT ?`,
  ).all(site, limit) as { url: string; pageTitle: string | null }[];
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
  return statement(
    store.raw,
    `SELECT to_url AS url, from_id AS fromId, max(anchor) AS anchor FROM links WHERE to_id = ? GROUP BY to_url, from_id LIMIT ?`,
  ).all(domainId, limit) as AddressLink[];
}

/** Rules that were decided for a domain, by their path. */
export function readRules(store: Store, domainId: number): RedirectRule[] {
  return statement(
    store.raw,
    'SELECT from_path AS "from", to_url AS "to" FROM redirects WHERE domain_id = ? ORDER BY from_path',
  ).all(domainId) as RedirectRule[];
}

/** A decision on an old address; undecided takes it back. */
export interface RuleChange {
  from: string;
  to?: string | null;
}

/** Decides rules. @returns what stood before, for undo. */
export function decideRules(store: Store, domainId: number, changes: readonly RuleChange[]): RuleChange[] {
  return write(store, () => {
    const before = new Map(readRules(store, domainId).map(({ from, to }) => [from, to]));
    const put = statement(store.raw, 'INSERT OR REPLACE INTO redirects VALUES (?, ?, ?, ?)');
    const drop = statement(store.raw, 'DELETE FROM redirects WHERE domain_id = ? AND from_path = ?');
    const at = store.now();
    for (const { from, to } of changes)
      if (to === undefined) drop.run(domainId, from);
      else put.run(domainId, from, to, at);
    return changes.map(({ from }) => ({ from, to: before.has(from) ? (before.get(from) ?? null) : undefined }));
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

/** Keeps what a log says that old addresses of a domain got; one of the same name takes the place of the one before. */
export function putLog(store: Store, domainId: number, source: string, tally: LogTally): void {
  write(store, () => {
    statement(store.raw, 'INSERT OR REPLACE INTO redirect_logs VALUES (?, ?, ?, ?, ?, ?, ?, ?)').run(
      domainId,
      source,
      store.now(),
      tally.from,
      tally.to,
      tally.lines,
      tally.aside,
      tally.robots,
    );
    statement(store.raw, 'DELETE FROM redirect_hits WHERE domain_id = ? AND source = ?').run(domainId, source);
    const insert = statement(
      store.raw,
      `INSERT INTO redirect_hits VALUES (?, ?, ?, ?)
       ON CONFLICT DO UPDATE SET requests = requests + excluded.requests`,
    );
    for (const hits of [tally.moved, tally.gone])
      for (const [path, requests] of hits) insert.run(domainId, source, path, requests);
  });
}

/** Logs that were taken for a domain. */
export function logsOf(store: Store, domainId: number): TakenLog[] {
  return statement(
    store.raw,
    `SELECT source, taken_at AS takenAt, from_at AS fromAt, to_at AS toAt, lines, aside, robots
     FROM redirect_logs WHERE domain_id = ? ORDER BY source`,
  ).all(domainId) as TakenLog[];
}

/** Requests by old path, over all logs of a domain. */
export function hitsOf(store: Store, domainId: number): Map<string, number> {
  return new Map(
    statement(store.raw, 'SELECT path, sum(requests) AS asked FROM redirect_hits WHERE domain_id = ? GROUP BY path')
      .all(domainId)
      .map((row) => {
        const { path, asked } = row as { path: string; asked: number };
        return [path, asked];
      }),
  );
}

/** Domains whose rules were decided, or whose logs were taken. */
export function redirectedDomains(store: Store): { id: number; name: string }[] {
  return statement(
    store.raw,
    `SELECT id, name FROM domains WHERE id IN (SELECT domain_id FROM redirects UNION SELECT domain_id FROM redirect_logs) ORDER BY name`,
  ).all() as { id: number; name: string }[];
}
