import {
  type Calibration,
  calibrate,
  type Foretold,
  learnedChance,
  type Ranged,
  type RangeRecord,
  rangeRecord,
} from '../core/learning/calibration';
import { homeMinor } from '../core/listings/rates';
import { listBriefs } from '../store/briefs';
import { readRates, readSettings, type Store } from '../store/database';
import { moneyEntries } from '../store/holdings';
import { type OutcomeRow, outcomes } from '../store/orders';
import { readShortlist } from '../store/shortlist';
import { markedRisks } from '../store/spam-points';

/** A setting that outcomes speak for changing, with what speaks for it. */
export interface Suggestion {
  key: string;
  words: string;
  /** What it rests on. */
  evidence: string;
  now: number;
  suggested: number;
  /** What PATCH /settings takes to apply it. */
  change: Record<string, unknown>;
}

/** Fewer outcomes suggest nothing. */
const LEAST_TRIED = 5;
/** How many outcomes an assumption is worth. */
const ASSUMED_WEIGHT = 6;
/** Less of a difference is none. */
const LEAST_MOVE = 0.05;

const KINDS = [
  ['buyNow', 'buy', 'buying at a price'],
  ['free', 'register', 'registering what is free'],
  ['backorder', 'backorder', 'backorders'],
] as const;

/** Outcomes held against what was estimated before, and what follows for the settings. */
export function learningOf(store: Store) {
  const ended = outcomes(store);
  const settings = readSettings(store);
  const ranges = worthOutcomes(store, ended);
  const worth = rangeRecord(ranges.map(({ range }) => range));
  const suggestions: Suggestion[] = [];
  for (const [key, kind, words] of KINDS) {
    const tried = ended.filter((one) => one.kind === kind && !/card|payment|least|costs/.test(one.reason ?? ''));
    const won = tried.filter(({ state }) => state === 'won').length;
    const now = settings.chances[key];
    const suggested = Math.round(100 * learnedChance(won, tried.length, now, ASSUMED_WEIGHT)) / 100;
    if (tried.length >= LEAST_TRIED && Math.abs(suggested - now) >= LEAST_MOVE)
      suggestions.push({
        key,
        words: `The chance to be the first when ${words}`,
        evidence: `${won} of ${tried.length} were had; what was assumed counts as ${ASSUMED_WEIGHT} more`,
        now,
        suggested,
        change: { chances: { ...settings.chances, [key]: Math.min(0.99, Math.max(0.01, suggested)) } },
      });
  }
  const factor = worth.factor === null ? null : Math.round(100 * worth.factor * settings.rangeFactor) / 100;
  if (factor !== null && Math.abs(factor - settings.rangeFactor) >= LEAST_MOVE)
    suggestions.push({
      key: 'rangeFactor',
      words: 'The width of suggested worths',
      evidence: `${worth.within} of ${worth.count} held, where six in ten are meant to`,
      now: settings.rangeFactor,
      suggested: Math.min(5, Math.max(0.3, factor)),
      change: { rangeFactor: Math.min(5, Math.max(0.3, factor)) },
    });
  return {
    wins: calibrate(ended.flatMap(foretoldOf)),
    winsByVenue: grouped(ended, ({ venue }) => venue),
    winsByPurpose: grouped(ended, ({ purpose }) => purpose),
    worth,
    worthByPurpose: rangesBy(ranges),
    spam: calibrate(markedRisks(store).map(({ risk, isSpam }) => ({ chance: risk / 100, happened: isSpam }))),
    suggestions,
  };
}

export type Learning = ReturnType<typeof learningOf>;

const foretoldOf = ({ estimates, state }: OutcomeRow): Foretold[] =>
  estimates.winChance === undefined || state === 'refused'
    ? []
    : [{ chance: estimates.winChance, happened: state === 'won' }];

function grouped(
  ended: readonly OutcomeRow[],
  keyOf: (row: OutcomeRow) => string,
): { key: string; calibration: Calibration }[] {
  const keys = [...new Set(ended.map(keyOf))].sort();
  return keys
    .map((key) => ({ key, calibration: calibrate(ended.filter((row) => keyOf(row) === key).flatMap(foretoldOf)) }))
    .filter(({ calibration }) => calibration.count > 0);
}

interface PurposeRange {
  purpose: string;
  range: Ranged;
}

/** Worths that were said, against what names went for: at auction to whoever won, and when they were sold on. */
function worthOutcomes(store: Store, ended: readonly OutcomeRow[]): PurposeRange[] {
  const auctions = ended.flatMap(({ kind, finalMinor, purpose, estimates: { worthLowMinor, worthHighMinor } }) =>
    kind === 'bid' && finalMinor !== null && worthLowMinor && worthHighMinor
      ? [
          {
            purpose: `${purpose}, at auction`,
            range: { lowMinor: worthLowMinor, highMinor: worthHighMinor, cameMinor: finalMinor },
          },
        ]
      : [],
  );
  const rates = readRates(store);
  const sold = moneyEntries(store).filter(({ kind }) => kind === 'sale');
  const sales = listBriefs(store).flatMap(({ id, purpose, currency }) =>
    readShortlist(store, id).flatMap(({ domain, worthLowMinor, worthHighMinor }) => {
      const sale = sold.find(({ domain: name }) => name === domain.name);
      const [low, high] = [homeMinor(worthLowMinor, currency, rates), homeMinor(worthHighMinor, currency, rates)];
      return sale && low && high
        ? [{ purpose: `${purpose}, sold on`, range: { lowMinor: low, highMinor: high, cameMinor: sale.amountMinor } }]
        : [];
    }),
  );
  return [...auctions, ...sales];
}

function rangesBy(ranges: readonly PurposeRange[]): { key: string; record: RangeRecord }[] {
  const keys = [...new Set(ranges.map(({ purpose }) => purpose))].sort();
  return keys.map((key) => ({
    key,
    record: rangeRecord(ranges.filter(({ purpose }) => purpose === key).map(({ range }) => range)),
  }));
}
