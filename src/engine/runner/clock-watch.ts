import type { Logger } from 'pino';
import { SetBack, setBackSince } from '../../core/time/set-back';
import { afterSetBack, keepSeen, lastSeen } from '../../store/base/after-set-back';
import type { Store } from '../../store/base/database';

const KEPT_MS = 60_000;

/** Sees the clock set back, while the engine runs and while it did not, and lets what was to happen by it move along. */
export class ClockWatch {
  private readonly clock: SetBack;
  private keptAt = Number.NEGATIVE_INFINITY;

  constructor(
    private readonly store: Store,
    private readonly log: Logger,
  ) {
    const now = store.now();
    this.clock = new SetBack(now, performance.now());
    this.follow(setBackSince(lastSeen(store) ?? now, now));
  }

  /** To be called every second or so. */
  turn(): void {
    const now = this.store.now();
    const steady = performance.now();
    this.follow(this.clock.look(now, steady));
    if (steady - this.keptAt < KEPT_MS) return;
    this.keptAt = steady;
    keepSeen(this.store, now);
  }

  private follow(byMs: number): void {
    if (byMs === 0) return;
    this.log.warn({ byMs }, 'the clock of this machine was set back; what was to happen by it moves along');
    afterSetBack(this.store, byMs);
    keepSeen(this.store, this.store.now());
  }
}
