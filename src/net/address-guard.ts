import ipaddr from 'ipaddr.js';

/** Says whether the product may connect to an IP address. */
export class AddressGuard {
  private readonly allowed: [ipaddr.IPv4 | ipaddr.IPv6, number][];

  /** @param allowed CIDR blocks of private addresses that may be reached, `127.0.0.1/32`. @throws on what is no CIDR. */
  constructor(allowed: string[]) {
    this.allowed = allowed.map((block) =>
      ipaddr.parseCIDR(block.includes('/') ? block : `${block}/${block.includes(':') ? 128 : 32}`),
    );
  }

  /** Public unicast addresses, and what the settings allow. `address` is an IP literal. */
  permits(address: string): boolean {
    if (!ipaddr.isValid(address)) return false;
    const parsed = ipaddr.process(address);
    if (parsed.range() === 'unicast') return true;
    return this.allowed.some(([network, bits]) => parsed.kind() === network.kind() && parsed.match(network, bits));
  }
}
