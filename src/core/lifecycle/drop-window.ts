import type { Phase, RegistrationRecord } from './phase';
import type { Days, LifePolicy } from './policies';

const DAY = 86_400_000;
const HOUR = 3_600_000;

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
  record: Pick<RegistrationRecord, 'expiresAt' | 'changedAt' | 'registrar' | 'deletesAt' | 'freeAt'> | null;
  /** When an earlier look found the name in the phase before; null: there was none. */
  lastSeenBefore: number | null;
  /** The earliest look that found it in this phase; null: now. */
  firstSeenIn: number | null;
}

/**
 * The expected drop of a name, as narrow as what is known of it and the policy of its ending allow.
 *
 * A stage is counted from what it began with, never from now: the moment at which the record was last changed, where that lies where the
 * policy lets the stage begin; else the looks that found the stage before and this one; else the expiry. That a name is still in a stage
 * moves the beginning of the window, never its end: looking again narrows it or leaves it. A name that outlives its policy has a window
 * that is over, and says so.
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
  const stated = statedDrop(seen, policy, now, reasons);
  if (stated) return stated;
  const { redemptionDays, pendingDeleteDays } = policy;

  if (phase === 'active' || phase === 'auto-renew') {
    if (expiredAt === null) return null;
    const grace = graceDays(policy, habit, reasons);
    const began: Span = [expiredAt + grace[0] * DAY, expiredAt + grace[1] * DAY];
    let isConditional = phase === 'active';
    if (phase === 'auto-renew') {
      // it has not been deleted yet
      began[0] = Math.max(began[0], Math.min(now, began[1]));
      if (now > began[1] && habit) {
        began[1] = Math.max(began[1], expiredAt + policy.autoRenewDays[1] * DAY);
        began[0] = Math.min(now, began[1]);
        reasons.push(`it has outlived what ${habit.registrar} was seen to allow`);
      }
      if (now > began[1] + marginMs(policy) + DAY) {
        reasons.push(
          'it has outlived the longest auto-renew period: somebody pays for it, or the rule does not hold for it',
        );
        isConditional = true;
        began[0] = now;
        began[1] = now;
      }
    }
    stageReason(reasons, 'redemption', redemptionDays);
    stageReason(reasons, 'pending delete', pendingDeleteDays);
    const ended = later(later(began, redemptionDays), pendingDeleteDays);
    return atDropHours(ended, policy, isConditional, reasons, now);
  }

  const isRedemption = phase === 'redemption';
  const began = stageBegan(seen, expiredAt, policy, now, reasons);
  if (isRedemption) stageReason(reasons, 'redemption', redemptionDays);
  stageReason(reasons, 'pending delete', pendingDeleteDays);
  const ended = isRedemption ? later(later(began, redemptionDays), pendingDeleteDays) : later(began, pendingDeleteDays);
  return atDropHours(ended, policy, false, reasons, now);
}

type Span = [from: number, to: number];

const day = (at: number) => new Date(at).toISOString().slice(0, 10);
const marginMs = ({ marginDays = 0 }: LifePolicy) => marginDays * DAY;

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
  if (phase === 'active' || shown <= now) return shown;
  // what is in its auto-renew period has run out, whatever is shown; what was deleted before its time has not
  return phase === 'auto-renew' || policy.isExpiryMoved ? aYearBefore(shown) : null;
}

/**
 * A window after one that was reckoned before it, of the same lapse by the same rules: what both leave open. Where they have nothing in
 * common, something was other than it was thought, and the later one stands.
 */
export function narrowed(before: DropWindow | null, after: DropWindow): DropWindow {
  if (before === null) return after;
  const from = Math.max(before.from, after.from);
  const to = Math.min(before.to, after.to);
  return from <= to ? { ...after, from, to } : after;
}

/** The same day of the year before; of the 29th of February the 28th. */
function aYearBefore(at: number): number {
  const date = new Date(at);
  const before = Date.UTC(
    date.getUTCFullYear() - 1,
    date.getUTCMonth(),
    Math.min(date.getUTCDate(), date.getUTCMonth() === 1 ? 28 : 31),
  );
  return before + (at % DAY);
}

function toldExpiry(seen: LifeSeen, policy: LifePolicy, now: number, reasons: string[]): number | null {
  const at = expiryOf(seen, policy, now);
  if (at === null) return null;
  const isMoved = at !== seen.record?.expiresAt;
  const days = Math.floor(Math.abs(now - at) / DAY);
  reasons.push(at <= now ? `expired ${days} days ago, ${day(at)}` : `expires in ${days} days, ${day(at)}`);
  if (isMoved) reasons.push('the registry shows the expiry of a year later already');
  return at;
}

/** Where the registry itself states when it deletes the name or sets it free. */
function statedDrop(
  { phase, record }: LifeSeen,
  policy: LifePolicy,
  now: number,
  reasons: string[],
): DropWindow | null {
  const freeAt = record?.freeAt ?? null;
  const deletesAt = record?.deletesAt ?? null;
  const at = freeAt ?? deletesAt;
  if (at === null) return null;
  reasons.push(
    freeAt === null
      ? `the registry states that it deletes it ${day(at)}`
      : `the registry states that it is available from ${day(at)}`,
  );
  const longest = freeAt === null ? policy.pendingDeleteDays[1] : 0;
  const from = Math.floor(at / DAY) * DAY;
  const to = Math.max(at, from) + (longest + 1) * DAY;
  return notYet({ from, to, isConditional: phase === 'active', reasons }, now);
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
  const [least, most] = habit.days.map((one) => Math.round(one));
  reasons.push(
    `${habit.registrar} deleted ${least === most ? `on day ${least}` : `between day ${least} and ${most}`}, ${habit.names} names seen`,
  );
  return days;
}

function stageReason(reasons: string[], name: string, [shortest, longest]: Days): void {
  if (longest > 0) reasons.push(`${name} of ${shortest === longest ? longest : `${shortest} to ${longest}`} days`);
}

/** Between which moments redemption or pending delete must have begun. */
function stageBegan(
  seen: LifeSeen,
  expiredAt: number | null,
  policy: LifePolicy,
  now: number,
  reasons: string[],
): Span {
  const { autoRenewDays, redemptionDays, pendingDeleteDays } = policy;
  const isRedemption = seen.phase === 'redemption';
  const name = isRedemption ? 'redemption' : 'pending delete';
  const longest = isRedemption ? redemptionDays[1] : pendingDeleteDays[1];
  const margin = marginMs(policy);
  // between the looks; and where it was seen in the stage, no longer before that than the stage lasts: names wait for their hour
  // where only this look saw it, and the expiry is known, now says nothing of the beginning: it would move with every look
  const latest = seen.firstSeenIn ?? (expiredAt === null ? now : Number.POSITIVE_INFINITY);
  const lasts = (longest + 1) * DAY + margin;
  const looks: Span = [Math.min(latest, seen.lastSeenBefore ?? Number.NEGATIVE_INFINITY), latest];
  if (seen.firstSeenIn !== null) looks[0] = Math.max(looks[0], latest - lasts);
  const sinceLook: Span = [Math.max(looks[0], (seen.firstSeenIn ?? now) - lasts), Math.min(latest, now)];
  const changed = seen.record?.changedAt ?? null;
  if (changed !== null && changed >= sinceLook[0] - HOUR && changed <= sinceLook[1] + HOUR) {
    reasons.push(`${name} since registration data was changed, ${day(changed)}`);
    return [changed, changed];
  }
  // where the change is that of the deletion, the stage before has its fixed length
  const [least, most] = redemptionDays;
  if (!isRedemption && changed !== null && most > 0) {
    const since: Span = [changed + least * DAY, changed + most * DAY];
    const span = shared(since, [sinceLook[0] - HOUR, sinceLook[1] + HOUR]);
    if (span && span[0] === since[0] && span[1] === since[1]) {
      reasons.push(
        `deleted when registration data was changed, ${day(changed)}; redemption of ${least === most ? most : `${least} to ${most}`} days`,
      );
      return span;
    }
  }
  // what the expiry leaves open
  const before: Days = isRedemption
    ? autoRenewDays
    : [autoRenewDays[0] + redemptionDays[0], autoRenewDays[1] + redemptionDays[1]];
  const byExpiry: Span | null = expiredAt === null ? null : [expiredAt + before[0] * DAY, expiredAt + before[1] * DAY];
  const widened: Span | null = byExpiry && [byExpiry[0] - margin, byExpiry[1] + margin];
  const open: Span = (byExpiry && widened && (shared(byExpiry, looks) ?? shared(widened, looks))) ?? [
    looks[0],
    Math.min(looks[1], now),
  ];
  const span: Span = [Math.max(open[0], Math.min(open[1], now - lasts)), open[1]];
  const [from, to] = span.map(day);
  reasons.push(from === to ? `${name} since ${from}` : `${name} since between ${from} and ${to}`);
  return span;
}

function shared(one: Span, other: Span): Span | null {
  const span: Span = [Math.max(one[0], other[0]), Math.min(one[1], other[1])];
  return span[0] <= span[1] ? span : null;
}

const later = ([from, to]: Span, [shortest, longest]: Days): Span => [from + shortest * DAY, to + longest * DAY];

const WEEKDAYS = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];

/** Names are set free on the day their last stage ends, or on the next day on which the registry does so, between its drop hours. */
function atDropHours(
  ended: Span,
  policy: LifePolicy,
  isConditional: boolean,
  reasons: string[],
  now: number,
): DropWindow {
  const { dropHours, dropWeekdays, basis } = policy;
  const margin = marginMs(policy);
  const midnight = (at: number) => Math.floor(at / DAY) * DAY;
  const [first, last] = dropHours;
  const isWholeDay = first === 0 && last === 24 && !dropWeekdays;
  let [from, to] = [ended[0] - margin, ended[1] + margin];
  // within the day that follows
  if (isWholeDay) to += DAY;
  else {
    from = nextDay(midnight(from), dropWeekdays) + first * HOUR;
    to = nextDay(midnight(to), dropWeekdays) + last * HOUR;
    const on = dropWeekdays ? ` on ${dropWeekdays.map((one) => `${WEEKDAYS[one]}s`).join(' and ')}` : '';
    reasons.push(`the registry drops names${on} between ${first}:00 and ${last}:00 UTC`);
  }
  if (basis === 'assumed')
    reasons.push(
      `nothing is known of the rules of this ending: those of generic ones are assumed, ${policy.marginDays ?? 0} days either way`,
    );
  else if (margin > 0)
    reasons.push(
      `the rules are from memory: ${policy.marginDays} ${policy.marginDays === 1 ? 'day' : 'days'} either way`,
    );
  return notYet({ from, to, isConditional, reasons }, now);
}

/** The first of these days of the week, from a midnight on. */
function nextDay(midnight: number, weekdays: number[] | undefined): number {
  if (!weekdays || weekdays.length === 0) return midnight;
  let at = midnight;
  while (!weekdays.includes(new Date(at).getUTCDay())) at += DAY;
  return at;
}

/** It is still there: what is over of its window can be left out. */
function notYet(window: DropWindow, now: number): DropWindow {
  if (now > window.to)
    window.reasons.push(
      `it should have dropped by ${day(window.to)} and is still there: it goes any moment, or the rules do not hold for it`,
    );
  return { ...window, from: Math.max(window.from, Math.min(now, window.to)) };
}
