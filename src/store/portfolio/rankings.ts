import type { ListedRanking } from '../../core/formats/rankings';
import { homeMinor } from '../../core/listings/rates';
import { ASSUMPTIONS } from '../../core/worth/assumptions';
import { clickShare } from '../../core/worth/rebuild';
import { type Store, write } from '../base/database';
import { all, camel, columns, knex, pick, prepared, run } from '../base/query';
import { readRates } from '../base/settings';
import { findDomain } from '../domains/domains';

const RANKINGS = columns('rankings');

/** A phrase that a domain is found by, as a list estimated it. */
export interface StoredRanking {
  phrase: string;
  position: number;
  searches: number;
  clickMinor: number;
  currency: string | null;
  competition: number | null;
  /** When it was so, ms; null: the list did not say. */
  at: number | null;
  source: string;
  takenAt: number;
}

const PUT = prepared((row: StoredRanking & { id: number }) =>
  knex('rankings')
    .insert({
      domain_id: row.id,
      source: row.source,
      phrase: row.phrase,
      position: row.position,
      searches: row.searches,
      click_minor: row.clickMinor,
      currency: row.currency,
      competition: row.competition,
      at: row.at,
      taken_at: row.takenAt,
    })
    .onConflict(['domain_id', 'source', 'phrase'])
    .merge(),
);

/**
 * Keeps what a list says of domains that are known; a later list replaces what an earlier one of the same name said of a phrase.
 *
 * @returns rows that were taken, rows of domains that are not known, and the domains whose visits were counted anew.
 */
export function putRankings(
  store: Store,
  rankings: readonly ListedRanking[],
  source: string,
): { taken: number; unknown: number; ids: number[] } {
  return write(store, () => {
    const takenAt = store.now();
    const ids = new Map<string, number | null>();
    let unknown = 0;
    for (const { name, phrase, position, searches, clickMinor, currency, competition, at } of rankings) {
      const id = ids.get(name) ?? findDomain(store, name)?.id ?? null;
      ids.set(name, id);
      if (id === null) unknown++;
      else PUT.run(store, { id, source, phrase, position, searches, clickMinor, currency, competition, at, takenAt });
    }
    const known = [...new Set(ids.values())].filter((id) => id !== null);
    for (const id of known) countVisits(store, id);
    return { taken: rankings.length - unknown, unknown, ids: known };
  });
}

/**
 * Visits a month by all keywords that lists name, each by the list that was taken last, and what they would cost as clicks in the person's
 * currency; null: of none of them is a price known. Call inside a write transaction.
 */
function countVisits(store: Store, domainId: number): void {
  const latest = new Map<string, StoredRanking>();
  for (const ranking of rankingsOf(store, domainId)) {
    const other = latest.get(ranking.phrase);
    if (!other || ranking.takenAt >= other.takenAt) latest.set(ranking.phrase, ranking);
  }
  const rates = readRates(store);
  let [visits, value]: [number, number | null] = [0, null];
  for (const { searches, position, clickMinor, currency } of latest.values()) {
    const own = searches * clickShare(position, ASSUMPTIONS.firstClickPercent / 100);
    visits += own;
    const click = homeMinor(clickMinor, currency, rates);
    if (click !== null && click > 0) value = (value ?? 0) + own * click;
  }
  run(
    store,
    knex('domains')
      .where('id', domainId)
      .update({ visits: Math.round(visits), traffic_value: value === null ? null : Math.round(value) / 100 }),
  );
}

/** Counts traffic values anew, as when rates have changed. @param onlyMissing those alone that have none. @returns how many domains. */
export function recountTraffic(store: Store, onlyMissing = false): number {
  return write(store, () => {
    const ids = all(
      store,
      knex('rankings')
        .distinct()
        .join('domains', 'domains.id', 'rankings.domain_id')
        .modify((query) => onlyMissing && query.whereNull('domains.traffic_value'))
        .pluck('rankings.domain_id'),
    );
    for (const id of ids) countVisits(store, id);
    return ids.length;
  });
}

/** Phrases of a domain, the most searched first. */
export function rankingsOf(store: Store, domainId: number): StoredRanking[] {
  return all(
    store,
    pick(
      knex('rankings'),
      camel(
        RANKINGS,
        'phrase',
        'position',
        'searches',
        'click_minor',
        'currency',
        'competition',
        'at',
        'source',
        'taken_at',
      ),
    )
      .where('domain_id', domainId)
      .orderBy([{ column: 'searches', order: 'desc' }, { column: 'phrase' }]),
  );
}
