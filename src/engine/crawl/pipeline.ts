import type { Phase } from '../../core/lifecycle/phase';
import { sumOfFinds } from '../../store/crawl/crawl-report';
import { unsettledFinds } from '../../store/domains/domains';
import { writePatiently } from '../database/retry-when-full';
import { type Candidate, Checker } from '../lookups/checker';
import type { JobContext } from '../runner/context';
import type { Frontier } from './frontier';

/** A domain that a page of the crawl named first. */
export interface Find extends Candidate {
  pageId: number;
  classId: number;
  viaClass: number;
}

/** Questions of the crawl that the lookups hold at a time; they keep to bounds of their own. */
const DNS_AT_ONCE = 512;

/**
 * What happens to a domain while the crawl goes on: DNS, then its registration record. What DNS
 * says comes back to the frontier within moments, so that the crawl learns where lapsed domains are.
 */
export class Pipeline {
  private readonly queue: Find[] = [];
  private readonly checker: Checker;
  private busy = 0;
  private idle: (() => void)[] = [];
  private failure: unknown = null;
  /** Domains that DNS does not know, found by this crawl. */
  finds: number;
  /** Domains that turned out lapsed since the crawl was started or resumed. */
  lapsed = 0;

  constructor(
    private readonly context: JobContext,
    private readonly sourceId: number,
    private readonly frontier: Frontier,
  ) {
    this.finds = sumOfFinds(context.store, sourceId);
    this.checker = new Checker(context, context.job.id, (_, phase) => this.settled(phase));
  }

  /** Takes up what an interrupted part of the crawl found and had not checked. */
  resume(since: number): void {
    for (const find of unsettledFinds(this.context.store, this.sourceId, since)) this.add(find);
  }

  add(find: Find): void {
    this.queue.push(find);
    this.fill();
  }

  /** Domains whose lookups were given up because nobody is answered. */
  get unanswered(): number {
    return this.checker.unanswered;
  }

  get waiting(): number {
    return this.queue.length + this.busy + this.checker.waiting;
  }

  /** Resolves when DNS has been asked about everything, and the registries for at most `withinMs` more. */
  async drain(withinMs: number): Promise<void> {
    while (this.queue.length + this.busy > 0 && !this.context.signal.aborted)
      await new Promise<void>((resolve) => {
        this.idle.push(resolve);
        setTimeout(resolve, 200);
      });
    if (this.failure) throw this.failure;
    await this.checker.drainedSoon(withinMs);
  }

  async close(): Promise<void> {
    this.queue.length = 0;
    // what waits for a registry is asked all the same, unless the crawl is to rest
    this.checker.close(!this.context.signal.aborted);
  }

  private fill(): void {
    while (this.busy < DNS_AT_ONCE && this.queue.length > 0 && !this.context.signal.aborted && !this.failure) {
      const find = this.queue.shift() as Find;
      this.busy++;
      this.check(find)
        .catch((error: unknown) => {
          this.failure ??= error;
        })
        .finally(() => {
          this.busy--;
          this.fill();
          if (this.busy + this.queue.length === 0) for (const resolve of this.idle.splice(0)) resolve();
        });
    }
  }

  private async check(find: Find): Promise<void> {
    const { store, signal } = this.context;
    const outcome = await this.checker.ask(find);
    if (outcome !== 'nxdomain' && outcome !== 'no-delegation') return;
    this.finds++;
    await writePatiently(store, signal, () => this.frontier.writeFind(find.pageId, find.classId, find.viaClass));
    this.frontier.noteFind(find.classId, find.viaClass);
  }

  private settled(phase: Phase): void {
    if (phase === 'free' || phase === 'pending-delete' || phase === 'redemption') this.lapsed++;
  }
}
