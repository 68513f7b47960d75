import type { EnginePort } from '../../contracts/engine-port';
import type { Suggestion } from '../../contracts/learning';
import { FIT_TITLES } from '../../core/fit/fit';
import { fixed } from '../../core/formats/figures';
import {
  type Calibration,
  calibrate,
  type Foretold,
  learnedChance,
  type Ranged,
  type RangeRecord,
  rangeRecord,
  widened,
} from '../../core/learning/calibration';
import { learnThreshold, type MarkedRisk } from '../../core/learning/threshold';
import { type Decided, learnWeights } from '../../core/learning/weights';
import { windowRecord, windowRecords } from '../../core/learning/windows';
import { homeMinor } from '../../core/listings/rates';
import type { SievePart } from '../../core/pool/conditions';
import { carriedOutcome } from '../../core/redirects/access-log';
import type { Store } from '../../store/base/database';
import { readRates, readSettings } from '../../store/base/settings';
import { findDomain, readDomains } from '../../store/domains/domains';
import { dropOutcomes } from '../../store/lifecycle/verdicts';
import { markedRisks } from '../../store/links/spam-points';
import { type OutcomeRow, outcomes } from '../../store/orders/order-log';
import { moneyEntries } from '../../store/portfolio/holdings';
import { hitsOf, logsOf, redirectedDomains } from '../../store/portfolio/redirects';
import { type Brief, listBriefs } from '../../store/shortlist/briefs';
import { readShortlist } from '../../store/shortlist/shortlist';
import { fitsOf, weightsOf } from '../fit/fit';
import { redirectPlan } from '../redirects/redirects';

const MOST_DROPS = 5000;
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

/** Outcomes held against what was estimated before, and what follows for the settings and a brief. */
export async function learningOf(store: Store, engine: EnginePort, brief: Brief) {
  const ended = outcomes(store);
  const ranges = worthOutcomes(store, ended);
  const worth = rangeRecord(ranges.map(({ range }) => range));
  const marked = markedRisks(store);
  const drops = dropOutcomes(store, MOST_DROPS);
  return {
    wins: calibrate(ended.flatMap(foretoldOf)),
    winsByVenue: grouped(ended, ({ venue }) => venue),
    winsByPurpose: grouped(ended, ({ purpose }) => purpose),
    worth,
    worthByPurpose: rangesBy(ranges),
    spam: calibrate(marked.map(({ risk, isSpam }) => ({ chance: risk / 100, happened: isSpam }))),
    windows: windowRecords(drops),
    windowsAll: windowRecord('all', drops),
    redirects: await redirectOutcomes(store),
    suggestions: [
      ...chanceSuggestions(store, ended),
      ...rangeSuggestion(store, worth, ranges),
      ...thresholdSuggestion(brief, marked),
      ...(await weightSuggestion(store, engine, brief)),
    ],
  };
}

/** What was turned down for its price or its payment says nothing of who is the first. */
const tellsWhoWasFirst = ({ state, refusedFor }: OutcomeRow) => state !== 'refused' || refusedFor === 'gone';

const percent = (share: number) => `${Math.round(100 * share)}%`;

function chanceSuggestions(store: Store, ended: readonly OutcomeRow[]): Suggestion[] {
  const { chances } = readSettings(store);
  return KINDS.flatMap(([key, kind, words]) => {
    const tried = ended.filter((one) => one.kind === kind && tellsWhoWasFirst(one));
    const won = tried.filter(({ state }) => state === 'won').length;
    const now = chances[key];
    const suggested = Math.round(100 * learnedChance(won, tried.length, now, ASSUMED_WEIGHT)) / 100;
    if (tried.length < LEAST_TRIED || Math.abs(suggested - now) < LEAST_MOVE) return [];
    const squares = (chance: number) =>
      (won * (1 - chance) ** 2 + (tried.length - won) * chance ** 2) / Math.max(1, tried.length);
    return {
      key,
      words: `The chance to be the first when ${words}`,
      evidence: `${won} of ${tried.length} were had; what was assumed counts as ${ASSUMED_WEIGHT} more`,
      effect: `over these the Brier score would have been ${fixed(squares(suggested), 3)}, not ${fixed(squares(now), 3)}`,
      now: percent(now),
      suggested: percent(suggested),
      of: 'settings' as const,
      change: { chances: { ...chances, [key]: Math.min(0.99, Math.max(0.01, suggested)) } },
      back: { chances },
    };
  });
}

function rangeSuggestion(store: Store, worth: RangeRecord, ranges: readonly PurposeRange[]): Suggestion[] {
  const { rangeFactor } = readSettings(store);
  if (worth.factor === null) return [];
  const factor = Math.min(5, Math.max(0.3, Math.round(100 * worth.factor * rangeFactor) / 100));
  if (Math.abs(factor - rangeFactor) < LEAST_MOVE) return [];
  const wide = rangeRecord(ranges.map(({ range }) => widened(range, factor / rangeFactor)));
  // outcomes so far off that no width reaches them
  if (wide.within === worth.within) return [];
  return [
    {
      key: 'rangeFactor',
      words: 'The width of suggested worths',
      evidence: `${worth.within} of ${worth.count} held, where six in ten are meant to`,
      effect: `${wide.within} of them would have held`,
      now: String(rangeFactor),
      suggested: String(factor),
      of: 'settings' as const,
      change: { rangeFactor: factor },
      back: { rangeFactor },
    },
  ];
}

function thresholdSuggestion({ id, name, limits }: Brief, marked: readonly MarkedRisk[]): Suggestion[] {
  const most = limits.mostSpamRisk ?? null;
  const lesson = learnThreshold(marked, most);
  if (!lesson) return [];
  return [
    {
      key: 'mostSpamRisk',
      words: `The most spam risk that ${name} lets through`,
      evidence: `of ${lesson.marks} marks of yours it contradicts ${lesson.wrongBefore}`,
      effect: `it would have contradicted ${lesson.wrongAfter}`,
      now: most === null ? 'no limit' : String(most),
      suggested: String(lesson.most),
      of: 'brief' as const,
      brief: id,
      change: { limits: { ...limits, mostSpamRisk: lesson.most } },
      back: { limits },
    },
  ];
}

const DECIDED: SievePart[] = [
  { type: 'choice', fact: 'judged', values: ['keep', 'pass'], not: false, keepUnknown: false },
];
/** So many decisions are learned from. */
const MOST_DECIDED = 300;

/** Weights under which what was kept for a brief, or shortlisted, stands above what was passed. */
async function weightSuggestion(store: Store, engine: EnginePort, brief: Brief): Promise<Suggestion[]> {
  const { ids } = await engine
    .queryPool({ parts: DECIDED, sorts: [], offset: 0, limit: MOST_DECIDED, histograms: [] })
    .catch(() => ({ ids: [] as number[] }));
  const shortlist = readShortlist(store, brief.id);
  const stages = new Map(shortlist.map(({ domainId, stage }) => [domainId, stage]));
  const rows = readDomains(store, [...new Set([...ids, ...stages.keys()])].slice(0, MOST_DECIDED));
  const fits = await fitsOf(engine, rows, brief);
  const decided = rows.map((row, n): Decided => {
    const stage = stages.get(row.id);
    return { parts: fits[n].parts, isKept: stage === undefined ? row.judged === 'keep' : stage !== 'let go' };
  });
  const lesson = learnWeights(decided, weightsOf(brief));
  if (!lesson) return [];
  const pairs = (share: number) => Math.round(100 * share);
  return [
    {
      key: 'weights',
      words: `The weights of fit for ${brief.name}`,
      evidence: `${lesson.kept} kept and ${lesson.passed} passed; of 100 pairs ${pairs(lesson.before)} stand in the right order`,
      effect: `${pairs(lesson.after)} would, reckoned on names that they were not learned from`,
      now: lesson.changed.map(({ part, from }) => `${FIT_TITLES[part]} ${from}`).join(', '),
      suggested: lesson.changed.map(({ part, to }) => `${FIT_TITLES[part]} ${to}`).join(', '),
      of: 'brief' as const,
      brief: brief.id,
      change: { weights: lesson.weights },
      back: { weights: brief.weights },
    },
  ];
}

/** What redirects were meant to carry, and what logs say that they did. */
async function redirectOutcomes(store: Store) {
  const outcomes = [];
  for (const { id, name } of redirectedDomains(store)) {
    const row = findDomain(store, name);
    if (!row) continue;
    const { carried, proposals, rules } = await redirectPlan(store, row);
    const logs = logsOf(store, id);
    const confidences = new Map(
      proposals.flatMap(({ old, candidates }) =>
        candidates.map(({ url, confidence }) => [`${old.path} ${url}`, confidence]),
      ),
    );
    const byPath = new Map(
      rules.map(({ from, to }) => [from, { to, confidence: confidences.get(`${from} ${to}`) ?? 0 }]),
    );
    outcomes.push({
      name,
      planned:
        carried.all === 0 ? null : { moved: carried.moved / carried.all, relevant: carried.relevant / carried.all },
      came: logs.length === 0 ? null : carriedOutcome(hitsOf(store, id), byPath),
      from: logs.reduce<number | null>(
        (least, { fromAt }) => (fromAt === null ? least : Math.min(least ?? fromAt, fromAt)),
        null,
      ),
      to: logs.reduce<number | null>((most, { toAt }) => (toAt === null ? most : Math.max(most ?? toAt, toAt)), null),
    });
  }
  return outcomes;
}

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
