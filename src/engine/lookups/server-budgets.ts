import { pausesOf } from '../../core/connections/connection';
import {
  answered,
  type Budget,
  type Declared,
  dropped,
  freshBudget,
  refused,
  setBack,
} from '../../core/lifecycle/pace';
import type { Settings } from '../../core/settings/settings';
import { SetBack, setBackSince } from '../../core/time/set-back';
import type { RecordAnswer } from '../../net/rdap';
import { type Store, write } from '../../store/base/database';
import { putBudget, readBudgets } from '../../store/lifecycle/budgets';
import type { LookupProblems } from './problems';

/** Broken connections in a row after which a server is one that cannot be reached. */
const SILENT_DROPS = 2;

/** How often each server may be asked, as it is declared and as its answers teach; kept over restarts. */
export class ServerBudgets {
  private readonly budgets: Map<string, Budget>;
  private readonly dirty = new Set<string>();
  private readonly clock = new SetBack(Date.now(), performance.now());
  private pauses: { of: Settings | null; byHost: Record<string, number> } = { of: null, byHost: {} };

  constructor(
    private readonly store: Store,
    private readonly settings: () => Settings,
    private readonly problems: LookupProblems,
  ) {
    this.budgets = readBudgets(store);
    const now = Date.now();
    for (const [key, budget] of this.budgets) this.move(key, setBackSince(budget.keptAt ?? now, now));
  }

  /** What a server bears, and what is declared of it. @param key its host. */
  of(key: string): { budget: Budget; declared: Declared } {
    const settings = this.settings();
    const declared = {
      intervalMs: settings.paces[key] ?? this.described(settings)[key] ?? settings.registryIntervalMs,
    };
    let budget = this.budgets.get(key);
    if (!budget) {
      budget = freshBudget(declared);
      this.budgets.set(key, budget);
    }
    if (budget.learnedMs === null && budget.intervalMs < declared.intervalMs) budget.intervalMs = declared.intervalMs;
    return { budget, declared };
  }

  /** Pauses of services that are described, ms by host. */
  private described(settings: Settings): Record<string, number> {
    if (this.pauses.of !== settings) this.pauses = { of: settings, byHost: pausesOf(settings.connections) };
    return this.pauses.byHost;
  }

  /** Whether it wants to be left alone now: it may have said so to somebody else since a turn was given. */
  isLeftAlone(key: string): boolean {
    return this.of(key).budget.pausedUntil > Date.now();
  }

  /** Where the machine's clock was set back since it was last looked at, pauses and turns move along. */
  followClock(): void {
    const by = this.clock.look(Date.now(), performance.now());
    if (by > 0) for (const key of this.budgets.keys()) this.move(key, by);
  }

  private move(key: string, byMs: number): void {
    if (byMs === 0) return;
    setBack(this.of(key).budget, byMs);
    this.dirty.add(key);
  }

  /** Writes those that changed. */
  keep(): void {
    if (this.dirty.size === 0) return;
    const keys = [...this.dirty];
    write(this.store, () => {
      for (const key of keys) putBudget(this.store, key, { ...this.of(key).budget, keptAt: Date.now() });
    });
    this.dirty.clear();
  }

  /** It changed, and is to be written. */
  touch(key: string): void {
    this.dirty.add(key);
  }

  /** Keeps the server's budget by its answer. @returns whether it answered at all. */
  note(
    key: string,
    {
      outcome,
      retryAfterMs,
      isDropped,
      elapsedMs,
      detail,
    }: Pick<RecordAnswer, 'retryAfterMs' | 'isDropped' | 'elapsedMs' | 'detail'> & { outcome: string },
    askedAt: number,
  ): boolean {
    const { budget, declared } = this.of(key);
    const now = Date.now();
    this.dirty.add(key);
    if (outcome === 'refused') refused(budget, declared, retryAfterMs, now, askedAt);
    else if (isDropped) {
      dropped(budget, now, askedAt);
      if (budget.refusals >= SILENT_DROPS)
        this.problems.met(
          `server ${key}`,
          `${key.replace(/^whois /, '')} cannot be reached: ${detail}.`,
          'It is tried again by itself, later and later. If other servers answer, the trouble is there; else look at the network.',
        );
    } else {
      this.problems.gone(`server ${key}`);
      answered(budget, declared, askedAt, elapsedMs, now);
      return true;
    }
    return false;
  }

  /** What a person took back of what was learned is forgotten here, too. */
  forgetTakenBack(): void {
    const kept = readBudgets(this.store);
    for (const [key, budget] of this.budgets)
      if (budget.learnedMs !== null && !kept.has(key) && !this.dirty.has(key)) this.budgets.delete(key);
  }
}
