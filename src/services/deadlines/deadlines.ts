import type { EnginePort } from '../../contracts/engine-port';
import type { DEADLINE_SCOPES, Deadline, DeadlineKind } from '../../core/deadlines/deadline';
import type { Condition } from '../../core/pool/conditions';
import type { Store } from '../../store/base/database';
import { deadlinesFor, myDeadlines } from '../../store/lifecycle/deadlines';

const HOUR = 3_600_000;
/** Domains of the whole pool whose deadlines are listed; the totals are of all. */
export const LISTED = 400;

export interface DeadlineScope {
  scope: (typeof DEADLINE_SCOPES)[number];
  kinds: readonly DeadlineKind[];
  /** How far ahead. */
  hours: number;
}

/** Deadlines in order of time, and how many domains have one: of the whole pool the first of them only are listed. */
export async function deadlinesIn(
  store: Store,
  engine: EnginePort,
  { scope, kinds, hours }: DeadlineScope,
): Promise<{ deadlines: Deadline[]; total: number }> {
  const now = store.now();
  const isWanted = (deadline: Deadline) => kinds.includes(deadline.kind) && deadline.at <= now + hours * HOUR;
  if (scope !== 'all') {
    const deadlines = myDeadlines(store, now, scope === 'near').filter(isWanted);
    return { deadlines, total: deadlines.length };
  }
  // the index knows closings and drops of millions; expiries and re-checks matter only of what is one's own
  const soonest = async (fact: 'closing' | 'drop', extra: Condition[] = []) =>
    engine.queryPool({
      parts: [{ type: 'range', fact, min: 0, max: fact === 'drop' ? hours / 24 : hours, keepUnknown: false }, ...extra],
      sorts: [{ fact, descending: false }],
      offset: 0,
      limit: LISTED / 2,
      histograms: [],
    });
  const [closing, dropping] = await Promise.all([soonest('closing'), soonest('drop')]);
  const ids = [...new Set([...closing.ids, ...dropping.ids])];
  const deadlines = deadlinesFor(store, ids, now).filter(isWanted);
  const total =
    (kinds.includes('closing') || kinds.includes('price-step') ? closing.total : 0) +
    (kinds.includes('drop') ? dropping.total : 0);
  return { deadlines, total };
}
