/**
 * How long each stage after the expiry lasts under an ending. Days are counted from the end of the stage before; a pair is the
 * shortest and the longest.
 */
export interface LifePolicy {
  /** `*` stands for all endings that are not listed. */
  ending: string;
  /** From the expiry until the registrar deletes the name; it may be renewed at the usual price. */
  autoRenewDays: Days;
  /** The former owner may still restore it. */
  redemptionDays: Days;
  /** Nobody can do anything; at its end the name is free. */
  pendingDeleteDays: Days;
  /** Hours of the day, UTC, between which the registry sets names free. */
  dropHours: [from: number, to: number];
  /** Whether the registry's record shows the next expiry already while the name is in its auto-renew period. */
  isExpiryMoved: boolean;
  /** Where this stands. */
  reference: string;
}
export type Days = [shortest: number, longest: number];

/** The longest stage that can be set; longer ones are typing errors. */
export const LONGEST_STAGE_DAYS = 400;

const GENERIC = {
  autoRenewDays: [0, 45],
  redemptionDays: [30, 30],
  pendingDeleteDays: [5, 5],
} satisfies Partial<LifePolicy>;
const GENERIC_REFERENCE = 'RFC 3915, 1; ICANN Expired Registration Recovery Policy, 3';

/** What the registries publish, read in November 2026. A registry may change it: the person can. */
export const POLICIES: LifePolicy[] = [
  { ending: 'com', ...GENERIC, dropHours: [18, 20], isExpiryMoved: true, reference: `${GENERIC_REFERENCE}; drop hours as observed` },
  { ending: 'net', ...GENERIC, dropHours: [18, 20], isExpiryMoved: true, reference: `${GENERIC_REFERENCE}; drop hours as observed` },
  { ending: 'org', ...GENERIC, dropHours: [14, 16], isExpiryMoved: true, reference: `${GENERIC_REFERENCE}; drop hours as observed` },
  { ending: 'info', ...GENERIC, dropHours: [14, 16], isExpiryMoved: true, reference: `${GENERIC_REFERENCE}; drop hours as observed` },
  { ending: 'me', ...GENERIC, dropHours: [14, 16], isExpiryMoved: true, reference: 'Policy of the registry for .me; drop hours as observed' },
  { ending: 'co.uk', autoRenewDays: [30, 30], redemptionDays: [60, 60], pendingDeleteDays: [2, 2], dropHours: [0, 24], isExpiryMoved: false, reference: 'Nominet, expiry of .uk domains: suspended after 30 days, cancelled after 90, free from the 92nd' },
  { ending: 'de', autoRenewDays: [0, 0], redemptionDays: [30, 30], pendingDeleteDays: [0, 0], dropHours: [0, 24], isExpiryMoved: false, reference: 'DENIC, domain guidelines: redemption grace period of 30 days after deletion' },
  { ending: 'eu', autoRenewDays: [0, 0], redemptionDays: [40, 40], pendingDeleteDays: [0, 0], dropHours: [0, 24], isExpiryMoved: false, reference: 'EURid, registration policy: quarantine of 40 days after deletion' },
  { ending: '*', ...GENERIC, dropHours: [0, 24], isExpiryMoved: false, reference: `${GENERIC_REFERENCE}; assumed for endings that are not listed` },
]; // biome-ignore format: one ending a line

/** The policy of an ending: the person's own, else the published one, else the assumption for all others. */
export function policyFor(ending: string, own: readonly LifePolicy[] = []): LifePolicy {
  const known = (list: readonly LifePolicy[], wanted: string) => list.find((policy) => policy.ending === wanted);
  const last = ending.slice(ending.lastIndexOf('.') + 1);
  for (const wanted of last === ending ? [ending] : [ending, last]) {
    const found = known(own, wanted) ?? known(POLICIES, wanted);
    if (found) return found;
  }
  return known(own, '*') ?? (known(POLICIES, '*') as LifePolicy);
}

/** From expiry to drop, at least and at most, in days. */
export function lapseDays({ autoRenewDays, redemptionDays, pendingDeleteDays }: LifePolicy): Days {
  return [
    autoRenewDays[0] + redemptionDays[0] + pendingDeleteDays[0],
    autoRenewDays[1] + redemptionDays[1] + pendingDeleteDays[1],
  ];
}
