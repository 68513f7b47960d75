import type { Referrer } from '../../contracts/dossier';
import { languageName } from '../../core/history/language-name';
import { type EffectiveReferrers, weighReferrers } from '../../core/links/effective';
import {
  byCountry,
  byEnding,
  byLanguage,
  byStrength,
  gainedAndLost,
  type ProfileReferrer,
} from '../../core/links/profile';
import type { Store } from '../../store/base/database';
import type { DomainRow } from '../../store/domains/domains';
import { keptLapsedTargets, lastReferring, linksStamp, referringOf } from '../../store/links/referring';
import { referringBetween } from '../../store/links/referring-walks.sql';
import { type StoredReferring, strongerFirst } from '../../store/links/stored-referring';

export interface Referrers {
  /** Strongest first. */
  list: Referrer[];
  weighed: EffectiveReferrers;
  profile: ReturnType<typeof profileOf>;
}

/** Referring domains that are kept ready over all domains looked at lately: tens of thousands for one are met. */
const MOST_KEPT = 150_000;
const MOST_DOMAINS = 200;
/** One memory for pages and handlers, which the framework loads apart. */
const globals = globalThis as { jamLadleReferrers?: WeakMap<Store, Map<string, Referrers>> };
globals.jamLadleReferrers ??= new WeakMap();
const kept = globals.jamLadleReferrers;

/** All referring domains of a domain, weighed; kept while nothing of its links changes. */
export function referrersOf(store: Store, row: DomainRow): Referrers {
  const key = keyOf(store, row);
  return keptOf(store).get(key) ?? keep(store, key, referringOf(store, row.id, keptLapsedTargets(store)));
}

/** So many are read in one go; more are read in parts, between which others are answered. */
const PART = 500;

/** Reads the referring domains of a domain ahead where they are many, so that nobody waits for `referrersOf`. */
export async function readReferrers(store: Store, row: DomainRow): Promise<void> {
  const key = keyOf(store, row);
  if (keptOf(store).has(key) || lastReferring(store, row.id, -1, 2 * PART) === null) return;
  const lapsed = keptLapsedTargets(store);
  const all: StoredReferring[] = [];
  for (let after = -1; ; ) {
    const last = lastReferring(store, row.id, after, PART);
    for (const one of referringBetween(store, row.id, lapsed, after, last ?? Number.MAX_SAFE_INTEGER)) all.push(one);
    if (last === null) break;
    after = last;
    await new Promise((done) => setImmediate(done));
  }
  keep(store, key, all.sort(strongerFirst));
}

const keyOf = (store: Store, row: DomainRow) => `${row.id} ${row.links_at} ${linksStamp(store, row.id)}`;

function keptOf(store: Store): Map<string, Referrers> {
  let known = kept.get(store);
  if (!known) {
    known = new Map();
    kept.set(store, known);
  }
  return known;
}

/** @param referring strongest first. */
function keep(store: Store, key: string, referring: readonly StoredReferring[]): Referrers {
  const known = keptOf(store);
  const weighed = weighReferrers(referring);
  // both are in one order
  const list = referring.map((entry, n) => ({ ...entry, ...weighed.referrers[n], lostAt: lostAt(entry) }));
  const referrers = { list, weighed, profile: profileOf(list) };
  let all = list.length;
  for (const { list: other } of known.values()) all += other.length;
  for (const [old, { list: other }] of known) {
    if (all <= MOST_KEPT && known.size < MOST_DOMAINS) break;
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
