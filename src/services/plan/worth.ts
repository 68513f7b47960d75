import type { EnginePort } from '../../contracts/engine-port';
import { subjectClassifier } from '../../core/topics/classifier';
import { ownNameTeller, type RebuildWorth, rebuildWorth } from '../../core/worth/rebuild';
import { type RedirectWorth, redirectWorth } from '../../core/worth/redirect';
import type { Store } from '../../store/base/database';
import { readRates } from '../../store/base/settings';
import type { DomainRow } from '../../store/domains/domains';
import { rankingsOf, type StoredRanking } from '../../store/portfolio/rankings';
import type { Brief } from '../../store/shortlist/briefs';
import { readReferrers, referrersOf } from '../dossier/referrers';
import { inCurrency } from './currency';

const YEAR = 365.25 * 86_400_000;
/** Referrers whose subject is asked for; those beyond are weak and count as not told. */
const MOST_TOLD = 5000;

/** What a site would be worth if it were brought back, by the phrases it is found by; in the brief's currency. */
export interface RebuildTold extends RebuildWorth {
  sources: string[];
  /** The oldest of the lists, ms; null: none says. */
  asOf: number | null;
  yearsOff: number;
  drift: number;
}

/** @returns null when no list names a phrase of it. */
export function rebuildFor(store: Store, row: DomainRow, brief: Brief): RebuildTold | null {
  const listed = rankingsOf(store, row.id);
  const priced = inCurrency(readRates(store), brief.currency);
  const rankings = newest(listed).map(({ phrase, position, searches, clickMinor, currency, competition }) => ({
    phrase,
    position,
    searches,
    clickMinor: priced(clickMinor, currency) ?? clickMinor,
    competition,
  }));
  const now = store.now();
  const isOff = row.phase !== 'active' && row.last_seen_at !== null;
  const yearsOff = isOff ? Math.max(0, (now - (row.last_seen_at ?? now)) / YEAR) : 0;
  const drift = row.drift ?? 0;
  const label = row.name.slice(0, row.name.length - row.ending.length - 1);
  const isOwnName = ownNameTeller(label, (word) => subjectClassifier().knows(word));
  const worth = rebuildWorth(rankings, { yearsOff, drift, isOwnName }, brief.assumptions);
  if (!worth) return null;
  const dates = listed.flatMap(({ at, takenAt }) => at ?? takenAt);
  return {
    ...worth,
    sources: [...new Set(listed.map(({ source }) => source))],
    asOf: Math.min(...dates),
    yearsOff,
    drift,
  };
}

/** Of a phrase that several lists name, the newest word. */
function newest(listed: readonly StoredRanking[]): StoredRanking[] {
  const byPhrase = new Map<string, StoredRanking>();
  for (const ranking of listed) {
    const known = byPhrase.get(ranking.phrase);
    if (!known || (ranking.at ?? ranking.takenAt) > (known.at ?? known.takenAt)) byPhrase.set(ranking.phrase, ranking);
  }
  return [...byPhrase.values()];
}

/** What its links would be worth if it were redirected to a site of the brief's subject; in the brief's currency. */
export interface RedirectTold extends RedirectWorth {
  /** Title of the brief's subject; null: its words tell none, so that nothing is known to be of it. */
  subject: string | null;
}

/** @returns null when nothing refers to it. */
export async function redirectFor(
  store: Store,
  engine: EnginePort,
  row: DomainRow,
  brief: Brief,
): Promise<RedirectTold | null> {
  await readReferrers(store, row);
  const { list } = referrersOf(store, row);
  const words = [...brief.requiredWords, ...brief.subjectWords].flatMap((text) =>
    text.toLowerCase().split(/[^\p{L}\p{N}]+/u),
  );
  const wanted = words.length === 0 ? null : subjectClassifier().nameSubject(words);
  const sites = list.slice(0, MOST_TOLD).map(({ site }) => site);
  // the engine splits names; while it starts, no subject is told
  const subjects = await engine.subjectsOfNames(sites).catch(() => sites.map(() => null));
  const area = wanted?.split('.')[0];
  const referrers = list.map(({ site, weight, strength, anchor, lookAnchor }, n) => {
    const told =
      subjects[n] ?? subjectClassifier().nameSubject((lookAnchor ?? anchor).toLowerCase().split(/[^\p{L}\p{N}]+/u));
    const isOfSubject = wanted === null || told === null ? null : told === wanted || told.split('.')[0] === area;
    return { site, weight, strength, isOfSubject };
  });
  const worth = redirectWorth(referrers, brief.assumptions);
  return worth && { ...worth, subject: wanted };
}
