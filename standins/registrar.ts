import type { Page } from './pages';
import { hash } from './random';
import { Limiter } from './registries';
import { stateAt, type World } from './world';

/** Where names of the world are registered by hand. */
export const REGISTRAR_HOST = 'register.coombenames.net';
const PER_SECOND = 40;

const limiter = new Limiter();

/** Whether it would register a domain, in the product's own open format; null when the host is another. */
export function registrarAnswer(world: World, host: string, path: string, now: number): Page | null {
  if (host !== REGISTRAR_HOST) return null;
  const json = (status: number, value: object, headers: Record<string, string> = {}): Page => ({
    status,
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify(value),
  });
  const wait = limiter.wait('registrar', PER_SECOND, 1000);
  if (wait > 0) return json(429, { error: 'too many' }, { 'retry-after': String(Math.ceil(wait / 1000)) });
  const name = new URL(path, 'http://x').searchParams.get('domain')?.toLowerCase() ?? '';
  if (!/^[^.]+(\.[^.]+)+$/.test(name)) return json(400, { error: 'no domain' });
  return json(200, { domain: name, ...availabilityOf(world, name, now) });
}

export interface Availability {
  availability: 'available' | 'premium' | 'reserved' | 'taken';
  priceMinor?: number;
  currency?: string;
}

/** The first year, by ending. */
const PRICES: Record<string, number> = { org: 1190, com: 1090, net: 1290, 'co.uk': 890, de: 790, eu: 990, info: 1590 };
const OTHER_PRICE = 1890;

export function availabilityOf(world: World, name: string, now: number): Availability {
  const domain = world.domains.get(name);
  if (domain && stateAt(domain, now).span !== null) return { availability: 'taken' };
  const kind = domain?.atRegistrar ?? drawn(name);
  if (kind === 'premium')
    return { availability: 'premium', priceMinor: 40_000 + (hash(`price ${name}`) % 400) * 1000, currency: 'EUR' };
  if (kind === 'reserved' || kind === 'taken') return { availability: kind };
  const ending = name.slice(name.indexOf('.') + 1);
  return { availability: 'available', priceMinor: PRICES[ending] ?? OTHER_PRICE, currency: 'EUR' };
}

/** A few of the free names are not to be had: dear, held back, or gone in this very moment. */
function drawn(name: string): 'premium' | 'reserved' | 'taken' | null {
  const draw = hash(`at the registrar ${name}`) % 100;
  if (draw < 3) return 'premium';
  if (draw < 5) return 'reserved';
  return draw === 5 ? 'taken' : null;
}
