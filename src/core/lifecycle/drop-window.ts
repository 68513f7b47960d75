import type { Phase, RegistrationRecord } from './phase';
import type { Days, LifePolicy } from './policies';

const DAY = 86_400_000;
const HOUR = 3_600_000;
const YEAR = 365.25 * DAY;

/** When a name is expected to become free. Times in ms since 1970 UTC. */
export interface DropWindow {
  from: number;
  to: number;
  /** The name is not lapsing: it drops then only if its owner does not renew. */
  isConditional: boolean;
  /** One step of the reasoning each, in order. */
  reasons: string[];
}

/** On which day after the expiry a registrar deleted names that were seen: the shortest and the longest, over so many. */
export interface RegistrarHabit {
  registrar: string;
  days: Days;
  names: number;
}

/** Habits over fewer names say nothing. */
export const LEAST_FOR_HABIT = 8;
/** A habit is widened by so much on either side: the next name may be the one that makes it wider. */
const HABIT_MARGIN_DAYS = 1;

export interface LifeSeen {
  phase: Phase;
  record: Pick<RegistrationRecord, 'expiresAt' | 'changedAt' | 'registrar'> | null;
  /** When an earlier look found the name in the phase before; null: there was none. */
  lastSeenBefore: number | null;
  /** The earliest look that found it in this phase; null: now. */
  firstSeenIn: number | null;
}

/**
 * The expected drop of a name, as narrow as what is known of it and the policy of its ending allow.
 *
 * A stage begins where the record was last changed, when that lies where the policy lets the stage begin; else between the
 * last look that found the stage before and the first that found this one; else anywhere the policy allows after the expiry.
 *
 * @returns null for names that are free, cannot be had, or of which nothing is known to reckon from.
 */
export function expectedDrop(
  seen: LifeSeen,
  policy: LifePolicy,
  habit: RegistrarHabit | null,
  now: number,
): DropWindow | null {
  const { phase } = seen;
  if (phase === 'free' || phase === 'not-registrable' || phase === 'unknown') return null;
  const reasons: string[] = [];
  const expiredAt = toldExpiry(seen, policy, now, reasons);
  const { redemptionDays, pendingDeleteDays } = policy;

  if (phase === 'active' || phase === 'auto-renew') {
    if (expiredAt === null) return null;
    const grace = graceDays(policy, habit, reasons);
    const began: Span = [expiredAt + grace[0] * DAY, expiredAt + grace[1] * DAY];
    // it has not been deleted yet
    if (phase === 'auto-renew' && began[0] < now) {
      began[0] = now;
      if (began[1] < now) {
        began[1] = Math.max(now, expiredAt + policy.autoRenewDays[1] * DAY);
        if (habit) reasons.push(`it has outlived what ${habit.registrar} was seen to allow`);
      }
    }
    stageReason(reasons, 'redemption', redemptionDays);
    stageReason(reasons, 'pending delete', pendingDeleteDays);
    const ended = later(later(began, redemptionDays), pendingDeleteDays);
    return atDropHours(ended, policy, phase === 'active', reasons, now);
  }

  const isRedemption = phase === 'redemption';
  const before: Days = isRedemption
    ? policy.autoRenewDays
    : [policy.autoRenewDays[0] + redemptionDays[0], policy.autoRenewDays[1] + redemptionDays[1]];
  const longest = isRedemption ? redemptionDays[1] : pendingDeleteDays[1];
  const began = stageBegan(
    seen,
    expiredAt,
    before,
    longest,
    now,
    isRedemption ? 'redemption' : 'pending delete',
    reasons,
  );
  if (isRedemption) stageReason(reasons, 'redemption', redemptionDays);
  stageReason(reasons, 'pending delete', pendingDeleteDays);
  const ended = isRedemption ? later(later(began, redemptionDays), pendingDeleteDays) : later(began, pendingDeleteDays);
  return atDropHours(ended, policy, false, reasons, now);
}

type Span = [from: number, to: number];

/**
 * When the registration ran out or will: ms since 1970 UTC, null when the record does not say. Some registries show the next expiry as
 * soon as a name is in its auto-renew period.
 */
export function expiryOf(
  { phase, record }: Pick<LifeSeen, 'phase' | 'record'>,
  policy: LifePolicy,
  now: number,
): number | null {
  const shown = record?.expiresAt ?? null;
  if (shown === null) return null;
  return phase !== 'active' && policy.isExpiryMoved && shown > now ? shown - YEAR : shown;
}

function toldExpiry(seen: LifeSeen, policy: LifePolicy, now: number, reasons: string[]): number | null {
  const at = expiryOf(seen, policy, now);
  if (at === null) return null;
  const isMoved = at !== seen.record?.expiresAt;
  const days = Math.floor(Math.abs(now - at) / DAY);
  reasons.push(at <= now ? `expired ${days} days ago` : `expires in ${days} days`);
  if (isMoved) reasons.push('the registry shows the expiry of a year later already');
  return at;
}

function graceDays(policy: LifePolicy, habit: RegistrarHabit | null, reasons: string[]): Days {
  const [shortest, longest] = policy.autoRenewDays;
  if (longest > 0)
    reasons.push(
      shortest === longest
        ? `auto-renew period of ${longest} days`
        : `auto-renew period of ${shortest > 0 ? `${shortest} to` : 'up to'} ${longest} days`,
    );
  if (!habit || habit.names < LEAST_FOR_HABIT || shortest === longest) return [shortest, longest];
  const days: Days = [
    Math.max(shortest, habit.days[0] - HABIT_MARGIN_DAYS),
    Math.min(longest, habit.days[1] + HABIT_MARGIN_DAYS),
  ];
  if (days[0] > days[1]) return [shortest, longest];
  const [least, most] = habit.days.map((day) => Math.round(day));
  reasons.push(
    `${habit.registrar} deleted ${least === most ? `on day ${least}` : `between day ${least} and ${most}`}, ${habit.names} names seen`,
  );
  return days;
}

function stageReason(reasons: string[], name: string, [shortest, longest]: Days): void {
  if (longest > 0) reasons.push(`${name} of ${shortest === longest ? longest : `${shortest} to ${longest}`} days`);
}

/** Between which moments a stage must have begun. */
function stageBegan(
  seen: LifeSeen,
  expiredAt: number | null,
  sinceExpiry: Days,
  longestDays: number,
  now: number,
  name: string,
  reasons: string[],
): Span {
  // it is in the stage now, so that it began within the stage's length; and names wait for the hour at which they are set free
  const span: Span = [now - (longestDays + 1) * DAY, seen.firstSeenIn ?? now];
  // seen in it for longer than the policy lets it last: then it began where it was seen first
  span[0] = Math.min(span[0], span[1]);
  if (seen.lastSeenBefore !== null && seen.lastSeenBefore > span[0]) span[0] = Math.min(seen.lastSeenBefore, span[1]);
  const changed = seen.record?.changedAt ?? null;
  if (changed !== null && changed >= span[0] - HOUR && changed <= span[1] + HOUR) {
    reasons.push(`${name} since the record was changed, ${new Date(changed).toISOString().slice(0, 10)}`);
    return [changed, changed];
  }
  if (expiredAt !== null) {
    const from = Math.max(span[0], expiredAt + sinceExpiry[0] * DAY);
    const to = Math.min(span[1], expiredAt + sinceExpiry[1] * DAY);
    if (from <= to) {
      span[0] = from;
      span[1] = to;
    }
  }
  const days = span.map((at) => new Date(at).toISOString().slice(0, 10));
  reasons.push(days[0] === days[1] ? `${name} since ${days[0]}` : `${name} since between ${days[0]} and ${days[1]}`);
  return span;
}

const later = ([from, to]: Span, [shortest, longest]: Days): Span => [from + shortest * DAY, to + longest * DAY];

/** Names are set free on the day their last stage ends, between the registry's drop hours. */
function atDropHours(
  ended: Span,
  { dropHours }: LifePolicy,
  isConditional: boolean,
  reasons: string[],
  now: number,
): DropWindow {
  const midnight = (at: number) => Math.floor(at / DAY) * DAY;
  const [first, last] = dropHours;
  const isWholeDay = first === 0 && last === 24;
  const from = isWholeDay ? ended[0] : midnight(ended[0]) + first * HOUR;
  const to = isWholeDay ? Math.max(ended[1], ended[0] + DAY) : midnight(ended[1]) + last * HOUR;
  if (!isWholeDay) reasons.push(`the registry drops names between ${first}:00 and ${last}:00 UTC`);
  // still there after the last hour of the window: it should be gone any moment
  return { from: Math.max(from, Math.min(now, to)), to: Math.max(to, now), isConditional, reasons };
}
