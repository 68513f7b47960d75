import { setTimeout as sleep } from 'node:timers/promises';
import { isFull, type Store, write } from '../../store/base/database';
import { Stopped } from '../runner/context';

const WAIT_MS = 2000;

/**
 * Writes in a transaction, and while the disk is full waits for space and tries again.
 *
 * @throws Stopped when the signal aborts meanwhile; any other error of the write at once.
 */
export async function writePatiently<T>(store: Store, signal: AbortSignal, act: () => T): Promise<T> {
  for (;;) {
    try {
      return write(store, act);
    } catch (error) {
      if (!isFull(error)) throw error;
      await sleep(WAIT_MS, undefined, { signal }).catch(() => undefined);
      if (signal.aborted) throw new Stopped();
    }
  }
}
