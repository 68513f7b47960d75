import { isIP } from 'node:net';
import { networkInterfaces } from 'node:os';

/** From where the product can be reached, as who starts it says. */
export interface Reach {
  /** The address that is listened on. */
  listens: string;
  /** Addresses by which it is reached through a proxy, like `https://ladle.tarnhives.example`. */
  origins: string[];
  /** Whether others than this machine reach it: then it wants a password. */
  isOpen: boolean;
}

const LOOPBACK = new Set(['127.0.0.1', '::1', 'localhost']);
const EVERY = new Set(['0.0.0.0', '::']);

/**
 * Reads `JAM_LADLE_HOST` (an address of this machine to listen on; 127.0.0.1) and `JAM_LADLE_ORIGIN` (the addresses by which a proxy reaches it,
 * parted by commas).
 *
 * @throws with a message for people on what is none.
 */
export function reachOf({ JAM_LADLE_HOST, JAM_LADLE_ORIGIN }: Record<string, string | undefined>): Reach {
  const listens = (JAM_LADLE_HOST ?? '').trim() || '127.0.0.1';
  if (!LOOPBACK.has(listens) && isIP(listens) === 0)
    throw new Error(`JAM_LADLE_HOST is "${listens.slice(0, 80)}": write an address of this machine, like 192.168.7.4.`);
  const origins = (JAM_LADLE_ORIGIN ?? '')
    .split(',')
    .map((one) => one.trim().replace(/\/$/, ''))
    .filter(Boolean);
  for (const origin of origins)
    if (!URL.canParse(origin) || new URL(origin).origin !== origin || !/^https?:/.test(origin))
      throw new Error(`JAM_LADLE_ORIGIN has "${origin.slice(0, 80)}": write it like https://ladle.example.`);
  return { listens, origins, isOpen: !LOOPBACK.has(listens) || origins.length > 0 };
}

/** The address that links in mails and messages begin with: that of the proxy, else this machine's. */
export function publicAddress(env: Record<string, string | undefined>): string {
  const { origins, listens } = reachOf(env);
  const host = EVERY.has(listens) ? '127.0.0.1' : listens.includes(':') ? `[${listens}]` : listens;
  return origins[0] ?? `http://${host}:${env.PORT ?? '4310'}`;
}

const bare = (host: string) => host.replace(/:\d+$/, '').replace(/^\[|\]$/g, '').toLowerCase(); // biome-ignore format: one chain

/** Whether a request is meant for this product, by its Host (RFC 9110, 7.2): a name that somebody points here is not. */
export function isOurHost(host: string, { listens, origins }: Reach): boolean {
  const name = bare(host);
  if (LOOPBACK.has(name) || name === listens) return true;
  if (origins.some((origin) => new URL(origin).host === host.toLowerCase())) return true;
  return EVERY.has(listens) && ownAddresses().has(name);
}

function ownAddresses(): Set<string> {
  return new Set(Object.values(networkInterfaces()).flatMap((all) => (all ?? []).map(({ address }) => address)));
}

/** The origin that a browser names when it is on the page that this Host serves: by the proxy's address, else plain HTTP. */
export function originFor(host: string, { origins }: Reach): string {
  return origins.find((origin) => new URL(origin).host === host.toLowerCase()) ?? `http://${host}`;
}
