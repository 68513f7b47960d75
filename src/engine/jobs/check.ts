import { z } from 'zod';
import { type Evidence, judgePhase, type RegistrationRecord } from '../../core/lifecycle/phase';
import { DnsClient } from '../../net/dns';
import { HttpClient } from '../../net/http';
import { Pacer } from '../../net/pacer';
import { RdapClient, type RecordAnswer } from '../../net/rdap';
import { WhoisClient } from '../../net/whois';
import { resolversOf } from '../../store/config';
import { write } from '../../store/database';
import { type CheckEntry, pendingChecks, putVerdict } from '../../store/domains';
import { type JobContext, RateMeter, throwIfStopped } from '../context';

/** What to check: the domains of a source, or some by id. */
export const CheckParams = z.object({ sourceId: z.number().optional(), ids: z.array(z.number()).optional() });

interface Candidate {
  id: number;
  name: string;
  ending: string;
}

const DNS_AT_ONCE = 64;
const CHUNK = 500;

/**
 * DNS first; a delegated name is taken, and nobody else is asked. The others go on to their registry's RDAP server, or
 * WHOIS where the ending has no RDAP. Each server has its own lane, so that a slow one holds up nobody else.
 */
export async function runCheck(context: JobContext): Promise<void> {
  const { store, job, settings, signal } = context;
  const params = CheckParams.parse(job.params);
  const candidates = pendingChecks(store, params, job.createdAt);
  const http = new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
    timeoutMs: 15_000,
  });
  const pacer = new Pacer({ intervalMs: settings.registryIntervalMs, maxIntervalMs: 15 * 60_000 });
  const dns = new DnsClient({ resolvers: resolversOf(settings), timeoutMs: 2000, tries: 2 });
  const rdap = new RdapClient(http, pacer, settings.rdapBootstrap);
  const whois = new WhoisClient({ ...store.config.whois, timeoutMs: 15_000 }, pacer);
  const meter = new RateMeter();
  const lanes = new Map<string, Lane>();
  let done = 0;

  const report = (message: string) =>
    context.progress({ done, total: candidates.length, unit: 'domains', rate: meter.rate(done), message });
  const settle = (
    candidate: Candidate,
    evidence: Evidence,
    entries: CheckEntry[],
    record: RegistrationRecord | null,
  ) => {
    const at = store.now();
    write(store, () => putVerdict(store, candidate.id, at, entries, judgePhase(evidence, at), record));
    context.changed([candidate.id]);
    done++;
  };

  const askRecord = async (candidate: Candidate, dnsEntry: CheckEntry, base: string | null): Promise<void> => {
    const answer: RecordAnswer | null = base
      ? await rdap.domain(base, candidate.name, signal)
      : await whois.domain(candidate.name, candidate.ending, signal);
    const evidence: Evidence = { dns: dnsEntry.outcome as Evidence['dns'] };
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
    settle(candidate, evidence, entries, answer?.record ?? null);
  };

  const askDns = async (candidate: Candidate): Promise<void> => {
    const answer = await dns.delegation(candidate.name);
    const entry: CheckEntry = {
      step: 'dns',
      server: answer.server,
      outcome: answer.outcome,
      detail: answer.detail,
      elapsedMs: answer.elapsedMs,
    };
    if (answer.outcome === 'delegated') {
      settle(candidate, { dns: 'delegated' }, [entry], null);
      return;
    }
    const base = await rdap.serverFor(candidate.ending).catch((error: Error) => {
      context.log.warn({ error: error.message }, 'no RDAP bootstrap');
      return null;
    });
    const key = base ?? `whois ${candidate.ending}`;
    let lane = lanes.get(key);
    if (!lane) {
      lane = new Lane();
      lanes.set(key, lane);
    }
    lane.add(() => askRecord(candidate, entry, base));
  };

  try {
    report('asking DNS');
    for (let start = 0; start < candidates.length; start += CHUNK) {
      await inParallel(candidates.slice(start, start + CHUNK), DNS_AT_ONCE, (candidate) => {
        throwIfStopped(signal);
        return askDns(candidate);
      });
      report('asking DNS');
    }
    const timer = setInterval(() => report(laneMessage(lanes)), 500);
    try {
      await Promise.all([...lanes.values()].map((lane) => lane.drained()));
    } finally {
      clearInterval(timer);
    }
    report('every domain has its verdict');
  } finally {
    for (const lane of lanes.values()) lane.stop();
    await http.close();
  }
  throwIfStopped(signal);
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

function laneMessage(lanes: Map<string, Lane>): string {
  const longest = [...lanes].sort((a, b) => b[1].waiting - a[1].waiting)[0];
  return longest
    ? `asking registries; ${longest[1].waiting} wait for ${longest[0].replace(/^https?:\/\//, '').replace(/\/$/, '')}`
    : '';
}

export async function inParallel<T>(items: T[], width: number, act: (item: T) => Promise<void>): Promise<void> {
  let next = 0;
  const work = async () => {
    while (next < items.length) await act(items[next++]);
  };
  await Promise.all(Array.from({ length: Math.min(width, items.length) }, work));
}
