import type { Page } from './pages';
import { Random } from './random';
import { stateAt, type World } from './world';

export const VENUES = [
  { host: 'saltmarchexchange.com', name: 'Saltmarch Exchange', currency: 'EUR' },
  { host: 'quaysidelots.com', name: 'Quayside Lots', currency: 'EUR' },
];

const HOUR = 3_600_000;
const WEEK = 7 * 24 * HOUR;
const KINDS = ['auction', 'expired-auction', 'buy-now', 'offer', 'falling', 'backorder'] as const;

interface Listing {
  domain: string;
  kind: (typeof KINDS)[number];
  priceMinor: number | null;
  bids: number | null;
  closesAt: string | null;
  registeredAt: string | null;
  url: string;
}

/** What a venue offers at a moment: lapsing names at auction, living names for sale, pending deletes to backorder. */
export function listingsOf(world: World, venue: (typeof VENUES)[number], now: number): Listing[] {
  const listings: Listing[] = [];
  for (const domain of world.domains.values()) {
    const random = new Random(`${venue.host} ${domain.name}`);
    const { phase, span } = stateAt(domain, now);
    const draw = random.next();
    let kind: Listing['kind'] | null = null;
    if ((phase === 'auto-renew' || phase === 'redemption') && draw < 0.5)
      kind = random.pick(['expired-auction', 'falling'] as const);
    else if (phase === 'pending-delete' && draw < 0.02) kind = 'backorder';
    else if (phase === 'active' && domain.role === 'background' && draw < 0.06)
      kind = random.pick(['auction', 'buy-now', 'offer'] as const);
    if (!kind) continue;
    const timed = kind === 'auction' || kind === 'expired-auction' || kind === 'falling';
    const first = world.start + random.whole(2, 24 * 6) * HOUR + random.whole(0, 59) * 60_000;
    const closes = first + Math.max(0, Math.ceil((now - first) / WEEK)) * WEEK;
    const worth = Math.round((12 + 8 * random.tail(120)) * 100);
    listings.push({
      domain: domain.name,
      kind,
      priceMinor: kind === 'offer' ? null : kind === 'backorder' ? 6900 : worth,
      bids: kind === 'auction' || kind === 'expired-auction' ? Math.max(0, random.tail(14) - 1) : null,
      closesAt: timed ? new Date(closes).toISOString() : null,
      registeredAt: span ? new Date(span.from).toISOString() : null,
      url: `http://${venue.host}/lots/${domain.name}`,
    });
  }
  return listings;
}

export function venueAnswer(world: World, host: string, path: string, now: number): Page | null {
  const venue = VENUES.find((entry) => entry.host === host);
  if (!venue) return null;
  if (path === '/listings.json')
    return {
      status: 200,
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ venue: venue.name, currency: venue.currency, listings: listingsOf(world, venue, now) }),
    };
  return { status: 404, headers: { 'content-type': 'text/plain' }, body: 'see /listings.json' };
}
