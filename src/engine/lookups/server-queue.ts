import { type Budget, type Declared, forecastMs, sent, turnAt } from '../../core/lifecycle/pace';
import type { Question } from '../../store/lifecycle/questions';

/** Questions under way to one server; more only where it answers slower than it may be asked. */
const AT_ONCE = 6;
/** A question that is under way for longer hangs: its place is given to others, and it is asked again in its turn. */
const HUNG_MS = 60_000;
/** So often a queue looks whether its turn has changed. */
const NAP_MS = 250;

/** One server's questions, each at its turn, the most urgent first at the moment it is sent. */
export class ServerQueue {
  /** Questions that are asked and not on disk yet. */
  private readonly under = new Set<number>();
  private inFlight = 0;
  private wake: (() => void) | null = null;
  private isOpen = false;
  private isStopped = false;
  /** Questions in the queue when it was last counted. */
  waiting = 0;

  constructor(
    private readonly budgetOf: () => { budget: Budget; declared: Declared },
    /** The next questions in their order. */
    private readonly next: (limit: number) => Question[],
    /** Asks, says when the server has answered, and resolves when what came of it is on disk. */
    private readonly ask: (question: Question, answered: () => void) => Promise<void>,
    /** Told of a question that hangs. */
    private readonly hung: (question: Question) => void,
    private readonly hungMs = HUNG_MS,
  ) {}

  get busy(): number {
    return this.under.size;
  }

  /** When so many more would be through; ms from now. */
  forecastMs(more: number): number {
    return forecastMs(this.budgetOf().budget, this.waiting + more, Date.now());
  }

  stop(): void {
    this.isStopped = true;
  }

  open(): void {
    if (this.isOpen || this.isStopped) return;
    this.isOpen = true;
    void this.run().finally(() => {
      this.isOpen = false;
    });
  }

  private async run(): Promise<void> {
    while (!this.isStopped) {
      const now = Date.now();
      const wait = turnAt(this.budgetOf().budget, now) - now;
      if (wait > 0) {
        await new Promise((done) => setTimeout(done, Math.min(wait, NAP_MS)));
        continue;
      }
      const question = this.next(this.under.size + 1).find(({ domainId }) => !this.under.has(domainId));
      if (!question) return;
      const { budget } = this.budgetOf();
      sent(budget, Date.now());
      this.start(question);
      if (this.inFlight >= AT_ONCE)
        await new Promise<void>((resolve) => {
          this.wake = resolve;
        });
    }
  }

  private start(question: Question): void {
    const { domainId } = question;
    let isAnswered = false;
    const answered = () => {
      if (isAnswered) return;
      isAnswered = true;
      this.inFlight--;
      this.wake?.();
      this.wake = null;
    };
    this.inFlight++;
    this.under.add(domainId);
    const over = () => {
      answered();
      this.under.delete(domainId);
    };
    const timer = setTimeout(() => {
      this.hung(question);
      over();
    }, this.hungMs);
    void this.ask(question, answered)
      .catch(() => undefined)
      .finally(() => {
        clearTimeout(timer);
        over();
      });
  }
}
