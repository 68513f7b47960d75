import type { Budget } from '../../core/lifecycle/pace';

/** What a server has shown of an ending holds for so long. */
const FRESH_MS = 86_400_000;
/** A name that it did not find, or that does not exist, is tried again after this. */
const AGAIN_MS = 15 * 60_000;

interface Trial {
  at: number;
  /** null: the name is not delegated, so that it says nothing. */
  isFound: boolean | null;
}

/**
 * Which RDAP servers have answered for a name that exists, by ending: only then their "no record" is an answer. What was found is kept
 * with the server's budget; what was not, until the next start.
 */
export class Proofs {
  private readonly trials = new Map<string, Map<string, Trial>>();

  /** @param kept told when a budget is to be written. */
  constructor(
    private readonly budgetOf: (host: string) => Budget,
    private readonly kept: (host: string) => void,
  ) {}

  /** The name that it found, within its freshness; null: none. */
  of(host: string, ending: string, now: number): { name: string; at: number } | null {
    const proof = this.budgetOf(host).proofs?.[ending];
    return proof && now - proof.at < FRESH_MS ? proof : null;
  }

  found(host: string, ending: string, name: string, now: number): void {
    const budget = this.budgetOf(host);
    const before = budget.proofs?.[ending];
    // not with every answer: half of its freshness is enough
    if (before && now - before.at < FRESH_MS / 2) return;
    budget.proofs = { ...budget.proofs, [ending]: { name, at: now } };
    this.kept(host);
  }

  tried(host: string, ending: string, name: string, isFound: boolean | null, now: number): void {
    const key = `${host} ${ending}`;
    const trials = this.trials.get(key) ?? new Map<string, Trial>();
    trials.set(name, { at: now, isFound });
    this.trials.set(key, trials);
  }

  /** Names by which it can be tried now. */
  candidates(host: string, ending: string, names: string[], now: number): string[] {
    if (this.of(host, ending, now)) return [];
    const trials = this.trials.get(`${host} ${ending}`);
    return names.filter((name) => now - (trials?.get(name)?.at ?? 0) > AGAIN_MS);
  }

  /** Why what it says is not believed. */
  whyNot(host: string, ending: string): string | null {
    const trials = [...(this.trials.get(`${host} ${ending}`) ?? [])];
    const denied = trials.filter(([, { isFound }]) => isFound === false).map(([name]) => name);
    if (denied.length > 0)
      return `its server ${host} says that there is no record, but says so of ${denied.join(' and ')}, too, which exist${denied.length === 1 ? 's' : ''}`;
    return `its server ${host} says that there is no record, but no name is known that exists under .${ending} to try it by`;
  }
}
