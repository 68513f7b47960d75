import type { Page } from './pages';
import { hash } from './random';
import { listingsOf } from './venues';
import type { World } from './world';

/** Services with interfaces of their own kind, which a person describes: an index of backlinks, and a venue behind a key. */
export const INDEX_HOST = 'api.withylinks.net';
export const LOTS_HOST = 'api.umberleylots.com';
const INDEX_KEY = 'withy-demo-key';
const LOTS_KEY = 'umberley-demo-key';
const LOTS = { host: LOTS_HOST, name: 'Umberley Lots', currency: 'USD' };
const PER_PART = 100;

/** As they stand described in the demo. */
export const DESCRIBED = [
  {
    id: 'withy-links',
    title: 'Withy Links',
    use: 'figures',
    address: `http://${INDEX_HOST}/v1/domain?name={domain}`,
    headers: [{ name: 'X-Api-Key', value: '{key}' }],
    key: INDEX_KEY,
    format: 'json',
    entries: '/result',
    fields: {
      domain: { in: 'entry', at: '/domain' },
      'referring-domains': { in: 'entry', at: '/links/domains' },
      backlinks: { in: 'entry', at: '/links/total' },
      traffic: { in: 'entry', at: '/organic/visits' },
      keywords: { in: 'entry', at: '/organic/keywords' },
    },
    errors: [{ at: '/error', is: '' }],
    nothing: [404],
    perMinute: 600,
  },
  {
    id: 'umberley-lots',
    title: LOTS.name,
    use: 'listings',
    address: `http://${LOTS_HOST}/lots?after={cursor}`,
    headers: [{ name: 'Authorization', value: 'Bearer {key}' }],
    key: LOTS_KEY,
    format: 'json',
    entries: '/lots',
    fields: {
      domain: { in: 'entry', at: '/name' },
      kind: { in: 'entry', at: '/sale' },
      price: { in: 'entry', at: '/amount' },
      currency: { in: 'answer', at: '/currency' },
      closing: { in: 'entry', at: '/ends' },
      bids: { in: 'entry', at: '/bids' },
      'listing-url': { in: 'entry', at: '/page' },
    },
    paging: { by: 'cursor', at: '/next' },
    perMinute: 600,
  },
];

/** What the services of this file say; null when the host is another. */
export function interfaceAnswer(
  world: World,
  host: string,
  path: string,
  now: number,
  headers: Record<string, string | string[] | undefined>,
): Page | null {
  const url = new URL(path, 'http://x');
  if (host === INDEX_HOST)
    return headers['x-api-key'] === INDEX_KEY ? figures(world, url) : json(401, { error: 'unknown key' });
  if (host === LOTS_HOST)
    return headers.authorization === `Bearer ${LOTS_KEY}` ? lots(world, url, now) : json(401, { error: 'unknown key' });
  return null;
}

function json(status: number, value: object): Page {
  return { status, headers: { 'content-type': 'application/json' }, body: JSON.stringify(value) };
}

/** An index counts more links than a crawl of a few sites finds, and not all of those. */
function figures(world: World, url: URL): Page {
  const name = (url.searchParams.get('name') ?? '').toLowerCase();
  if (!world.domains.has(name)) return json(404, { error: 'never seen' });
  const draw = hash(`withy ${name}`);
  const domains = linkedFrom(world, name) * (2 + (draw % 5)) + (draw % 7);
  return json(200, {
    result: {
      domain: name,
      links: { domains, total: domains * (1 + ((draw >>> 4) % 9)) },
      organic: { visits: domains * ((draw >>> 8) % 40), keywords: domains * ((draw >>> 6) % 6) },
    },
  });
}

const counted = new WeakMap<World, Map<string, number>>();
function linkedFrom(world: World, name: string): number {
  let counts = counted.get(world);
  if (!counts) {
    counts = new Map();
    for (const { to } of world.links) counts.set(to.name, (counts.get(to.name) ?? 0) + 1);
    counted.set(world, counts);
  }
  return counts.get(name) ?? 0;
}

function lots(world: World, url: URL, now: number): Page {
  const after = url.searchParams.get('after') ?? '';
  const all = listingsOf(world, LOTS, now).filter(({ state }) => state === 'open');
  const start = after === '' ? 0 : all.findIndex(({ domain }) => domain === after) + 1;
  const part = all.slice(start, start + PER_PART);
  return json(200, {
    currency: LOTS.currency,
    lots: part.map(({ domain, kind, priceMinor, closesAt, bids }) => ({
      name: domain,
      sale: kind,
      amount: priceMinor === null ? null : priceMinor / 100,
      ends: closesAt,
      bids,
      page: `http://${LOTS_HOST}/lots/${domain}`,
    })),
    next: start + PER_PART < all.length ? part[part.length - 1].domain : null,
  });
}
