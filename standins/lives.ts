import { hash } from './random';

const DAY = 86_400_000;
const HOUR = 3_600_000;

/** Days of each stage after an expiry, and the hours at which the registry sets names free; null: at any moment. */
interface Rules {
  autoRenew: number | 'by-registrar';
  redemption: number;
  pendingDelete: number;
  dropHours: [number, number] | null;
  /** The record shows the next expiry as soon as the name is in its auto-renew period. */
  isExpiryMoved: boolean;
}

const GENERIC: Rules = {
  autoRenew: 'by-registrar',
  redemption: 30,
  pendingDelete: 5,
  dropHours: [14, 16],
  isExpiryMoved: true,
};
const RULES: Record<string, Rules> = {
  com: { ...GENERIC, dropHours: [18, 20] },
  net: { ...GENERIC, dropHours: [18, 20] },
  'co.uk': { autoRenew: 30, redemption: 60, pendingDelete: 2, dropHours: null, isExpiryMoved: false },
  de: { autoRenew: 0, redemption: 30, pendingDelete: 0, dropHours: null, isExpiryMoved: false },
  eu: { autoRenew: 0, redemption: 40, pendingDelete: 0, dropHours: null, isExpiryMoved: false },
};

/** On which days after the expiry each registrar deletes what was not renewed. */
const HABITS: Record<string, [number, number]> = {
  'Coombe Names': [30, 33],
  'Pennywhistle Domains': [35, 38],
  'Tarn and Daughters': [40, 43],
  'Lodestone Registry Services': [27, 30],
  'Hobb Lane Names': [43, 45],
};

/** No lapse takes longer than this, in days. */
export const LONGEST_LAPSE_DAYS = 95;

export function rulesOf(ending: string): Rules {
  return RULES[ending] ?? GENERIC;
}

export interface Stages {
  redemptionAt: number;
  pendingDeleteAt: number;
  dropAt: number;
}

/** Days from the expiry until the registrar deletes the name: its habit, with a part of a day. */
export function graceDays(name: string, ending: string, registrar: string): number {
  const { autoRenew } = rulesOf(ending);
  if (autoRenew !== 'by-registrar') return autoRenew;
  const [first, last] = HABITS[registrar] ?? [35, 35];
  const draw = hash(`grace ${name}`) % 1000;
  return first + ((last - first) * draw) / 1000;
}

/** From expiry to drop in days, not counting that drops wait for their hour. */
export function lapseDays(name: string, ending: string, registrar: string): number {
  const { redemption, pendingDelete } = rulesOf(ending);
  return graceDays(name, ending, registrar) + redemption + pendingDelete;
}

/** When a name that ran out comes into each stage. */
export function stagesOf(name: string, ending: string, registrar: string, expiredAt: number): Stages {
  const { redemption, pendingDelete, dropHours } = rulesOf(ending);
  const redemptionAt = expiredAt + graceDays(name, ending, registrar) * DAY;
  const pendingDeleteAt = redemptionAt + redemption * DAY;
  const ends = pendingDeleteAt + pendingDelete * DAY;
  if (!dropHours) return { redemptionAt, pendingDeleteAt, dropAt: ends };
  const [from, to] = dropHours;
  const minute = hash(`drop ${name}`) % ((to - from) * 60);
  return { redemptionAt, pendingDeleteAt, dropAt: Math.floor(ends / DAY) * DAY + from * HOUR + minute * 60_000 };
}
