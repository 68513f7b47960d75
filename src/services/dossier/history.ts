import type { HistoryEntry } from '../../contracts/dossier';
import { FACT_TITLES, factWords } from '../../core/evidence/fact-words';
import { changeWords } from '../../core/wording/format';
import type { Store } from '../../store/base/database';
import type { DomainRow, StoredSighting } from '../../store/domains/domains';
import { factChangesOf } from '../../store/domains/fact-changes';
import type { StoredTick } from '../../store/domains/notes';
import type { MarkReview } from '../../store/domains/word-marks';
import { eventsOf } from '../../store/lifecycle/verdicts';
import { changesOf } from '../../store/offers/listing-changes';

const MOST_CHANGES = 1000;
const TICK_WORDS = { fine: 'fine', look: 'in doubt', bad: 'speaks against it' } as const;

/** Who said what of a domain and when, the latest first: sources, facts that changed, offers, what looks found, and what the person said. */
export function historyOf(
  store: Store,
  row: DomainRow,
  said: { sightings: readonly StoredSighting[]; ticks: readonly StoredTick[]; reviews: readonly MarkReview[] },
): HistoryEntry[] {
  const now = store.now();
  const entries: HistoryEntry[] = [
    ...factChangesOf(store, row.id, MOST_CHANGES).map(({ at, fact, was, becomes, who }) => ({
      at,
      what: FACT_TITLES[fact] ?? fact,
      was: was === null ? null : factWords(fact, was),
      becomes: factWords(fact, becomes),
      who: who ?? 'not kept',
    })),
    ...said.sightings.map(({ at, sourceId, sourceName, said: words }) => ({
      at,
      what: 'Named',
      was: null,
      becomes: saidInBrief(words),
      who: sourceName,
      href: `/sources/${sourceId}`,
    })),
    ...changesOf(store, row.id).map((change) => ({
      at: change.at,
      what: 'Offer',
      was: null,
      becomes: changeWords(change, now),
      who: change.venue ?? 'a venue',
    })),
    ...eventsOf(store, row.id).map(({ at, words }) => ({
      at,
      what: 'Life',
      was: null,
      becomes: words,
      who: 'a look at it',
    })),
    ...said.ticks.map(({ at, item, state, note, who }) => ({
      at,
      what: `Due diligence: ${item}`,
      was: null,
      becomes: note ? `${TICK_WORDS[state]}: ${note}` : TICK_WORDS[state],
      who,
    })),
    ...said.reviews.map(({ at, verdict, note, who }) => ({
      at,
      what: 'Trademarks',
      was: null,
      becomes: note ? `${verdict}: ${note}` : verdict,
      who,
    })),
  ];
  return entries.sort((a, b) => (b.at ?? 0) - (a.at ?? 0));
}

const BRIEF = 5;
const HIDDEN = new Set(['domain', 'site', 'depth', 'before', 'after', 'url', 'line']);

function saidInBrief(said: Record<string, unknown>): string {
  const parts = Object.entries(said)
    .filter(([key, value]) => value !== null && value !== '' && !HIDDEN.has(key))
    .slice(0, BRIEF)
    .map(([key, value]) => {
      const label = key.replace(/([A-Z])/g, ' $1').toLowerCase();
      if (key.endsWith('At') && typeof value === 'number')
        return `${label.replace(/ at$/, '')} ${new Date(value).toISOString().slice(0, 10)}`;
      if (key.endsWith('Minor') && typeof value === 'number') return `${label.replace(/ minor$/, '')} ${value / 100}`;
      return `${label} ${String(value)}`;
    });
  return parts.length === 0 ? 'the name alone' : parts.join(', ');
}
