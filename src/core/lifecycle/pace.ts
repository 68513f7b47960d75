import { z } from 'zod';
/**
 * How often one server may be asked: what was declared, and what its refusals taught. Times in ms; moments since 1970 UTC.
 * Everything here is plain data, so that it is kept over restarts.
 */
export const Budget = z.object({
  /** Between two questions, now. */
  intervalMs: z.number(),
  /** Never less than this again: what a refusal taught; null: it has never refused. */
  learnedMs: z.number().nullable(),
  /** Earliest moment of the next question. */
  nextAt: z.number(),
  /** It wants to be left alone until then; 0: it does not. */
  pausedUntil: z.number(),
  /** Refusals in a row; 0 after an answer. */
  refusals: z.number(),
  /** Refusals ever, and when the last was. */
  refusedTimes: z.number(),
  refusedAt: z.number().nullable(),
  /** Answers since the last refusal. */
  answers: z.number(),
  /** Moments of the last answered questions, oldest first. */
  recent: z.array(z.number()),
  /** Usual time to an answer, and that of late. */
  usualMs: z.number().nullable(),
  lateMs: z.number().nullable(),
  /** The interval before its answers took longer and longer, while it is asked more slowly for that. Absent: it is not. */
  beforeLateMs: z.number().optional(),
  /** Its last sign of silence, and until when it wanted to be left alone before that. Absent: it has answered since. */
  silence: z.object({ at: z.number(), pausedBefore: z.number() }).optional(),
  /** When it was written last. Absent: not since times move along with the clock. */
  keptAt: z.number().optional(),
  /** Why the interval is what it is, in words. */
  reason: z.string(),
  /** By ending: a name that exists, which the server found, and when: it can know. Absent: none was tried. */
  proofs: z.record(z.string(), z.object({ name: z.string(), at: z.number() })).optional(),
});
export type Budget = z.infer<typeof Budget>;

/** What is declared of servers in general, or of one. */
export interface Declared {
  /** Least time between two questions. */
  intervalMs: number;
}

/** Questions are spaced a little wider than they must be: they do not all take the same time to arrive. */
const MARGIN = 1.02;
/** What a server is asked at most after a refusal that does not say how often it wants to be asked. */
const POLITE_MS = 1000;
/** A pause longer than this is a window of the server's, not a punishment. */
const LONGEST_PUNISHMENT_MS = 15 * 60_000;
const LONGEST_MS = 15 * 60_000;
const FIRST_PAUSE_MS = 1000;
const LONGEST_PAUSE_MS = 6 * 3_600_000;
const RECENT = 500;
const DAY = 86_400_000;
/** After a day without a refusal a learned interval may shrink by so much. */
const FORGIVEN = 0.8;
/** Answers that take so many times as long as usual mean that the server is at its limit. */
const LENGTHENED = 4;
const LENGTHENED_MIN_MS = 400;
/** Questions of so long may arrive at once; who asks for a longer pause means it, however busy this machine is. */
const LONGEST_JAM_MS = 15_000;
/** Between two questions to such a server pass so many times what its answers take, at most: the slowness may be our own machine's. */
const LENGTHENED_MOST = 2;

export function freshBudget(declared: Declared): Budget {
  return {
    intervalMs: declared.intervalMs,
    learnedMs: null,
    nextAt: 0,
    pausedUntil: 0,
    refusals: 0,
    refusedTimes: 0,
    refusedAt: null,
    answers: 0,
    recent: [],
    usualMs: null,
    lateMs: null,
    reason: 'as declared',
  };
}

/** The clock was set back by so many ms, and what was reckoned by it moves along: a pause of ten minutes stays one. */
export function setBack(budget: Budget, byMs: number): void {
  const moved = (at: number) => Math.max(0, at - byMs);
  budget.nextAt = moved(budget.nextAt);
  budget.pausedUntil = moved(budget.pausedUntil);
  if (budget.refusedAt !== null) budget.refusedAt = moved(budget.refusedAt);
  budget.recent = budget.recent.map(moved);
  if (budget.silence)
    budget.silence = { at: moved(budget.silence.at), pausedBefore: moved(budget.silence.pausedBefore) };
  for (const proof of Object.values(budget.proofs ?? {})) proof.at = moved(proof.at);
}

/** When the next question may be sent. */
export function turnAt(budget: Budget, now: number): number {
  return Math.max(now, budget.nextAt, budget.pausedUntil);
}

/** A question is being sent. */
export function sent(budget: Budget, now: number): void {
  budget.nextAt = now + budget.intervalMs;
}

/** It was answered, with whatever. */
export function answered(budget: Budget, declared: Declared, askedAt: number, elapsedMs: number, now: number): void {
  budget.refusals = 0;
  // the silence is over, and with it the pause that it cost
  if (budget.silence) budget.pausedUntil = Math.min(budget.pausedUntil, budget.silence.pausedBefore);
  delete budget.silence;
  budget.answers++;
  budget.recent.push(askedAt);
  if (budget.recent.length > RECENT) budget.recent.splice(0, budget.recent.length - RECENT);
  watchTimes(budget, elapsedMs);
  if (budget.learnedMs !== null && budget.refusedAt !== null && now - budget.refusedAt > DAY) {
    budget.refusedAt = now;
    budget.learnedMs = Math.max(declared.intervalMs, budget.learnedMs * FORGIVEN);
    budget.reason = 'learned, and tried a little faster after a day without a refusal';
  }
  const floor = floorOf(budget, declared);
  if (isLengthened(budget)) {
    const lateMs = budget.lateMs ?? 0;
    budget.beforeLateMs ??= budget.intervalMs;
    const most = Math.max(budget.intervalMs, lateMs * LENGTHENED_MOST);
    budget.intervalMs = Math.min(LONGEST_MS, most, Math.max(budget.intervalMs, lateMs) * 1.25);
    budget.reason = 'its answers take longer and longer';
  } else if (budget.intervalMs > floor) {
    // straight back to what is known to be borne: before it was slow, or by a refusal; else little by little
    const borneMs = Math.max(floor, budget.beforeLateMs ?? budget.learnedMs ?? budget.intervalMs);
    budget.intervalMs = Math.max(
      floor,
      borneMs < budget.intervalMs ? Math.max(borneMs, budget.intervalMs / 2) : budget.intervalMs * 0.95,
    );
    if (budget.intervalMs <= borneMs) delete budget.beforeLateMs;
    if (budget.intervalMs === floor)
      budget.reason = budget.learnedMs === null ? 'as declared' : 'learned from a refusal';
  }
}

/**
 * It refused: HTTP 429 or 503, or in words. What it bears is reckoned from how many questions it answered within the pause it asks
 * for; a pause that is a punishment is longer than its window, so that the polite interval of a second is believed before it.
 *
 * @param retryAfterMs what it asked for; null: nothing.
 * @param askedAt when the question was sent: of several under way at a refusal, only the first says anything new.
 */
export function refused(
  budget: Budget,
  declared: Declared,
  retryAfterMs: number | null,
  now: number,
  askedAt = now,
): void {
  if (budget.refusedAt !== null && askedAt < budget.refusedAt) {
    budget.pausedUntil = Math.max(budget.pausedUntil, now + (retryAfterMs ?? 0));
    if (budget.silence) budget.silence.pausedBefore = Math.max(budget.silence.pausedBefore, now + (retryAfterMs ?? 0));
    return;
  }
  delete budget.silence;
  // refused again before it has answered anything: it is still cross, which says nothing of the pace
  const isStillCross = budget.refusals > 0 && budget.answers === 0;
  // what was sent spread out arrived at once, behind answers that took long: that says nothing of the pace either
  const isJam = (retryAfterMs ?? 0) < LONGEST_JAM_MS && (isLengthened(budget) || isLate(budget, now - askedAt));
  budget.refusals++;
  budget.refusedTimes++;
  budget.refusedAt = now;
  budget.answers = 0;
  const pause = Math.min(LONGEST_PAUSE_MS, retryAfterMs ?? FIRST_PAUSE_MS * 2 ** Math.min(12, budget.refusals - 1));
  budget.pausedUntil = Math.max(budget.pausedUntil, now + pause);
  if (isStillCross) return;
  if (isJam) {
    budget.reason = 'it refused while its answers took long';
    return;
  }
  // not the one that it is asked in while its answers take long
  const before = Math.max(budget.beforeLateMs ?? budget.intervalMs, 1);
  delete budget.beforeLateMs;
  const polite = Math.max(POLITE_MS * MARGIN, declared.intervalMs);
  let learned = retryAfterMs ? borne(budget.recent, now, retryAfterMs) : before < POLITE_MS ? polite : before * 2;
  // a pause of seconds after few questions is a punishment, longer than its window; one of many minutes is meant as said
  if (learned > polite && before < POLITE_MS && (retryAfterMs ?? 0) < LONGEST_PUNISHMENT_MS) learned = polite;
  if (budget.learnedMs !== null) learned = Math.min(before * 1.5, Math.max(before * 1.1, learned));
  budget.learnedMs = Math.min(LONGEST_MS, Math.max(learned, declared.intervalMs));
  budget.intervalMs = budget.learnedMs;
  budget.reason =
    retryAfterMs === null
      ? 'learned: it refused without saying for how long'
      : `learned: it refused and asked for ${spell(retryAfterMs)}`;
}

/** The interval that keeps within its window: from the first question that counted until it will answer again, by their number. */
function borne(recent: number[], now: number, retryAfterMs: number): number {
  const counted = recent.filter((at) => at > now - Math.max(retryAfterMs, 1000));
  const window = now + retryAfterMs - (counted[0] ?? now);
  return (window / Math.max(1, counted.length)) * MARGIN;
}

/**
 * The connection was dropped or there was no answer in time: a little slower, and a pause that grows.
 *
 * @param askedAt when the question was sent: of several under way when the server fell silent, only the first says anything new.
 */
export function dropped(budget: Budget, now: number, askedAt = now): void {
  if (budget.silence && askedAt < budget.silence.at) return;
  budget.silence = { at: now, pausedBefore: budget.silence?.pausedBefore ?? budget.pausedUntil };
  delete budget.beforeLateMs;
  budget.refusals++;
  budget.answers = 0;
  budget.pausedUntil = Math.max(
    budget.pausedUntil,
    now + Math.min(LONGEST_PAUSE_MS, FIRST_PAUSE_MS * 2 ** Math.min(12, budget.refusals - 1)),
  );
  budget.intervalMs = Math.min(LONGEST_MS, Math.max(50, budget.intervalMs) * 1.5);
  budget.reason = 'it dropped connections or did not answer in time';
}

/** When so many questions will be through, by what is known now; ms from now. */
export function forecastMs(budget: Budget, questions: number, now: number): number {
  if (questions === 0) return 0;
  return turnAt(budget, now) - now + (questions - 1) * Math.max(budget.intervalMs, 1);
}

function floorOf(budget: Budget, declared: Declared): number {
  return Math.max(declared.intervalMs, budget.learnedMs ?? 0);
}

function watchTimes(budget: Budget, elapsedMs: number): void {
  budget.lateMs = budget.lateMs === null ? elapsedMs : budget.lateMs * 0.7 + elapsedMs * 0.3;
  if (budget.usualMs === null) budget.usualMs = elapsedMs;
  // what is usual follows downwards at once and upwards slowly
  else budget.usualMs = Math.min(budget.usualMs * 1.01 + 0.1, budget.usualMs * 0.9 + elapsedMs * 0.1);
}

function isLengthened(budget: Budget): boolean {
  return budget.lateMs !== null && isLate(budget, budget.lateMs);
}

function isLate({ usualMs }: Budget, ms: number): boolean {
  return usualMs !== null && ms > LENGTHENED_MIN_MS && ms > usualMs * LENGTHENED;
}

function spell(ms: number): string {
  if (ms < 90_000) return `${Math.max(1, Math.round(ms / 1000))} s`;
  return ms < 5_400_000 ? `${Math.round(ms / 60_000)} min` : `${Math.round(ms / 3_600_000)} h`;
}
