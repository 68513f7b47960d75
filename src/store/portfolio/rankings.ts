import type { ListedRanking } from '../../core/formats/rankings';
import { type Store, statement, write } from '../base/database';
import { findDomain } from '../domains/domains';

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

/** Keeps what a list says of domains that are known; a later list replaces what an earlier one of the same name said of a phrase. */
export function putRankings(
  store: Store,
  rankings: readonly ListedRanking[],
  source: string,
): { taken: number; unknown: number } {
  return write(store, () => {
    const insert = statement(
      store.raw,
      `INSERT OR REPLACE INTO rankings (domain_id, source, phrase, position, searches, click_minor, currency, competition, at, taken_at)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    );
    const takenAt = store.now();
    const ids = new Map<string, number | null>();
    let unknown = 0;
    for (const { name, phrase, position, searches, clickMinor, currency, competition, at } of rankings) {
      const id = ids.get(name) ?? findDomain(store, name)?.id ?? null;
      ids.set(name, id);
      if (id === null) unknown++;
      else insert.run(id, source, phrase, position, searches, clickMinor, currency, competition, at, takenAt);
    }
    return { taken: rankings.length - unknown, unknown };
  });
}

/** Phrases of a domain, the most searched first. */
export function rankingsOf(store: Store, domainId: number): StoredRanking[] {
  return statement(
    store.raw,
    `SELECT phrase, position, searches, click_minor AS clickMinor, currency, competition, at, source, taken_at AS takenAt
     FROM rankings WHERE domain_id = ? ORDER BY searches DESC, phrase`,
  ).all(domainId) as StoredRanking[];
}
