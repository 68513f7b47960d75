import type { LookupClients } from './clients';
import { hostOf } from './long-waits';
import type { Proofs } from './proofs';
import type { ServerBudgets } from './server-budgets';

/** Asks servers about names that exist, so that their "no record" can be believed. */
export class Prover {
  /** Trials of servers that are under way. */
  private readonly proving = new Map<string, Promise<boolean>>();
  /** By ending, a name that DNS has delegated: it exists. */
  private readonly delegated = new Map<string, string>();

  constructor(
    private readonly clients: () => LookupClients,
    private readonly proofs: Proofs,
    private readonly budgets: ServerBudgets,
  ) {}

  /** DNS says that a name exists. */
  exists(name: string, ending: string): void {
    this.delegated.set(ending, name);
  }

  /** Tries a server by a name that exists, once at a time. @returns whether that was asked, or is being asked. */
  async prove(server: string, ending: string): Promise<boolean> {
    const key = `${server} ${ending}`;
    const underWay = this.proving.get(key);
    if (underWay) {
      await underWay;
      return true;
    }
    const proving = this.tryByName(server, ending).finally(() => this.proving.delete(key));
    this.proving.set(key, proving);
    return proving;
  }

  private async tryByName(server: string, ending: string): Promise<boolean> {
    const host = hostOf(server);
    const known = [`nic.${ending}`, this.delegated.get(ending), `example.${ending}`];
    const candidates = known.filter((one) => one !== undefined);
    for (const candidate of this.proofs.candidates(host, ending, candidates, Date.now())) {
      const { outcome } = await this.clients().dns.delegation(candidate, ending);
      if (outcome === 'nxdomain' || outcome === 'no-delegation')
        this.proofs.tried(host, ending, candidate, null, Date.now());
      if (outcome !== 'delegated') continue;
      // DNS took its time: it may have refused somebody else meanwhile
      if (this.budgets.isLeftAlone(host)) return true;
      const askedAt = Date.now();
      const answer = await this.clients().rdap.domain(server, candidate, true);
      const isAnswer = this.budgets.note(host, answer, askedAt);
      if (answer.outcome === 'found') this.proofs.found(host, ending, candidate, Date.now());
      if (isAnswer) this.proofs.tried(host, ending, candidate, answer.outcome === 'found', Date.now());
      return true;
    }
    return false;
  }
}
