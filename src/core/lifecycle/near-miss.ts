import type { Phase } from './phase';

const DAY = 86_400_000;
/** After so many days of waiting a name is worth half of what it would be now: others watch it, too, and briefs change. */
const HALF_LIFE_DAYS = 30;

/** A name that is not free yet. */
export interface NearMiss {
  id: number;
  phase: Phase;
  strength: number | null;
  trust: number | null;
  spamRisk: number | null;
  /** When it should be free at the latest, ms since 1970 UTC; null: not known. */
  freeAt: number | null;
}

/** Stages are this long where no window says more. */
const USUAL_DAYS: Partial<Record<Phase, number>> = { 'pending-delete': 5, redemption: 35, 'auto-renew': 75 };

/**
 * What a name is worth waiting for: trust and strength as far as they go together, less its spam risk, halved with every
 * HALF_LIFE_DAYS of waiting. 0 to 100.
 */
export function worthOfWaiting(
  { phase, strength, trust, spamRisk, freeAt }: Omit<NearMiss, 'id'>,
  now: number,
): number {
  const value = ((trust ?? 0) * 2 + (strength ?? 0)) / 3;
  const clean = 1 - (spamRisk ?? 0) / 100;
  const days = freeAt === null ? (USUAL_DAYS[phase] ?? 365) : Math.max(0, (freeAt - now) / DAY);
  return value * clean * 0.5 ** (days / HALF_LIFE_DAYS);
}

/** The names best worth waiting for, the best first; ties by id. */
export function rankNearMisses<T extends NearMiss>(names: T[], now: number, limit: number): T[] {
  return names
    .map((name) => ({ name, worth: worthOfWaiting(name, now) }))
    .sort((a, b) => b.worth - a.worth || a.name.id - b.name.id)
    .slice(0, limit)
    .map(({ name }) => name);
}
