import { languageName } from '../core/history/language-name';
import { type EffectiveReferrers, type WeighedReferrer, weighReferrers } from '../core/links/effective';
import {
  byCountry,
  byEnding,
  byLanguage,
  byStrength,
  gainedAndLost,
  type ProfileReferrer,
} from '../core/links/profile';
import type { Store } from '../store/database';
import type { DomainRow } from '../store/domains';
import { keptLapsedTargets, linksStamp, referringOf, type StoredReferring } from '../store/inspections';

export type Referrer = StoredReferring & WeighedReferrer & { lostAt: number | null };

export interface Referrers {
  /** Strongest first. */
  list: Referrer[];
  weighed: EffectiveReferrers;
  profile: ReturnType<typeof profileOf>;
}

/** Referring domains that are kept ready over all domains looked at lately: tens of thousands for one are met. */
const MOST_KEPT = 150_000;
const kept = new WeakMap<Store, Map<string, Referrers>>();

/** All referring domains of a domain, weighed; kept while nothing of its links changes. */
export function referrersOf(store: Store, row: DomainRow): Referrers {
  let known = kept.get(store);
  if (!known) {
    known = new Map();
    kept.set(store, known);
  }
  const key = `${row.id} ${row.links_at} ${linksStamp(store, row.id)}`;
  const found = known.get(key);
  if (found) return found;
  const referring = referringOf(store, row.id, keptLapsedTargets(store));
  const weighed = weighReferrers(referring);
  // both are in one order
  const list = referring.map((entry, n) => ({ ...entry, ...weighed.referrers[n], lostAt: lostAt(entry) }));
  const referrers = { list, weighed, profile: profileOf(list) };
  let all = list.length;
  for (const { list: other } of known.values()) all += other.length;
  for (const [old, { list: other }] of known) {
    if (all <= MOST_KEPT && known.size < 200) break;
    known.delete(old);
    all -= other.length;
  }
  known.set(key, referrers);
  return referrers;
}

/** An index that saw a link last so long before its own date has lost it. */
const LOST_MS = 120 * 86_400_000;

function lostAt({ standing, lookedAt, lastSeenAt, indexedAt }: StoredReferring): number | null {
  if (standing === 'gone') return lookedAt;
  if (standing === 'there' || lastSeenAt === null || indexedAt === null) return null;
  return indexedAt - lastSeenAt > LOST_MS ? lastSeenAt : null;
}

/** What the referring domains are, taken together. */
function profileOf(list: readonly ProfileReferrer[]) {
  return {
    strength: byStrength(list),
    endings: byEnding(list),
    countries: byCountry(list),
    languages: byLanguage(list, languageName),
    spans: gainedAndLost(list),
  };
}
