import type { NotFollowed } from '../../core/crawl/scope';
import type { Store } from '../base/database';
import { all, camel, columns, exists, knex, pick, prepared, run, sql } from '../base/query';
import type { Row } from '../base/schema';

const CRAWL_SITES = columns('crawl_sites');

/** Whether a crawl has a site among those that it reads or read. */
export function isSiteRead(store: Store, site: string): boolean {
  return exists(store, knex('crawl_sites').where('site', site));
}

export type SiteState = Row<'crawl_sites'>['state'];

export interface CrawlSite {
  site: string;
  /** Address of the first seed there. */
  seed: string;
  /** How deep the site is read; null: as the crawl says. */
  depth: number | null;
  state: SiteState;
  note: string | null;
  /** Mark of what the site answers to an address that cannot exist; null: it says 404, or was not asked. */
  nonsenseMark: number | null;
  probed: 0 | 1;
}

export function putSite(store: Store, sourceId: number, site: string, seed: string, depth: number | null): void {
  run(store, knex('crawl_sites').insert({ source_id: sourceId, site, seed, depth }).onConflict().ignore());
}

export function sitesOf(store: Store, sourceId: number): CrawlSite[] {
  return all(
    store,
    pick(knex('crawl_sites'), camel(CRAWL_SITES, 'site', 'seed', 'depth', 'state', 'note', 'nonsense_mark', 'probed'))
      .where('source_id', sourceId)
      .orderBy('site'),
  );
}

/** @returns false when the crawl has no such site. */
export function setSiteState(
  store: Store,
  sourceId: number,
  site: string,
  state: SiteState,
  note: string | null,
): boolean {
  return run(store, knex('crawl_sites').where({ source_id: sourceId, site }).update({ state, note })).changes > 0;
}

export function saveProbe(store: Store, sourceId: number, site: string, mark: number | null): void {
  run(store, knex('crawl_sites').where({ source_id: sourceId, site }).update({ probed: 1, nonsense_mark: mark }));
}

export interface Trap {
  site: string;
  kind: string;
  reason: string;
  example: string;
  addresses: number;
}

/** Counts an address that a rule kept the crawl from. The first example stays. */
export function putTrap(store: Store, sourceId: number, site: string, refused: NotFollowed, url: string): void {
  if (!refused.trap) return;
  TRAP.run(store, { sourceId, site, kind: refused.trap, reason: refused.reason, url });
}
const TRAP = prepared((trap: { sourceId: number; site: string; kind: string; reason: string; url: string }) =>
  knex('crawl_traps')
    .insert({
      source_id: trap.sourceId,
      site: trap.site,
      kind: trap.kind,
      reason: trap.reason,
      example: trap.url,
      addresses: 1,
    })
    .onConflict(['source_id', 'site', 'kind'])
    .merge({ addresses: sql('addresses + 1') }),
);

export function trapsOf(store: Store, sourceId: number): Trap[] {
  return all(
    store,
    knex('crawl_traps')
      .select('site', 'kind', 'reason', 'example', 'addresses')
      .where('source_id', sourceId)
      .orderBy([{ column: 'addresses', order: 'desc' }, { column: 'site' }]),
  );
}
