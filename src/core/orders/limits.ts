/** Hard limits, in minor units of one currency; null: none. */
export interface Limits {
  /** Of the brief: what its orders hold and have spent may not be more. */
  briefMinor: number | null;
  /** Of the day, over all briefs. */
  dayMinor: number | null;
}

export interface Usage {
  /** What the brief's orders may cost already. */
  briefMinor: number;
  /** What the orders given today may cost already. */
  dayMinor: number;
}

export type LimitKind = 'brief' | 'day';

/** A limit that an order would break, and by how much. */
export interface Breach {
  limit: LimitKind;
  limitMinor: number;
  overMinor: number;
}

/**
 * The first limit that an order would break; null: it may go.
 *
 * @param addsMinor what the order adds to what is held: for a bid that is raised, the difference. Nothing added breaks nothing.
 */
export function breachOf(addsMinor: number, usage: Usage, limits: Limits): Breach | null {
  if (addsMinor <= 0) return null;
  const checks: [LimitKind, number, number | null][] = [
    ['brief', usage.briefMinor, limits.briefMinor],
    ['day', usage.dayMinor, limits.dayMinor],
  ];
  for (const [limit, used, limitMinor] of checks) {
    if (limitMinor === null) continue;
    const overMinor = used + addsMinor - limitMinor;
    if (overMinor > 0) return { limit, limitMinor, overMinor };
  }
  return null;
}
