import type { Referring } from '../../core/links/effective';
import type { Store } from '../base/database';
import { all, columns, first, knex, pick, prepared, run, sql, the } from '../base/query';

import { referringBetween } from './referring-walks.sql';
import { type StoredReferring, strongerFirst } from './stored-referring';

const LINKS = columns('links');

/** How a linking page answered when it was fetched again. */
export interface LinkLook {
  fromId: number;
  url: string;
  at: number;
  standing: Referring['standing'];
  anchor: string | null;
  rel: string | null;
  fingerprint: string | null;
  note: string;
  /** ISO 639-1, of the page; null: not told. */
  language: string | null;
}

/** Call inside a write transaction. */
export function putLinkLook(store: Store, toId: number, look: LinkLook): void {
  run(
    store,
    knex('link_looks')
      .insert({
        to_id: toId,
        from_id: look.fromId,
        url: look.url,
        at: look.at,
        standing: look.standing,
        anchor: look.anchor,
        rel: look.rel,
        fingerprint: look.fingerprint,
        note: look.note,
        language: look.language,
      })
      .onConflict(['to_id', 'from_id'])
      .merge(),
  );
}

export interface SiteFacts {
  nameServers: string[];
  addressBlock: string | null;
  trackingIds: string[];
}

/** Call inside a write transaction. */
export function putSiteFacts(store: Store, domainId: number, facts: SiteFacts, at: number): void {
  run(
    store,
    knex('site_facts')
      .insert({
        domain_id: domainId,
        at,
        name_servers: JSON.stringify(facts.nameServers),
        address_block: facts.addressBlock,
        tracking_ids: JSON.stringify(facts.trackingIds),
      })
      .onConflict('domain_id')
      .merge(['at', 'name_servers', 'address_block', 'tracking_ids']),
  );
}

/** When a site was looked at last; null: never. */
export function siteLookedAt(store: Store, domainId: number): number | null {
  return first(store, knex('site_facts').where('domain_id', domainId).pluck('at')) ?? null;
}

// biome-ignore format: one row

/**
 * All referring domains of a domain with what is known of them, strongest first.
 *
 * @param lapsedTargets how many lapsed domains each site links to, by its id.
 */
export function referringOf(
  store: Store,
  domainId: number,
  lapsedTargets: (fromId: number) => number,
): StoredReferring[] {
  return referringBetween(store, domainId, lapsedTargets, -1, Number.MAX_SAFE_INTEGER).sort(strongerFirst);
}

/** Id of the last of the next `many` referring domains after one, by id; null: there are fewer. */
export function lastReferring(store: Store, domainId: number, after: number, many: number): number | null {
  const last = first(
    store,
    knex('links')
      .where('to_id', domainId)
      .where('from_id', '>', after)
      .groupBy('from_id')
      .orderBy('from_id')
      .limit(1)
      .offset(many - 1)
      .pluck('from_id'),
  );
  return last ?? null;
}

/** Differs when links to a domain came or went, or were looked at again. */
export function linksStamp(store: Store, domainId: number): string {
  const { links } = the(store, pick(knex('links'), { links: sql<number>('count(*)') }).where('to_id', domainId));
  const { looks, last } = the(
    store,
    pick(knex('link_looks'), { looks: sql<number>('count(*)'), last: sql<number | null>('max(at)') }).where(
      'to_id',
      domainId,
    ),
  );
  return `${links} ${looks} ${last ?? ''}`;
}

/** The same as it was when all links were last measured; 0 for a site that is not known. */
export function keptLapsedTargets(store: Store): (fromId: number) => number {
  return (fromId) => KEPT_TARGETS.first(store, { fromId }) ?? 0;
}
const KEPT_TARGETS = prepared(({ fromId }: { fromId: number }) =>
  knex('lapsed_targets').where('domain_id', fromId).pluck('targets'),
);
const KEEP_TARGETS = prepared((row: { id: number; count: number }) =>
  knex('lapsed_targets').insert({ domain_id: row.id, targets: row.count }),
);

/** Call inside a write transaction. */
export function keepLapsedTargets(store: Store, counts: ReadonlyMap<number, number>): void {
  run(store, knex('lapsed_targets').delete());
  for (const [id, count] of counts) KEEP_TARGETS.run(store, { id, count });
}

/** The old addresses of a domain that most domains link to. */
export function oldAddresses(
  store: Store,
  domainId: number,
  limit: number,
): { url: string; domains: number; links: number }[] {
  return all(
    store,
    pick(knex('links'), {
      url: LINKS.to_url,
      domains: sql<number>('count(DISTINCT from_id)'),
      links: sql<number>('count(DISTINCT from_url)'),
    })
      .where('to_id', domainId)
      .groupBy('to_url')
      .orderBy([{ column: 'domains', order: 'desc' }, { column: 'links', order: 'desc' }, { column: 'to_url' }])
      .limit(limit),
  );
}

/** Pages of a site that are known to link to a domain. */
export function pagesLinking(store: Store, toId: number, fromId: number, limit: number): string[] {
  return all(
    store,
    pick(knex('links').distinct(), { url: LINKS.from_url })
      .where({ to_id: toId, from_id: fromId })
      .orderBy([{ column: 'nofollow' }, { column: 'from_url' }])
      .limit(limit),
  ).map(({ url }) => url);
}
