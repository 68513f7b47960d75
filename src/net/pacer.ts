import { setTimeout as sleep } from 'node:timers/promises';

export interface PacerOptions {
  /** Shortest time between two questions to one server. */
  intervalMs: number;
  /** The interval never grows beyond this. */
  maxIntervalMs: number;
}

interface Budget {
  intervalMs: number;
  nextAt: number;
  turn: Promise<void>;
}

/**
 * Spaces the questions to each server. A refusal doubles the server's interval and waits as long as it asked for; each
 * answer shortens the interval by a twentieth, down to the configured one.
 */
export class Pacer {
  private readonly budgets = new Map<string, Budget>();

  constructor(private readonly options: PacerOptions) {}

  /** Waits for the server's next turn. Callers queue in order. @throws when the signal aborts. */
  async turn(server: string, signal?: AbortSignal): Promise<void> {
    const budget = this.budgetOf(server);
    const mine = budget.turn.then(async () => {
      for (;;) {
        const wait = budget.nextAt - performance.now();
        if (wait <= 0) break;
        await sleep(wait, undefined, { signal });
      }
      budget.nextAt = performance.now() + budget.intervalMs;
    });
    budget.turn = mine.catch(() => undefined);
    await mine;
  }

  answered(server: string): void {
    const budget = this.budgetOf(server);
    budget.intervalMs = Math.max(this.options.intervalMs, budget.intervalMs * 0.95);
  }

  /** @param retryAfterMs what the server asked for, or null. */
  refused(server: string, retryAfterMs: number | null): void {
    const budget = this.budgetOf(server);
    budget.intervalMs = Math.min(this.options.maxIntervalMs, Math.max(50, budget.intervalMs) * 2);
    budget.nextAt = performance.now() + Math.min(this.options.maxIntervalMs, retryAfterMs ?? budget.intervalMs);
  }

  /** ms until the server may be asked again; 0 when it may now. */
  waitMs(server: string): number {
    return Math.max(0, this.budgetOf(server).nextAt - performance.now());
  }

  private budgetOf(server: string): Budget {
    let budget = this.budgets.get(server);
    if (!budget) {
      budget = { intervalMs: this.options.intervalMs, nextAt: 0, turn: Promise.resolve() };
      this.budgets.set(server, budget);
    }
    return budget;
  }
}

/** Retry-After (RFC 9110 10.2.3): seconds or a date. @returns ms from now, or null. */
export function retryAfterMs(header: string | undefined, now: number): number | null {
  if (!header) return null;
  if (/^\d+$/.test(header.trim())) return Number(header) * 1000;
  const at = Date.parse(header);
  return Number.isNaN(at) ? null : Math.max(0, at - now);
}
