import { randomInt } from 'node:crypto';
import type { DnsOutcome } from '../core/lifecycle/phase';
import { AddressGuard } from './address-guard';
import { DnsExchange, type DnsReply } from './dns-exchange';

export { hostPort } from './dns-exchange';

export interface DnsAnswer {
  outcome: DnsOutcome;
  /** `host:port` that answered last. */
  server: string;
  nameServers: string[];
  /** What was said, in words: by whom, and how it failed. */
  detail: string;
  elapsedMs: number;
}

export interface DnsOptions {
  /** `host:port` of recursive resolvers, tried in order. */
  resolvers: string[];
  timeoutMs: number;
  /** How often a server is asked before the next. */
  tries: number;
  /** `host:port` that stands in for every ending's own servers; null: the servers themselves, at port 53. */
  connector?: string | null;
  /** Whether endings have their own servers asked at all; false: only resolvers are. */
  asksEndings?: boolean;
  /** Private addresses that may be asked. */
  allowedPrivate?: string[];
}

/** Servers of an ending, the one that answered best last first. */
interface Ending {
  zone: string;
  servers: { address: string; name: string; troubles: number }[];
}

const ENDING_MS = 3_600_000;
/** Endings whose servers could not be found are tried again after this. */
const NOT_FOUND_MS = 60_000;
const SERVERS_PER_ENDING = 4;
/** A name is asked for no longer than this at a time, however many servers are silent. */
const LONGEST_MS = 10_000;

/**
 * Finds out whether a domain is delegated. The servers of its ending are asked themselves: they know, their "no such name" is no
 * resolver's invention, and their referral is there even where the domain's own servers are lame. Resolvers find those servers, and
 * stand in where none of them answers.
 */
export class DnsClient {
  private readonly exchange: DnsExchange;
  private readonly guard: AddressGuard;
  private readonly endings = new Map<string, { search: Promise<Ending | null>; until: number }>();
  private readonly liars = new Map<string, { lies: Promise<boolean>; until: number }>();

  constructor(private readonly options: DnsOptions) {
    this.exchange = new DnsExchange(options.timeoutMs);
    this.guard = new AddressGuard(options.allowedPrivate ?? []);
  }

  close(): void {
    this.exchange.close();
  }

  /** Never throws: a failure is an outcome. */
  async delegation(name: string, ending = name.slice(name.indexOf('.') + 1)): Promise<DnsAnswer> {
    const started = performance.now();
    const until = started + LONGEST_MS;
    const answer = (await this.fromEnding(name, ending, until)) ?? (await this.fromResolvers(name, ending, until));
    return { ...answer, elapsedMs: Math.round(performance.now() - started) };
  }

  /** Whether any server of DNS says anything at all: a resolver is asked for the root, endings that were asked before for themselves. */
  async isAlive(): Promise<boolean> {
    const endings = await Promise.all([...this.endings.values()].slice(-3).map(({ search }) => search));
    const known = endings.flatMap(
      (ending) => ending?.servers.map(({ address }) => ({ address, zone: ending.zone })) ?? [],
    );
    const asked = [
      ...this.options.resolvers.map((resolver) => this.exchange.ask(resolver, '.', 'NS', true)),
      ...known.map(({ address, zone }) => this.exchange.ask(address, zone, 'SOA', false)),
    ];
    return Promise.any(asked).then(
      () => true,
      () => false,
    );
  }

  /**
   * Whether the servers that a domain is delegated to speak for it: their SOA, by way of a resolver. A lame delegation is one whose
   * servers do not.
   *
   * @returns null when no resolver could say.
   */
  async isServed(name: string): Promise<boolean | null> {
    for (const resolver of this.options.resolvers) {
      const reply = await this.exchange.ask(resolver, name, 'SOA', true).catch(() => null);
      if (!reply) continue;
      if (reply.rcode === 'SERVFAIL') return false;
      if (reply.rcode === 'NOERROR') return reply.hasSoa;
    }
    return null;
  }

  /** An IPv4 address of a host, by way of the resolvers; null: none is known. */
  async address(name: string): Promise<string | null> {
    for (const resolver of this.options.resolvers) {
      const address = await this.addressOf(resolver, name);
      if (address !== null) return address;
    }
    return null;
  }

  /** @returns null when none of the ending's servers gives an answer that can be used. */
  private async fromEnding(name: string, ending: string, until: number): Promise<Omit<DnsAnswer, 'elapsedMs'> | null> {
    if (this.options.asksEndings === false) return null;
    const found = await this.endingOf(ending);
    if (!found) return null;
    for (let attempt = 0; attempt < this.options.tries; attempt++) {
      const servers = [...found.servers].sort((a, b) => a.troubles - b.troubles);
      for (const server of servers) {
        if (performance.now() > until) return null;
        const reply = await this.exchange.ask(server.address, name, 'NS', false).catch(() => null);
        const outcome = reply && outcomeAtEnding(reply, name);
        if (!outcome) {
          server.troubles++;
          continue;
        }
        server.troubles *= 0.9;
        return {
          outcome,
          server: server.name,
          nameServers: serversFor(reply, name),
          detail: `${reply.rcode} from the servers of .${found.zone}`,
        };
      }
    }
    return null;
  }

  private async fromResolvers(name: string, ending: string, until: number): Promise<Omit<DnsAnswer, 'elapsedMs'>> {
    let detail = 'no resolver is set';
    let server = '';
    for (let attempt = 0; attempt < this.options.tries; attempt++)
      for (server of this.options.resolvers) {
        if (performance.now() > until) break;
        try {
          const reply = await this.exchange.ask(server, name, 'NS', true);
          const outcome = outcomeAtResolver(reply, name);
          detail = `${reply.rcode} from a resolver`;
          if (outcome === 'failed') continue;
          if (outcome !== 'nxdomain' && (await this.lies(server, ending))) {
            detail = 'the resolver answers for names that do not exist';
            continue;
          }
          return { outcome, server, nameServers: serversFor(reply, name), detail };
        } catch (error) {
          detail = (error as Error).message;
        }
      }
    return { outcome: 'failed', server, nameServers: [], detail };
  }

  /** Whether a resolver finds servers for a name that cannot be there. */
  private lies(resolver: string, ending: string): Promise<boolean> {
    const key = `${resolver} ${ending}`;
    const known = this.liars.get(key);
    if (known && known.until > performance.now()) return known.lies;
    const letters = Array.from({ length: 24 }, () => String.fromCharCode(97 + randomInt(26))).join('');
    const name = `${letters}.${ending}`;
    const lies = this.exchange.ask(resolver, name, 'NS', true).then(
      (reply) => outcomeAtResolver(reply, name) === 'delegated',
      () => false,
    );
    this.liars.set(key, { lies, until: performance.now() + ENDING_MS });
    return lies;
  }

  /** Whoever comes while they are searched for waits for the same search. */
  private endingOf(ending: string): Promise<Ending | null> {
    const known = this.endings.get(ending);
    if (known && known.until > performance.now()) return known.search;
    const entry = { search: this.findEnding(ending), until: performance.now() + ENDING_MS };
    this.endings.set(ending, entry);
    void entry.search.then((found) => {
      if (!found) entry.until = performance.now() + NOT_FOUND_MS;
    });
    return entry.search;
  }

  private async findEnding(ending: string): Promise<Ending | null> {
    const { connector } = this.options;
    if (connector)
      return { zone: ending, servers: [{ address: connector, name: `the servers of .${ending}`, troubles: 0 }] };
    for (let zone = ending; zone !== ''; zone = zone.includes('.') ? zone.slice(zone.indexOf('.') + 1) : '') {
      const servers = await this.serversOf(zone);
      if (servers.length > 0) return { zone, servers };
    }
    return null;
  }

  private async serversOf(zone: string): Promise<Ending['servers']> {
    for (const resolver of this.options.resolvers) {
      const reply = await this.exchange.ask(resolver, zone, 'NS', true).catch(() => null);
      const names = reply ? serversFor(reply, zone) : [];
      const servers: Ending['servers'] = [];
      for (const name of names) {
        if (servers.length === SERVERS_PER_ENDING) break;
        const glue = reply?.addresses.find(({ owner }) => owner === name)?.address;
        const address = glue ?? (await this.addressOf(resolver, name));
        if (address && this.guard.permits(address))
          servers.push({ address: address.includes(':') ? `[${address}]:53` : `${address}:53`, name, troubles: 0 });
      }
      if (servers.length > 0) return servers;
    }
    return [];
  }

  private async addressOf(resolver: string, name: string): Promise<string | null> {
    const reply = await this.exchange.ask(resolver, name, 'A', true).catch(() => null);
    return reply?.addresses[0]?.address ?? null;
  }
}

function serversFor(reply: DnsReply, name: string): string[] {
  return reply.nameServers.flatMap(({ owner, server }) => (owner === name ? [server] : []));
}

/** What a server of the ending says; null: it does not speak for the ending, or would not answer. */
function outcomeAtEnding(reply: DnsReply, name: string): DnsOutcome | null {
  if (reply.rcode === 'NXDOMAIN') return reply.isAuthoritative ? 'nxdomain' : null;
  if (reply.rcode !== 'NOERROR') return null;
  if (serversFor(reply, name).length > 0) return 'delegated';
  return reply.isAuthoritative ? 'no-delegation' : null;
}

function outcomeAtResolver(reply: DnsReply, name: string): DnsOutcome {
  if (reply.rcode === 'NXDOMAIN') return 'nxdomain';
  if (reply.rcode !== 'NOERROR') return 'failed';
  return serversFor(reply, name).length > 0 ? 'delegated' : 'no-delegation';
}
