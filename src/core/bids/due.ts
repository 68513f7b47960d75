import type { STAGES } from './stages';

const DAY_MS = 86_400_000;

/** When a decision on a shortlisted domain is due, the soonest first; the index orders. */
const DUE = ['past', 'day', 'week', 'later', 'no date', 'decided'] as const;
type Due = (typeof DUE)[number];

export const DUE_TITLES: Record<Due, string> = {
  past: 'Its time has passed',
  day: 'Within a day',
  week: 'Within a week',
  later: 'Later',
  'no date': 'At any time',
  decided: 'Decided',
};

/**
 * When a decision is due.
 *
 * @param at when the way to have it ends, or its drop, ms since 1970; null: nothing ends.
 */
export function dueOf({ stage, at }: { stage: (typeof STAGES)[number]; at: number | null }, now: number): Due {
  if (stage === 'had' || stage === 'let go') return 'decided';
  if (at === null) return 'no date';
  if (at < now) return 'past';
  if (at <= now + DAY_MS) return 'day';
  return at <= now + 7 * DAY_MS ? 'week' : 'later';
}

/** What orders names on a shortlist. */
export interface Decision {
  stage: (typeof STAGES)[number];
  /** When its way ends or it drops, ms since 1970; null: at no time. */
  decidedAt: number | null;
  /** What the plan says of it; null: nothing. */
  bid: { isIn: boolean } | null;
  /** How well it suits, by what is sure. */
  fit: { least: number };
  addedAt: number;
}

/** What is due first comes first; of what is due at the same time or at none, what the plan takes, then what suits better. */
export function inDueOrder<Entry extends Decision>(entries: readonly Entry[], now: number): Entry[] {
  const keyOf = ({ stage, decidedAt, bid, fit, addedAt }: Entry) => [
    DUE.indexOf(dueOf({ stage, at: decidedAt }, now)),
    decidedAt ?? 0,
    bid?.isIn ? 0 : 1,
    -fit.least,
    addedAt,
  ];
  return entries
    .map((entry) => ({ entry, key: keyOf(entry) }))
    .sort((a, b) => {
      const at = a.key.findIndex((value, n) => value !== b.key[n]);
      return at < 0 ? 0 : a.key[at] - b.key[at];
    })
    .map(({ entry }) => entry);
}
