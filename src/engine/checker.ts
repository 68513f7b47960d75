import { type Evidence, judgePhase, type RegistrationRecord, type Verdict } from '../core/lifecycle/phase';
import { DnsClient } from '../net/dns';
import { HttpClient } from '../net/http';
import { Pacer } from '../net/pacer';
import { RdapClient, type RecordAnswer } from '../net/rdap';
import { WhoisClient } from '../net/whois';
import { resolversOf } from '../store/config';
import { type CheckEntry, putVerdict } from '../store/domains';
import type { JobContext } from './context';
import { writePatiently } from './patience';

export interface Candidate {
  id: number;
  name: string;
  ending: string;
}

/** What DNS said of a candidate, before its registry is asked. */
export type DnsOutcome = NonNullable<Evidence['dns']>;

/**
 * DNS first; a delegated name is taken, and nobody else is asked. The others go on to their registry's RDAP server, or
 * WHOIS where the ending has no RDAP. Each server has its own lane, so that a slow one holds up nobody else.
 */
export class Checker {
  private readonly http: HttpClient;
  private readonly dns: DnsClient;
  private readonly rdap: RdapClient;
  private readonly whois: WhoisClient;
  private readonly lanes = new Map<string, Lane>();

  /** @param settled told after each verdict is on disk. */
  constructor(
    private readonly context: Pick<JobContext, 'store' | 'settings' | 'signal' | 'log'>,
    private readonly settled: (candidate: Candidate, verdict: Verdict) => void,
  ) {
    const { store, settings } = context;
    this.http = new HttpClient({
      userAgent: settings.userAgent,
      connector: store.config.connector,
      allowedPrivate: settings.allowedPrivate,
      timeoutMs: 15_000,
    });
    const pacer = new Pacer({ intervalMs: settings.registryIntervalMs, maxIntervalMs: 15 * 60_000 });
    this.dns = new DnsClient({ resolvers: resolversOf(settings), timeoutMs: 2000, tries: 2 });
    this.rdap = new RdapClient(this.http, pacer, settings.rdapBootstrap);
    this.whois = new WhoisClient({ ...store.config.whois, timeoutMs: 15_000 }, pacer);
  }

  /** Asks DNS and resolves with what it said; the registry's question waits in its lane. */
  async ask(candidate: Candidate): Promise<DnsOutcome> {
    const answer = await this.dns.delegation(candidate.name);
    const { outcome, server, detail, elapsedMs } = answer;
    const entry: CheckEntry = { step: 'dns', server, outcome, detail, elapsedMs };
    if (outcome === 'delegated') {
      await this.settle(candidate, { dns: 'delegated' }, [entry], null);
      return outcome;
    }
    const base = await this.rdap.serverFor(candidate.ending).catch((error: Error) => {
      this.context.log.warn({ error: error.message }, 'no RDAP bootstrap');
      return null;
    });
    const key = base ?? `whois ${candidate.ending}`;
    let lane = this.lanes.get(key);
    if (!lane) {
      lane = new Lane();
      this.lanes.set(key, lane);
    }
    lane.add(() => this.askRecord(candidate, entry, base));
    return outcome;
  }

  /** Resolves when every registry has been asked. @throws what a lane threw. */
  async drained(): Promise<void> {
    await Promise.all([...this.lanes.values()].map((lane) => lane.drained()));
  }

  /** Questions that wait for a registry. */
  get waiting(): number {
    let sum = 0;
    for (const lane of this.lanes.values()) sum += lane.waiting;
    return sum;
  }

  /** What is being waited for, in words. */
  laneMessage(): string {
    const longest = [...this.lanes].sort((a, b) => b[1].waiting - a[1].waiting)[0];
    return longest
      ? `asking registries; ${longest[1].waiting} wait for ${longest[0].replace(/^https?:\/\//, '').replace(/\/$/, '')}`
      : '';
  }

  async close(): Promise<void> {
    for (const lane of this.lanes.values()) lane.stop();
    await this.http.close();
  }

  private async askRecord(candidate: Candidate, dnsEntry: CheckEntry, base: string | null): Promise<void> {
    const { signal } = this.context;
    const answer: RecordAnswer | null = base
      ? await this.rdap.domain(base, candidate.name, signal)
      : await this.whois.domain(candidate.name, candidate.ending, signal);
    const evidence: Evidence = { dns: dnsEntry.outcome as DnsOutcome };
    const entries = [dnsEntry];
    if (answer) {
      evidence.record = { outcome: answer.outcome, record: answer.record };
      entries.push({
        step: base ? 'rdap' : 'whois',
        server: answer.server,
        outcome: answer.outcome,
        detail: answer.detail,
        elapsedMs: answer.elapsedMs,
      });
    }
    await this.settle(candidate, evidence, entries, answer?.record ?? null);
  }

  private async settle(
    candidate: Candidate,
    evidence: Evidence,
    entries: CheckEntry[],
    record: RegistrationRecord | null,
  ): Promise<void> {
    const { store, signal } = this.context;
    const at = store.now();
    const verdict = judgePhase(evidence, at);
    await writePatiently(store, signal, () => putVerdict(store, candidate.id, at, entries, verdict, record));
    this.settled(candidate, verdict);
  }
}

/** One server's questions, one after another. */
class Lane {
  private chain: Promise<void> = Promise.resolve();
  private stopped = false;
  waiting = 0;

  add(act: () => Promise<void>): void {
    this.waiting++;
    this.chain = this.chain.then(async () => {
      if (this.stopped) return;
      await act();
      this.waiting--;
    });
    this.chain.catch(() => undefined); // seen by drained()
  }

  drained(): Promise<void> {
    return this.chain;
  }

  stop(): void {
    this.stopped = true;
  }
}

export async function inParallel<T>(items: T[], width: number, act: (item: T) => Promise<void>): Promise<void> {
  let next = 0;
  const work = async () => {
    while (next < items.length) await act(items[next++]);
  };
  await Promise.all(Array.from({ length: Math.min(width, items.length) }, work));
}
