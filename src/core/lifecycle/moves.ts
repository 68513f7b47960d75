import type { Phase } from './phase';

/** Phases that a name itself is in; `unknown` is only our lack of an answer. */
export type LifePhase = Exclude<Phase, 'unknown'>;

/**
 * From which phase a name may come into which (RFC 5731, 3915). Deleting within the add grace period sets a name free at once, and
 * some registries know no auto-renew period or no pending delete.
 */
const EDGES: Record<LifePhase, LifePhase[]> = {
  free: ['active', 'not-registrable'],
  active: ['auto-renew', 'redemption', 'free', 'not-registrable'],
  'auto-renew': ['redemption', 'active'],
  redemption: ['pending-delete', 'free', 'active'],
  'pending-delete': ['free'],
  'not-registrable': ['free', 'active'],
};

/**
 * The phases a name went through between two looks, the shortest way there is: both ends are in it.
 * A name that was dropped and registered anew between them gives the way through `free` when `isNewRegistration`.
 */
export function phasesBetween(before: LifePhase, after: LifePhase, isNewRegistration = false): LifePhase[] {
  if (isNewRegistration) return [...shortest(before, 'free'), ...shortest('free', after).slice(1)];
  return shortest(before, after);
}

export function isAllowedMove(before: LifePhase, after: LifePhase): boolean {
  return before === after || EDGES[before].includes(after);
}

function shortest(from: LifePhase, to: LifePhase): LifePhase[] {
  const ways: LifePhase[][] = [[from]];
  const seen = new Set<LifePhase>([from]);
  for (const way of ways) {
    const last = way[way.length - 1];
    if (last === to) return way;
    for (const next of EDGES[last])
      if (!seen.has(next)) {
        seen.add(next);
        ways.push([...way, next]);
      }
  }
  throw new RangeError(`nothing leads from ${from} to ${to}`);
}
