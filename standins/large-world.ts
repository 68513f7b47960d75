import { createWriteStream } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { batched, day, PARKING } from './files';
import { hash, Random } from './random';
import { VENUES } from './venues';
import { ENDINGS, PLACES, SUBJECTS, TAILS } from './words';
import { DAY, type WorldPhase } from './world';

/** From expiry on, alike for all names. */
const AUTO_RENEW_DAYS = 35;
const REDEMPTION_DAYS = 30;
const LAPSE_DAYS = AUTO_RENEW_DAYS + REDEMPTION_DAYS + 5;

/**
 * A world of any size, as files alone: every domain follows from the seed and its number, so that nothing is held but the row
 * that is being written. What is worth something is rare, links and prices are heavy-tailed, and much is not known, as on the web.
 */
export interface LargeDomain {
  name: string;
  ending: string;
  phase: WorldPhase;
  /** Since its registration ran out; negative while it is paid for. */
  lateDays: number;
  registeredAt: number;
  /** Domains that link to it: none for most, thousands for a few. */
  referrers: number;
  backlinks: number;
  /** What its offer is worth, in minor units. */
  worthMinor: number;
  /** What nobody knows of it. */
  isAgeKnown: boolean;
  areLinksKnown: boolean;
  hash: number;
}

const PREFIXES = [
  '', 'the', 'my', 'old', 'new', 'little', 'upper', 'lower', 'north', 'south', 'west', 'east', 'true', 'best', 'all', 'one',
  'our', 'real', 'prime', 'quiet',
]; // biome-ignore format: a list
const WORDS = SUBJECTS.flatMap(({ names }) => names);
const LAST = ['', ...TAILS];
const LABELS = PREFIXES.length * PLACES.length * WORDS.length * LAST.length;
/** No factor in common with the number of labels, so that stepping by it meets every label once. */
const STRIDE = 7_368_787;
export const MOST_DOMAINS = LABELS * ENDINGS.length;

/** Phases, up to which share of names they go, and how late in days the names are. */
const PHASES: [phase: WorldPhase, upTo: number, from: number, to: number][] = [
  ['active', 0.4, -3000, -1],
  ['auto-renew', 0.55, 0, AUTO_RENEW_DAYS],
  ['redemption', 0.67, AUTO_RENEW_DAYS, AUTO_RENEW_DAYS + REDEMPTION_DAYS],
  ['pending-delete', 0.8, AUTO_RENEW_DAYS + REDEMPTION_DAYS, LAPSE_DAYS],
  ['free', 1, LAPSE_DAYS, LAPSE_DAYS + 20],
];

/** Domain number `index`, from 0 on. @throws RangeError from MOST_DOMAINS on. */
export function domainAt(index: number, seed: number, now: number): LargeDomain {
  if (index >= MOST_DOMAINS) throw new RangeError(`there are at most ${MOST_DOMAINS.toLocaleString('en')} names`);
  const label = labelAt((index * STRIDE + seed) % LABELS);
  const random = new Random(hash(`${seed} ${index}`));
  // whoever has the label under one ending left the others to the next rounds
  const ending = endingsOf(label)[Math.floor(index / LABELS)];
  const isJunk = random.chance(0.2);
  const name = `${label}${isJunk ? random.whole(10, 9999) : ''}.${ending}`;
  const draw = random.next();
  const phase = PHASES.find(([, upTo]) => draw < upTo) ?? PHASES[0];
  const lateDays = random.whole(phase[2], phase[3] - 1);
  const ageYears = Math.min(28, -Math.log(1 - random.next()) * 6);
  const isLinked = random.chance(isJunk ? 0.15 : 0.45);
  const referrers = isLinked ? Math.floor(Math.min(200_000, 1 / (1 - random.next()) ** 1.1)) : 0;
  const backlinks = Math.floor(referrers * (1 + 1 / (1 - random.next()) ** 0.7));
  const worth = Math.exp(2.2 + 1.1 * normal(random)) * (1 + referrers ** 0.45) * (isJunk ? 0.3 : 1);
  return {
    name,
    ending,
    phase: phase[0],
    lateDays,
    registeredAt: now - (lateDays + Math.max(1, Math.ceil(ageYears)) * 365) * DAY,
    referrers,
    backlinks,
    worthMinor: Math.max(500, Math.round(worth * 100)),
    isAgeKnown: random.chance(0.8),
    areLinksKnown: random.chance(0.9),
    hash: hash(name),
  };
}

function labelAt(number: number): string {
  let rest = number;
  const pick = (items: readonly string[]) => {
    const item = items[rest % items.length];
    rest = Math.floor(rest / items.length);
    return item;
  };
  const word = pick(WORDS);
  const place = pick(PLACES).toLowerCase();
  const last = pick(LAST);
  const prefix = pick(PREFIXES);
  return prefix + place + word + last;
}

/** All endings in an order of the label's own, the common ones mostly first. */
function endingsOf(label: string): string[] {
  const random = new Random(hash(label));
  return ENDINGS.map(([ending, share]) => ({ ending, key: random.next() ** (1 / share) }))
    .sort((a, b) => b.key - a.key)
    .map(({ ending }) => ending);
}

/** Standard normal (Box and Muller 1958). */
function normal(random: Random): number {
  return Math.sqrt(-2 * Math.log(1 - random.next())) * Math.cos(2 * Math.PI * random.next());
}

export interface LargeWorldOptions {
  domains: number;
  seed: number;
  now: number;
}

/** Rows of a link export for each domain of the world. */
const LINKS_A_DOMAIN = 3;
/** One row in so many is damaged, as rows are. */
const DAMAGED = 5000;

function* each({ domains, seed, now }: LargeWorldOptions): Generator<LargeDomain> {
  for (let index = 0; index < domains; index++) yield domainAt(index, seed, now);
}

/** What drops and has dropped: CSV. */
function* dropList(options: LargeWorldOptions): Generator<string> {
  yield 'Domain,Status,Drop date,Registered,Backlinks,Referring domains\n';
  let row = 0;
  for (const domain of each(options)) {
    if (domain.phase !== 'pending-delete' && domain.phase !== 'free') continue;
    const drop = options.now + (LAPSE_DAYS - domain.lateDays) * DAY;
    const links = domain.areLinksKnown ? `${domain.backlinks},${domain.referrers}` : ',';
    const age = domain.isAgeKnown ? day(domain.registeredAt) : '';
    yield ++row % DAMAGED === 0
      ? `"${domain.name},pending\n`
      : `${domain.name},${domain.phase === 'free' ? 'deleted' : 'pending delete'},${day(drop)},${age},${links}\n`;
  }
}

/** What has expired and may be renewed: tabs, dotted dates, rounded counts. */
function* expiredList(options: LargeWorldOptions): Generator<string> {
  yield 'Name\tState\tCreated on\tLinks\tLinking domains\n';
  for (const domain of each(options)) {
    if (domain.phase !== 'auto-renew' && domain.phase !== 'redemption') continue;
    const state = domain.phase === 'redemption' ? 'redemption period' : 'expired';
    const [year, month, date] = day(domain.registeredAt).split('-');
    const created = domain.isAgeKnown ? `${date}.${month}.${year}` : '';
    const links = domain.areLinksKnown ? `${rounded(domain.backlinks)}\t${rounded(domain.referrers)}` : '\t';
    yield `${domain.name}\t${state}\t${created}\t${links}\n`;
  }
}

function rounded(count: number): string {
  if (count >= 1e6) return `${(count / 1e6).toFixed(1)}M`;
  return count >= 1000 ? `${(count / 1000).toFixed(1)}k` : String(count);
}

/** The feed of the first venue: expired names at auction and falling, some living ones for sale. */
function* feed(options: LargeWorldOptions): Generator<string> {
  const [venue] = VENUES;
  yield `{"venue":"${venue.name}","currency":"${venue.currency}","listings":[`;
  let separator = '';
  for (const domain of each(options)) {
    const kind = offerOf(domain, 0);
    if (!kind) continue;
    yield separator + JSON.stringify(listing(domain, kind, venue.host, options.now));
    separator = ',\n';
  }
  yield ']}\n';
}

function listing(domain: LargeDomain, kind: string, host: string, now: number): object {
  const random = new Random(domain.hash);
  const closes = now + random.whole(1, 7 * 24 * 60) * 60_000;
  const isAuction = kind.endsWith('auction');
  const start = closes - 6 * DAY;
  return {
    domain: domain.name,
    kind,
    priceMinor: kind === 'offer' ? null : kind === 'backorder' ? 6900 : domain.worthMinor,
    ...(isAuction && {
      bids: Math.min(120, Math.floor(domain.worthMinor / 6000)),
      reserve: random.pick(['none', 'none', 'unmet', 'met']),
    }),
    ...(isAuction || kind === 'falling' ? { closesAt: new Date(closes).toISOString() } : {}),
    ...(kind === 'falling' && {
      steps: Array.from({ length: 6 }, (_, step) => ({
        at: new Date(start + step * DAY).toISOString(),
        priceMinor: Math.round(domain.worthMinor * 4 * 0.75 ** step),
      })),
    }),
    ...(domain.isAgeKnown && { registeredAt: new Date(domain.registeredAt).toISOString() }),
    url: `http://${host}/lots/${domain.name}`,
  };
}

/** Whether a venue offers a domain, and how. */
function offerOf(domain: LargeDomain, venue: number): string | null {
  const draw = ((domain.hash >>> (venue * 8)) & 0xff) / 256;
  if (domain.phase === 'auto-renew' || domain.phase === 'redemption')
    return draw < 0.06 ? 'expired-auction' : draw < 0.08 ? 'falling' : null;
  if (domain.phase === 'pending-delete') return draw < 0.01 ? 'backorder' : null;
  if (domain.phase !== 'active') return null;
  return draw < 0.02 ? 'buy-now' : draw < 0.03 ? 'offer' : draw < 0.04 ? 'auction' : null;
}

/** The table of the second venue, in its own words. */
function* lots(options: LargeWorldOptions): Generator<string> {
  yield 'Lot;Format;Current price;Bids;Ends\r\n';
  const words: Record<string, string> = { 'expired-auction': 'Expired, bidding', 'buy-now': 'Fixed price', falling: 'Falling', auction: 'Auction', offer: 'Make an offer', backorder: 'Backorder' }; // biome-ignore format: a table
  for (const domain of each(options)) {
    const kind = offerOf(domain, 1);
    if (!kind) continue;
    const price = kind === 'offer' ? '' : `£${Math.round(domain.worthMinor / 100).toLocaleString('en-GB')}`;
    const isAuction = kind.endsWith('auction');
    const ends = isAuction ? `${day(options.now + ((domain.hash >>> 8) % 7) * DAY)} 18:00` : '';
    yield `${domain.name};${words[kind]};${price};${isAuction ? domain.hash % 9 : ''};${ends}\r\n`;
  }
}

/** The zone org as it was some days ago: names that are paid for, those of the auto-renew period at the parking servers. */
function* zone(options: LargeWorldOptions, daysAgo: number): Generator<string> {
  const serial = Math.floor((options.now - daysAgo * DAY) / 1000);
  yield `$ORIGIN org.\n$TTL 86400\n@ IN SOA a.registry.${PARKING}. hostmaster.registry.${PARKING}. (\n`;
  yield `  ${serial} 1800 900 604800 86400 )\n  IN NS a.registry.${PARKING}.\n`;
  for (const domain of each(options)) {
    if (domain.ending !== 'org') continue;
    const late = domain.lateDays - daysAgo;
    if (late >= AUTO_RENEW_DAYS) continue;
    const servers =
      late >= 0 ? PARKING : `dns${domain.hash % 40}.${PLACES[domain.hash % PLACES.length].toLowerCase()}hosts.net`;
    yield `${domain.name.slice(0, -4)} IN NS ns1.${servers}.\n\tIN NS ns2.${servers}.\n`;
  }
}

/** What a crawler of the whole world saw: pages of the living linking to each other and to what has lapsed. */
function* links(options: LargeWorldOptions): Generator<string> {
  yield 'from,to,anchor,rel\n';
  const { domains, seed, now } = options;
  const random = new Random(hash(`links ${seed}`));
  const rows = domains * LINKS_A_DOMAIN;
  let row = 0;
  for (let page = 0; row < rows; page++) {
    const site = domainAt(heavy(random, domains), seed, now).name;
    const from = `http://www.${site}/${page.toString(36)}.html`;
    for (let link = random.whole(1, 40); link > 0 && row < rows; link--, row++) {
      const word = random.pick(WORDS);
      if (random.chance(0.5)) yield `${from},http://www.${site}/${random.whole(0, 900)}.html,${word},\n`;
      else {
        const to = domainAt(heavy(random, domains), seed, now).name;
        const rel = random.chance(0.2) ? 'nofollow' : '';
        yield row % DAMAGED === 0
          ? `${from},mailto:${word},${word},\n`
          : `${from},http://${to}/${random.chance(0.7) ? '' : word},"${word}, and more",${rel}\n`;
      }
    }
  }
}

/** A number below `most`: the low ones come up most, as few sites take most links. */
function heavy(random: Random, most: number): number {
  return Math.floor(most * random.next() ** 4);
}

/** Writes the files of a large world into a folder, one after another. @param onFile told of each before it is written. */
export async function writeLargeWorld(
  folder: string,
  options: LargeWorldOptions,
  onFile: (name: string) => void = () => undefined,
): Promise<void> {
  if (options.domains > MOST_DOMAINS)
    throw new RangeError(`there are at most ${MOST_DOMAINS.toLocaleString('en')} names`);
  await mkdir(folder, { recursive: true });
  const files: [name: string, lines: Generator<string>][] = [
    ['drop-list.csv', dropList(options)],
    ['expired-list.tsv.gz', expiredList(options)],
    ['saltmarch-listings.json', feed(options)],
    ['quayside-lots.csv', lots(options)],
    ['zone-org-older.gz', zone(options, 30)],
    ['zone-org-newer.gz', zone(options, 0)],
    ['link-export.csv.gz', links(options)],
  ];
  for (const [name, lines] of files) {
    onFile(name);
    const out = createWriteStream(join(folder, name));
    const text = Readable.from(batched(lines));
    if (name.endsWith('.gz')) await pipeline(text, createGzip({ level: 1 }), out);
    else await pipeline(text, out);
  }
}
