import { readFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { DnsExchange, type DnsReply } from './dns-exchange';
import { NetError } from './errors';
import { Gate } from './gate';

export interface FoundAddress {
  address: string;
  family: 4 | 6;
}

const TRY_MS = 2000;
/** A resolver that is silent is asked once more, then the next, and so on for no longer than this in all. */
const LONGEST_MS = 5000;
/** Found addresses are good for this, so that the pages of a site do not each ask. */
const KEPT_MS = 60_000;
const MOST_KEPT = 20_000;
/** Two questions each; more in one burst would overflow what a socket holds. */
const NAMES_AT_ONCE = 128;
/** A name may be an alias of an alias; resolvers follow by themselves, some not to the end. */
const MOST_ALIASES = 5;

/**
 * Addresses of hosts, asked of resolvers by our own DNS client: hundreds at a time, each with its own bound, where the system's lookup
 * has four threads for all. What the machine's hosts file says comes first.
 */
export class NameLookup {
  private readonly exchange = new DnsExchange(TRY_MS);
  private readonly gate = new Gate(NAMES_AT_ONCE);
  private readonly kept = new Map<string, { found: Promise<FoundAddress[]>; until: number }>();
  private readonly hosts: ReadonlyMap<string, FoundAddress[]>;

  /** @param resolvers `host:port` of recursive resolvers, tried in order. */
  constructor(
    private readonly resolvers: readonly string[],
    hostsFile = '/etc/hosts',
  ) {
    this.hosts = readHosts(hostsFile);
  }

  close(): void {
    this.exchange.close();
  }

  /**
   * @returns at least one address, those of IPv4 first.
   * @throws NetError `name-not-found` where a resolver says that there is no such name or no address, `name-unsure` where none of them says
   *   anything that can be used.
   */
  find(host: string): Promise<FoundAddress[]> {
    const name = host.toLowerCase().replace(/\.$/, '');
    const fixed = this.hosts.get(name);
    if (fixed) return Promise.resolve(fixed);
    const known = this.kept.get(name);
    if (known && known.until > performance.now()) return known.found;
    if (this.kept.size >= MOST_KEPT) this.kept.clear();
    const entry = { found: this.gate.pass(() => this.ask(name)), until: performance.now() + KEPT_MS };
    this.kept.set(name, entry);
    // what could not be found out is asked anew by whoever comes next
    entry.found.catch(() => this.kept.delete(name));
    return entry.found;
  }

  private async ask(name: string): Promise<FoundAddress[]> {
    const until = performance.now() + LONGEST_MS;
    let why = 'no resolver is set';
    for (let attempt = 0; attempt < 2; attempt++)
      for (const resolver of this.resolvers) {
        if (performance.now() > until) break;
        const replies = await Promise.all(
          (['A', 'AAAA'] as const).map((type) =>
            this.exchange.ask(resolver, name, type, true).catch((error: Error) => {
              why = error.message;
              return null;
            }),
          ),
        );
        const found = replies.flatMap((reply) => (reply ? addressesOf(reply, name) : []));
        if (found.length > 0) return found;
        const [first] = replies;
        if (first?.rcode === 'NXDOMAIN') throw notFound(name, 'there is no such name');
        if (replies.every((reply) => reply?.rcode === 'NOERROR')) throw notFound(name, 'the name has no address');
        if (first && first.rcode !== 'NOERROR') why = `${first.rcode} from a resolver`;
      }
    throw new NetError('name-unsure', `${name} could not be looked up: ${why}`);
  }
}

function notFound(name: string, why: string): NetError {
  return new NetError('name-not-found', `${name} resolves to nothing: ${why}`);
}

/** Addresses at the end of the chain of aliases (RFC 1034, 3.6.2) that begins with a name. */
function addressesOf({ answers }: DnsReply, name: string): FoundAddress[] {
  let owner = name;
  for (let step = 0; step < MOST_ALIASES; step++) {
    const alias = answers.find((one) => one.owner === owner && one.type === 'CNAME');
    if (!alias) break;
    owner = alias.data.toLowerCase();
  }
  return answers.flatMap((one) => {
    const family = isIP(one.data);
    return one.owner === owner && (family === 4 || family === 6) ? [{ address: one.data, family } as FoundAddress] : [];
  });
}

/** hosts(5): an address and the names that it has. */
function readHosts(path: string): Map<string, FoundAddress[]> {
  const hosts = new Map<string, FoundAddress[]>();
  let text = '';
  try {
    text = readFileSync(path, 'utf8');
  } catch {
    // a machine without one
  }
  for (const line of text.split('\n')) {
    const [address = '', ...names] = line.split('#', 1)[0].trim().split(/\s+/);
    const family = isIP(address);
    if (family !== 4 && family !== 6) continue;
    for (const name of names) {
      const known = hosts.get(name.toLowerCase()) ?? [];
      hosts.set(name.toLowerCase(), [...known, { address, family }]);
    }
  }
  return hosts;
}
