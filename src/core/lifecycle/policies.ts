import { type Days, POLICY_ROWS, type PolicyRow } from './policy-table';

export type { Days };

/**
 * How long each stage after the expiry lasts under an ending. Days are counted from the end of the stage before; a pair is the
 * shortest and the longest.
 */
export interface LifePolicy {
  /** A TLD, or a second level with rules of its own; `*` stands for all endings that are not listed. */
  ending: string;
  /** From the expiry until the registrar deletes the name; it may be renewed at the usual price. */
  autoRenewDays: Days;
  /** The former owner may still restore it; also what registries call quarantine or transition. */
  redemptionDays: Days;
  /** Nobody can do anything; at its end the name is free. */
  pendingDeleteDays: Days;
  /** Hours of the day, UTC, between which the registry sets names free. */
  dropHours: [from: number, to: number];
  /** Days of the week on which it does, 0 for Sunday; absent: every day. */
  dropWeekdays?: number[];
  /** Whether the registry's record shows the next expiry already while the name is in its auto-renew period. */
  isExpiryMoved: boolean;
  /**
   * `documented`: by a standard or a rule that binds all registries of its kind; `recalled`: written from memory of the registry's
   * rules, and so reckoned with a margin; `assumed`: nothing is known. Absent: the person's own.
   */
  basis?: 'documented' | 'recalled' | 'assumed';
  /** By so many days a window is wider on either side. */
  marginDays?: number;
  /** Where this stands. */
  reference: string;
}

/** The longest stage that can be set; longer ones are typing errors. */
export const LONGEST_STAGE_DAYS = 400;

/** What registries publish, one entry an ending. A registry may change it: the person can. */
export const POLICIES: LifePolicy[] = POLICY_ROWS.flatMap(unpack);

function unpack({
  endings,
  days,
  hours = [0, 24],
  weekdays,
  moved = false,
  basis,
  margin = 0,
  reference,
}: PolicyRow): LifePolicy[] {
  const [autoRenewDays, redemptionDays, pendingDeleteDays] = days;
  return endings.split(' ').map((ending) => ({
    ending,
    autoRenewDays,
    redemptionDays,
    pendingDeleteDays,
    dropHours: hours,
    ...(weekdays && { dropWeekdays: weekdays }),
    isExpiryMoved: moved,
    basis,
    ...(margin > 0 && { marginDays: margin }),
    reference: basis === 'recalled' ? `${reference}; from memory` : reference,
  }));
}

const BY_ENDING = new Map(POLICIES.map((policy) => [policy.ending, policy]));
const OTHERS = BY_ENDING.get('*') as LifePolicy;

/**
 * The policy of an ending: the person's own, else the published one of the ending or of the TLD it stands under, else the assumption
 * for all others.
 */
export function policyFor(ending: string, own: readonly LifePolicy[] = []): LifePolicy {
  const ownOf = (wanted: string) => own.find((policy) => policy.ending === wanted);
  for (let suffix = ending; suffix !== ''; suffix = suffix.includes('.') ? suffix.slice(suffix.indexOf('.') + 1) : '') {
    const found = ownOf(suffix) ?? BY_ENDING.get(suffix);
    if (found) return found;
  }
  return ownOf('*') ?? OTHERS;
}

/** From expiry to drop, at least and at most, in days, without the margin. */
export function lapseDays({ autoRenewDays, redemptionDays, pendingDeleteDays }: LifePolicy): Days {
  return [
    autoRenewDays[0] + redemptionDays[0] + pendingDeleteDays[0],
    autoRenewDays[1] + redemptionDays[1] + pendingDeleteDays[1],
  ];
}
