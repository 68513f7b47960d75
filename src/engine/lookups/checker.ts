import type { DnsOutcome, Phase } from '../../core/lifecycle/phase';
import type { Store } from '../../store/base/database';
import { leaveQuestions, newsFor } from '../../store/lifecycle/question-news';
import { countQueuesOf } from '../../store/lifecycle/question-queues';
import { addQuestions, lastPulse, type Priority, type QuestionDepth } from '../../store/lifecycle/questions';
import { writePatiently } from '../database/retry-when-full';
import { Stopped } from '../runner/context';
import { longWaits } from './long-waits';

export interface Candidate {
  id: number;
  name: string;
  ending: string;
}

const LOOK_MS = 20;
const GATHER_MS = 5;
/** When nobody was answered for so long the lookups have stopped: who asked is told that there is no answer. */
const STALLED_MS = 90_000;

interface Asking {
  candidate: Candidate;
  resolve(dns: DnsOutcome): void;
  reject(error: unknown): void;
}

/**
 * Puts questions into the engine's one queue (scheduler.ts) and hears what comes of them. Who asks has no servers, budgets or waits to
 * care for, and shares a question with whoever asks the same.
 */
export class Checker {
  private readonly fresh: Asking[] = [];
  private readonly asked = new Map<number, Asking>();
  private readonly open = new Map<number, Candidate>();
  private lastNews = 0;
  /** When this one last asked or heard anything, by the clock that only goes forward. */
  private movedAt = performance.now();
  private gathering: NodeJS.Timeout | null = null;
  private readonly looking: NodeJS.Timeout;
  private failure: unknown = null;
  /** Questions that were given up because the lookups had stopped. */
  unanswered = 0;
  private idle: (() => void)[] = [];

  /**
   * @param id under which the questions are asked: that of the job, or a negative number of its own.
   * @param settled told after each verdict is on disk.
   */
  constructor(
    private readonly context: { store: Store; signal: AbortSignal },
    private readonly id: number,
    private readonly settled: (candidate: Candidate, phase: Phase) => void,
    private readonly depth: QuestionDepth = 'record',
    private readonly priority: Priority = 'usual',
    private readonly stalledMs = STALLED_MS,
  ) {
    leaveQuestions(context.store, id, false); // of an earlier run
    this.looking = setInterval(() => this.look(), LOOK_MS);
  }

  /** Resolves with what DNS said; the registry's answer is told later. */
  ask(candidate: Candidate): Promise<DnsOutcome> {
    return new Promise((resolve, reject) => {
      this.fresh.push({ candidate, resolve, reject });
      this.gathering ??= setTimeout(() => void this.send(), GATHER_MS);
    });
  }

  /** Resolves when every question has been answered. @throws what went wrong. */
  async drained(): Promise<void> {
    while (this.waiting > 0 && !this.failure) await new Promise<void>((resolve) => this.idle.push(resolve));
    if (this.failure) throw this.failure;
  }

  /** The same, but no longer than `withinMs`, and not for servers that want to be left alone for long. */
  async drainedSoon(withinMs: number): Promise<void> {
    const until = performance.now() + withinMs;
    const looking = async () => {
      while (performance.now() < until && this.waiting > 0 && !longWaits(this.context.store, this.id))
        await new Promise((resolve) => setTimeout(resolve, 150));
    };
    await Promise.race([this.drained(), looking()]);
  }

  /** Questions that have no verdict yet. */
  get waiting(): number {
    return this.fresh.length + this.open.size;
  }

  /** What is being waited for, in words. */
  laneMessage(): string {
    const queues = countQueuesOf(this.context.store, this.id).filter(({ step }) => step !== 'dns');
    const longest = queues.sort((a, b) => b.waiting - a.waiting)[0];
    return longest
      ? `asking registries; ${longest.waiting} wait for ${longest.server.replace(/^https?:\/\/|\/$/g, '')}`
      : '';
  }

  /** @param goOn whether what has no verdict yet is asked all the same, when its turn comes. */
  close(goOn = false): void {
    clearInterval(this.looking);
    if (this.gathering) clearTimeout(this.gathering);
    this.end(new Stopped());
    leaveQuestions(this.context.store, this.id, goOn);
  }

  private async send(): Promise<void> {
    this.gathering = null;
    const part = this.fresh.splice(0);
    for (const asking of part) {
      this.asked.set(asking.candidate.id, asking);
      this.open.set(asking.candidate.id, asking.candidate);
    }
    const { store, signal } = this.context;
    this.movedAt = performance.now();
    const ids = part.map(({ candidate }) => candidate.id);
    try {
      await writePatiently(store, signal, () => addQuestions(store, this.id, ids, this.depth, this.priority));
    } catch (error) {
      this.end(error);
    }
  }

  private look(): void {
    const { store, signal } = this.context;
    if (signal.aborted) this.end(new Stopped());
    if (this.open.size === 0) return;
    try {
      for (const { id, domainId, dns, phase } of newsFor(store, this.id, this.lastNews)) {
        this.lastNews = id;
        this.movedAt = performance.now();
        this.hear(domainId, dns, phase);
      }
      const restedMs = Math.min(performance.now() - this.movedAt, Date.now() - lastPulse(store));
      if (this.asked.size > 0 && restedMs > this.stalledMs) this.giveUp();
    } catch (error) {
      this.end(error);
    }
    if (this.waiting === 0) for (const resolve of this.idle.splice(0)) resolve();
  }

  /** The lookups have stopped: what was asked of DNS counts as not answered. The questions stay. */
  private giveUp(): void {
    this.unanswered += this.open.size;
    for (const { resolve } of this.asked.values()) resolve('failed');
    this.asked.clear();
    this.open.clear();
  }

  private hear(domainId: number, dns: DnsOutcome | null, phase: Phase | null): void {
    const candidate = this.open.get(domainId);
    if (!candidate) return;
    const asking = this.asked.get(domainId);
    if (dns && asking) {
      this.asked.delete(domainId);
      asking.resolve(dns);
    }
    if (phase === null) return;
    this.open.delete(domainId);
    if (asking) {
      this.asked.delete(domainId);
      asking.resolve(dns ?? 'failed');
    }
    this.settled(candidate, phase);
  }

  private end(error: unknown): void {
    this.failure ??= error;
    for (const { reject } of [...this.asked.values(), ...this.fresh]) reject(error);
    this.asked.clear();
    this.fresh.length = 0;
    this.open.clear();
    for (const resolve of this.idle.splice(0)) resolve();
  }
}

export async function inParallel<T>(items: T[], width: number, act: (item: T) => Promise<void>): Promise<void> {
  let next = 0;
  const work = async () => {
    while (next < items.length) await act(items[next++]);
  };
  await Promise.all(Array.from({ length: Math.min(width, items.length) }, work));
}
