import { createHash } from 'node:crypto';
import { type AuctionTerms, auctionAt, type ProxyBid, rivalsFor } from './auction';
import type { Page } from './pages';
import { hash, Random } from './random';
import { DAY, dropOf, stateAt, type World, type WorldDomain } from './world';

/** One venue hands out the feed that Jam Ladle describes, the other a table as it likes it. */
export const VENUES = [
  { host: 'saltmarchexchange.com', name: 'Saltmarch Exchange', currency: 'EUR' },
  { host: 'quaysidelots.com', name: 'Quayside Lots', currency: 'GBP' },
];
type Venue = (typeof VENUES)[number];

const HOUR = 3_600_000;
const MINUTE = 60_000;
const WEEK = 7 * DAY;
/** A lot stays to be seen for a while after its end. */
const SHOWN_AFTER_MS = HOUR;
const STEPS = 6;
const KINDS = ['auction', 'expired-auction', 'buy-now', 'offer', 'falling', 'backorder'] as const;

export interface Lot {
  domain: string;
  kind: (typeof KINDS)[number];
  state: 'open' | 'sold' | 'closed';
  priceMinor: number | null;
  reserve: 'none' | 'unmet' | 'met' | null;
  bids: number | null;
  watchers: number;
  closesAt: string | null;
  steps?: { at: string; priceMinor: number }[];
  registeredAt: string | null;
  url: string;
}

/** The bids of those who are real, in an auction. */
export type BidsOn = (auction: AuctionTerms) => readonly ProxyBid[];
const NOBODY: BidsOn = () => [];

/** What a venue offers at a moment: lapsing names at auction, living names for sale, pending deletes to backorder. */
export function listingsOf(world: World, venue: Venue, now: number, bidsOn = NOBODY): Lot[] {
  const lots: Lot[] = [];
  for (const domain of world.domains.values()) {
    const lot = lotOfDomain(world, venue, domain, now, bidsOn);
    if (lot) lots.push(lot);
  }
  return lots;
}

/** What a venue offers of one domain; null: nothing. */
export function lotOfDomain(world: World, venue: Venue, domain: WorldDomain, now: number, bidsOn = NOBODY): Lot | null {
  const kind = domain.soldAt === undefined ? kindOf(venue, domain, now) : null;
  return kind && lotOf(world, venue, domain, kind, now, bidsOn);
}

/** The auction of a domain that runs now; null: there is none. */
export function auctionTermsOf(world: World, venue: Venue, domain: WorldDomain, now: number): AuctionTerms | null {
  const kind = domain.soldAt === undefined ? kindOf(venue, domain, now) : null;
  if (kind !== 'auction' && kind !== 'expired-auction') return null;
  const { random, worth, closes } = weekOf(world, venue, domain, now);
  return termsOf(venue, domain, kind, random, worth, closes);
}

function kindOf(venue: Venue, domain: WorldDomain, now: number): Lot['kind'] | null {
  const random = new Random(`${venue.host} ${domain.name}`);
  const { phase } = stateAt(domain, now);
  const draw = random.next();
  if ((phase === 'auto-renew' || phase === 'redemption') && draw < 0.5)
    return random.pick(['expired-auction', 'falling'] as const);
  if (phase === 'pending-delete' && draw < 0.02) return 'backorder';
  if (phase === 'active' && domain.role === 'background' && draw < 0.06)
    return random.pick(['auction', 'buy-now', 'offer'] as const);
  return null;
}

/** What a lot's week is drawn from. A lot runs for a week, then it is put up anew. */
function weekOf(world: World, venue: Venue, domain: WorldDomain, now: number) {
  const random = new Random(`lot ${venue.host} ${domain.name}`);
  const worth = Math.round((12 + 8 * random.tail(120)) * 100);
  const first = world.start + random.whole(2, 24 * 6) * HOUR + random.whole(0, 59) * MINUTE;
  const closes = first + Math.max(0, Math.ceil((now - SHOWN_AFTER_MS - first) / WEEK)) * WEEK;
  return { random, worth, closes };
}

function termsOf(
  venue: Venue,
  domain: WorldDomain,
  kind: Lot['kind'],
  random: Random,
  worth: number,
  closesAt: number,
): AuctionTerms {
  const rivals = rivalsFor(random, worth, closesAt);
  const reserveMinor =
    kind === 'auction' && random.chance(0.4) ? Math.round((worth * (0.4 + 0.7 * random.next())) / 100) * 100 : null;
  const startMinor = Math.round((worth * 0.35) / 100) * 100;
  return { seed: `${venue.host} ${domain.name} ${closesAt}`, startMinor, reserveMinor, closesAt, rivals };
}

function lotOf(world: World, venue: Venue, domain: WorldDomain, kind: Lot['kind'], now: number, bidsOn: BidsOn): Lot {
  const { random, worth, closes } = weekOf(world, venue, domain, now);
  const { span } = stateAt(domain, now);
  const lot: Lot = {
    domain: domain.name,
    kind,
    state: 'open',
    priceMinor: kind === 'offer' ? null : kind === 'backorder' ? 6900 : worth,
    reserve: null,
    bids: null,
    watchers: hash(`watch ${venue.host} ${domain.name}`) % 9,
    closesAt: null,
    registeredAt: span ? new Date(span.from).toISOString() : null,
    url: `http://${venue.host}/lots/${domain.name}`,
  };
  if (kind === 'auction' || kind === 'expired-auction') {
    const terms = termsOf(venue, domain, kind, random, worth, closes);
    const { priceMinor, bids, reserve, closesAt, isOver, winner } = auctionAt(terms, bidsOn(terms), now);
    const state = !isOver ? 'open' : winner === null ? 'closed' : 'sold';
    lot.watchers += terms.rivals.length;
    Object.assign(lot, { priceMinor, bids, reserve, closesAt: new Date(closesAt).toISOString(), state });
  } else if (kind === 'falling') runDown(lot, random, worth, closes, now);
  return lot;
}

/** How likely somebody takes it at each step: the cheaper, the likelier. */
const TAKEN = [0.02, 0.05, 0.1, 0.16, 0.22, 0.3];

/** A price that falls by the day, by a quarter each time, until somebody takes it. */
function runDown(lot: Lot, random: Random, worth: number, closes: number, now: number): void {
  const start = closes - STEPS * DAY;
  const week = new Random(`${random.next()} ${closes}`);
  const steps = Array.from({ length: STEPS }, (_, step) => ({
    at: start + step * DAY,
    priceMinor: Math.round((worth * 4 * 0.75 ** step) / 100) * 100,
  }));
  const taken = steps.findIndex((_, step) => week.chance(TAKEN[step]));
  const takenAt = taken < 0 ? null : steps[taken].at + week.whole(1, 23) * HOUR;
  const until = takenAt === null ? now : Math.min(now, takenAt);
  lot.steps = steps.map(({ at, priceMinor }) => ({ at: new Date(at).toISOString(), priceMinor }));
  lot.priceMinor = steps.filter(({ at }) => at <= until).at(-1)?.priceMinor ?? worth * 4;
  lot.closesAt = new Date(closes).toISOString();
  if (takenAt !== null && now >= takenAt) lot.state = 'sold';
  else if (now >= closes) lot.state = 'closed';
}

const KIND_WORDS: Record<Lot['kind'], string> = {
  auction: 'Auction',
  'expired-auction': 'Expired, bidding',
  'buy-now': 'Fixed price',
  offer: 'Make an offer',
  falling: 'Falling',
  backorder: 'Backorder',
};
const RESERVE_WORDS = { none: 'no reserve', unmet: 'not met', met: 'met' };

/** The same as the second venue writes it: semicolons, pounds, its own words. */
function* lotTable(lots: Lot[]): Generator<string> {
  yield 'Lot;Format;Current price;Bids;Reserve;Ends;Lot page\r\n';
  for (const lot of lots) {
    if (lot.state !== 'open') continue;
    const price = lot.priceMinor === null ? '' : `£${(lot.priceMinor / 100).toLocaleString('en-GB')}`;
    const reserve = lot.reserve === null ? '' : RESERVE_WORDS[lot.reserve];
    const ends = lot.closesAt?.slice(0, 16).replace('T', ' ') ?? '';
    yield `${lot.domain};${KIND_WORDS[lot.kind]};${price};${lot.bids ?? ''};${reserve};${ends};${lot.url}\r\n`;
  }
}

/** Answers a request to a venue; with the validators of what it has (RFC 9110, 8.8). */
export function venueAnswer(
  world: World,
  host: string,
  path: string,
  now: number,
  headers: Record<string, string | string[] | undefined> = {},
  bidsOn = NOBODY,
): Page | null {
  const venue = VENUES.find((entry) => entry.host === host);
  if (!venue) return null;
  const lots = () => listingsOf(world, venue, now, bidsOn);
  if (path === '/listings.json' && venue.currency === 'EUR') {
    const body = JSON.stringify({ venue: venue.name, currency: venue.currency, listings: lots() });
    return conditional('application/json', body, headers);
  }
  if (path === '/lots.csv' && venue.currency === 'GBP')
    return conditional('text/csv', [...lotTable(lots())].join(''), headers);
  if (path === '/drops.csv') return conditional('text/csv', [...dropsOfToday(world, now)].join(''), headers);
  return { status: 404, headers: { 'content-type': 'text/plain' }, body: 'nothing here' };
}

/** A list that is new every day: what drops within the next week. */
function* dropsOfToday(world: World, now: number): Generator<string> {
  yield 'domain,drop date\n';
  const today = Math.floor(now / DAY) * DAY;
  for (const domain of world.listed) {
    if (stateAt(domain, today).phase !== 'pending-delete') continue;
    yield `${domain.name},${new Date(dropOf(domain) ?? today).toISOString().slice(0, 10)}\n`;
  }
}

function conditional(type: string, body: string, headers: Record<string, string | string[] | undefined>): Page {
  const etag = `"${createHash('sha256').update(body).digest('hex').slice(0, 16)}"`;
  if (headers['if-none-match'] === etag) return { status: 304, headers: { etag }, body: '' };
  return { status: 200, headers: { 'content-type': type, etag }, body };
}
