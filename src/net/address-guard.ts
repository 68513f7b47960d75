import { type LookupAddress, lookup as systemLookup } from 'node:dns';
import { isIP, type LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';
import { NetError } from './errors';

export type Protocol = 'http' | 'whois' | 'smtp' | 'epp' | 'imap';

/** Where others of a protocol listen. What the settings allow by address may listen anywhere. */
const PORTS: Record<Exclude<Protocol, 'http'>, ReadonlySet<number>> = {
  whois: new Set([43, 4343]),
  smtp: new Set([25, 465, 587, 2525]),
  epp: new Set([700, 7000]),
  imap: new Set([143, 993]),
};

/** Ports of other protocols, which a page must not be able to have us speak to (Fetch Standard, 2.9, "port blocking"). */
const NOT_HTTP = new Set([
  0, 1, 7, 9, 11, 13, 15, 17, 19, 20, 21, 22, 23, 25, 37, 42, 43, 53, 69, 77, 79, 87, 95, 101, 102, 103, 104, 109, 110, 111, 113, 115, 117, 119,
  123, 135, 137, 139, 143, 161, 179, 389, 427, 465, 512, 513, 514, 515, 526, 530, 531, 532, 540, 548, 554, 556, 563, 587, 601, 636, 989, 990, 993,
  995, 1719, 1720, 1723, 2049, 3659, 4045, 4190, 5060, 5061, 6000, 6566, 6665, 6666, 6667, 6668, 6669, 6679, 6697, 10080,
]); // biome-ignore format: ports

/** IPv4 addresses written into IPv6 ones by translators (NAT64, RFC 6052): what they lead to is what counts. */
const TRANSLATED = ipaddr.parseCIDR('64:ff9b::/96');
/** Where unicast addresses of the Internet lie (RFC 4291, 2.4; IANA has given out nothing else). */
const GLOBAL = ipaddr.parseCIDR('2000::/3');

/** Finds addresses of a name. @throws when there are none. */
export type FindAddresses = (name: string) => Promise<LookupAddress[]>;

/** Says whether the product may connect to an IP address. Every protocol goes through it, after a name was resolved, at each hop. */
export class AddressGuard {
  private readonly allowed: [ipaddr.IPv4 | ipaddr.IPv6, number][];

  /** @param allowed CIDR blocks of private addresses that may be reached, `127.0.0.1/32`. @throws on what is no CIDR. */
  constructor(allowed: readonly string[]) {
    this.allowed = allowed.map((block) =>
      ipaddr.parseCIDR(block.includes('/') ? block : `${block}/${block.includes(':') ? 128 : 32}`),
    );
  }

  /** Public unicast addresses, and what the settings allow. `address` is an IP literal. */
  permits(address: string): boolean {
    if (!ipaddr.isValid(address)) return false;
    const parsed = ipaddr.process(address);
    return this.isAllowed(parsed) || isPublic(parsed);
  }

  /** Whether the settings name it. */
  private isAllowed(parsed: ipaddr.IPv4 | ipaddr.IPv6): boolean {
    return this.allowed.some(([network, bits]) => parsed.kind() === network.kind() && parsed.match(network, bits));
  }

  /** Whether a protocol may be spoken with a port of an address. */
  permitsPort(address: string, port: number, protocol: Protocol): boolean {
    if (ipaddr.isValid(address) && this.isAllowed(ipaddr.process(address))) return true;
    return protocol === 'http' ? !NOT_HTTP.has(port) : PORTS[protocol].has(port);
  }

  /**
   * An address of a host that may be connected to, resolved now: what is connected to is what was looked at.
   *
   * @throws NetError when the host, or any of its addresses, may not be reached, or the port is one of another protocol.
   */
  async addressOf(host: string, port: number, protocol: Protocol, find: FindAddresses = system): Promise<string> {
    const bare = host.replace(/^\[|\]$/g, '');
    const found = isIP(bare) ? [{ address: bare, family: isIP(bare) }] : await find(bare);
    const refused = found.find(({ address }) => !this.permits(address));
    if (refused) throw privateAddress(host, refused.address);
    const [{ address }] = found;
    if (!this.permitsPort(address, port, protocol)) throw wrongPort(host, port);
    return address;
  }

  /** Resolves names for sockets that are connected by name, and refuses those that lead inside. */
  lookup(find: FindAddresses = system): LookupFunction {
    return (hostname, options, callback) => {
      const taken = (error: Error | null, found: LookupAddress[]) => {
        if (error) return callback(error, '', 0);
        const refused = found.find(({ address }) => !this.permits(address));
        if (refused) return callback(privateAddress(hostname, refused.address), '', 0);
        if (options.all) return callback(null, found as never, 0);
        return callback(null, found[0].address, found[0].family);
      };
      find(hostname).then(
        (found) => taken(null, found),
        (error: Error) => taken(error, []),
      );
    };
  }
}

function isPublic(parsed: ipaddr.IPv4 | ipaddr.IPv6): boolean {
  if (!(parsed instanceof ipaddr.IPv6)) return parsed.range() === 'unicast';
  const [network, bits] = TRANSLATED;
  if (parsed.match(network as ipaddr.IPv6, bits))
    return new ipaddr.IPv4(parsed.toByteArray().slice(12)).range() === 'unicast';
  return parsed.match(GLOBAL[0] as ipaddr.IPv6, GLOBAL[1]) && parsed.range() === 'unicast';
}

const system: FindAddresses = (name) =>
  new Promise((resolve, reject) =>
    systemLookup(name, { all: true }, (error, found) => (error ? reject(error) : resolve(found))),
  );

export function privateAddress(host: string, address: string): NetError {
  const which = host === address ? host : `${host} (${address})`;
  return new NetError('private-address', `${which} is a private address; allow it in the settings to reach it`);
}

export function wrongPort(host: string, port: number): NetError {
  return new NetError('wrong-port', `port ${port} of ${host} is one of another protocol`);
}
