import { setMaxListeners } from 'node:events';
import type { Confirmed, KnownVerdict } from '../../core/lifecycle/confirmed';
import type { Store } from '../../store/base/database';
import { contradictionsOf, readDomains } from '../../store/domains/domains';
import { eventsOf } from '../../store/lifecycle/verdicts';
import { Checker } from './checker';

const PATIENCE_MS = 25_000;

/** Asks about one domain before all others, down to the registrar, and says what has changed since the last look. */
export async function confirm(store: Store, id: number): Promise<Confirmed> {
  const before = lookAt(store, id);
  const startedAt = store.now();
  const signal = AbortSignal.timeout(PATIENCE_MS);
  setMaxListeners(0, signal);
  const checker = new Checker({ store, signal }, -startedAt, () => undefined, 'full', 'raised');
  let isLate = false;
  try {
    const [row] = readDomains(store, [id]);
    await checker.ask(row);
    await checker.drained();
  } catch (error) {
    if (!signal.aborted) throw error;
    isLate = true;
  } finally {
    checker.close(true);
  }
  const after = lookAt(store, id);
  return {
    before,
    after,
    isChanged:
      before.at !== null &&
      (before.phase !== after.phase || before.contradictions.join() !== after.contradictions.join()),
    events: eventsOf(store, id).filter(({ at }) => at >= startedAt),
    isLate,
  };
}

function lookAt(store: Store, id: number): KnownVerdict {
  const [row] = readDomains(store, [id]);
  return {
    phase: row.phase,
    at: row.phase_at,
    reason: row.phase_reason,
    source: row.phase_source,
    contradictions: contradictionsOf(row),
  };
}
