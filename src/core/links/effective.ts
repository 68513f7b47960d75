import { hamming } from './simhash';

/** One referring domain, with what is known of it and of its links. */
export interface Referring {
  site: string;
  /** Pages of it that link. */
  pages: number;
  /** Whether at least one of its links is followed, stands on a page that may be indexed, and is still there. */
  followed: boolean;
  indexable: boolean;
  /** Links that were looked for again: all gone, some there, or nobody looked. */
  standing: 'there' | 'gone' | 'unknown';
  /** Lapsed domains that it links to, as far as known. */
  lapsedTargets: number;
  /** Handle or name of the registrant; null: hidden or not known. */
  registrant: string | null;
  nameServers: string[];
  /** First three bytes of its IPv4 address, or first six of its IPv6 address, as text; null: not known. */
  addressBlock: string | null;
  trackingIds: string[];
  /** Fingerprint of the linking page (`templatePrint`); null: not read. */
  fingerprint: string | null;
  /** How many domains are known to stand on the same name servers and addresses; absent: nobody counted. */
  serverSites?: number | null;
}

export const DISCOUNTS = ['nofollow', 'unindexed', 'gone', 'network', 'blanket'] as const;
export type DiscountKind = (typeof DISCOUNTS)[number];

export interface Discount {
  kind: DiscountKind;
  /** What is left of its vote by this, 0 to 1. */
  factor: number;
  /** For people. */
  why: string;
}

export interface WeighedReferrer {
  site: string;
  /** Product of the factors of its discounts. */
  weight: number;
  discounts: Discount[];
}

/** Referrers that are taken for one owner's. */
export interface LinkNetwork {
  sites: string[];
  /** What they have in common. */
  signs: string[];
}

export interface EffectiveReferrers {
  /** Sum of the weights, one decimal. */
  effective: number;
  /** Linking pages, and how many of them are more of the same site. */
  pages: number;
  siteWide: number;
  referrers: WeighedReferrer[];
  networks: LinkNetwork[];
  /** What each kind of discount took away, in referrers, in the order they are applied: their sum and `effective` make the referring domains. */
  taken: Record<DiscountKind, number>;
}

/** Up to so many lapsed targets a referrer is a site with old links; from there its vote shrinks as this number over theirs. */
export const BLANKET_FROM = 100;
/** Fingerprints of near-identical pages differ in at most so many of 64 bits (Manku, Jain and Sarma 2007). */
const NEAR_BITS = 3;
/** What a record says where the registrant is hidden: the names of services that stand in for owners. */
const HIDDEN =
  /priva(?:cy|te)|redact|withheld|proxy|gdpr|rgpd|dsgvo|not (?:disclosed|available|applicable|public)|non.?public|(?:data|identity|whois|domain|registration|contact).{0,3} ?(?:protect|shield|guard|mask|hidden|secre)|protected|anonym|dataskydd|datenschutz|protecci[oó]n de datos|protezione dei dati|personuppgift|mask(?:ed|ing)|on behalf of|care of|c\/o\b|customer \d|diffusion restreinte|nicht öffentlich|^(?:n\/?a|none|null|unknown|-+|(?:(?:domains?|dns|network|web|it|technical|billing) (?:admin(?:istrator)?s?|managers?|contact|department|team|master)|hostmaster|webmaster|registrant|owner|admin))$/i;

/** Servers on which more domains are known say nothing, */
const RARE_SERVERS = 40;
/** unless so much of what is known there links to the one domain. */
const LARGE_PART = 0.25;

/**
 * Collapses referring domains to votes. What is nofollow, unindexable or gone counts nothing; domains of one network share one vote; one
 * that links to a great many lapsed domains counts for little. A network: the same registrant, the same name servers and address block, a
 * tracking id in common, or near-identical linking pages; members may be joined by different signs (union-find, Tarjan 1975).
 */
export function weighReferrers(referrers: readonly Referring[]): EffectiveReferrers {
  const taken: Record<DiscountKind, number> = { nofollow: 0, unindexed: 0, gone: 0, network: 0, blanket: 0 };
  const counting = referrers.filter((referrer) => silence(referrer) === null);
  const { networks, networkOf } = findNetworks(counting);
  const weighed = referrers.map((referrer): WeighedReferrer => {
    const silent = silence(referrer);
    if (silent) {
      taken[silent.kind] += 1;
      return { site: referrer.site, weight: 0, discounts: [silent] };
    }
    const discounts: Discount[] = [];
    let weight = 1;
    const network = networkOf.get(referrer.site);
    if (network) {
      const others = network.sites.length - 1;
      const factor = 1 / network.sites.length;
      const why = `counts once with ${others === 1 ? 'another' : `${others} others`}: ${network.signs.join('; ')}`;
      discounts.push({ kind: 'network', factor, why });
      taken.network += weight * (1 - factor);
      weight *= factor;
    }
    if (referrer.lapsedTargets > BLANKET_FROM) {
      const factor = BLANKET_FROM / referrer.lapsedTargets;
      const why = `links to ${referrer.lapsedTargets.toLocaleString('en')} lapsed domains`;
      discounts.push({ kind: 'blanket', factor, why });
      taken.blanket += weight * (1 - factor);
      weight *= factor;
    }
    return { site: referrer.site, weight, discounts };
  });
  const pages = referrers.reduce((sum, referrer) => sum + referrer.pages, 0);
  const effective = weighed.reduce((sum, { weight }) => sum + weight, 0);
  return {
    effective: Math.round(effective * 10) / 10,
    pages,
    siteWide: pages - referrers.length,
    referrers: weighed,
    networks,
    taken,
  };
}

/** Why a referrer has no vote at all; null: it has one. */
function silence({ followed, indexable, standing }: Referring): Discount | null {
  if (standing === 'gone') return { kind: 'gone', factor: 0, why: 'its link is gone' };
  if (!followed) return { kind: 'nofollow', factor: 0, why: 'all its links are nofollow' };
  if (!indexable) return { kind: 'unindexed', factor: 0, why: 'no page of its with a link may be indexed' };
  return null;
}

function findNetworks(referrers: readonly Referring[]): {
  networks: LinkNetwork[];
  networkOf: Map<string, LinkNetwork>;
} {
  const parents = referrers.map((_, place) => place);
  const signs = referrers.map(() => new Set<string>());
  const root = (place: number): number => {
    let at = place;
    while (parents[at] !== at) {
      parents[at] = parents[parents[at]];
      at = parents[at];
    }
    return at;
  };
  const join = (a: number, b: number, sign: string): void => {
    const [low, high] = [root(a), root(b)].sort((x, y) => x - y);
    signs[a].add(sign);
    signs[b].add(sign);
    parents[high] = low;
  };
  const firstWith = new Map<string, number>();
  const meet = (place: number, key: string, sign: string): void => {
    const first = firstWith.get(key);
    if (first === undefined) firstWith.set(key, place);
    else join(first, place, sign);
  };
  const open = openIds(referrers);
  referrers.forEach((referrer, place) => {
    const { registrant, trackingIds } = referrer;
    if (isNamed(registrant)) meet(place, `registrant ${ownerOf(registrant)}`, `registrant ${registrant}`);
    for (const id of accountsOf(trackingIds)) if (!open.has(id)) meet(place, `id ${id}`, `tracking id ${id}`);
  });
  for (const { places, sign } of sharedServers(referrers)) for (const place of places) join(places[0], place, sign);
  joinAlike(referrers, join);
  const members = new Map<number, number[]>();
  referrers.forEach((_, place) => {
    const at = root(place);
    members.set(at, [...(members.get(at) ?? []), place]);
  });
  const networks: LinkNetwork[] = [];
  const networkOf = new Map<string, LinkNetwork>();
  for (const places of members.values()) {
    if (places.length < 2) continue;
    const network: LinkNetwork = {
      sites: places.map((place) => referrers[place].site),
      signs: commonest(places.map((place) => signs[place])),
    };
    networks.push(network);
    for (const site of network.sites) networkOf.set(site, network);
  }
  return { networks: networks.sort((a, b) => b.sites.length - a.sites.length), networkOf };
}

const isNamed = (registrant: string | null): registrant is string =>
  registrant !== null && registrant.trim() !== '' && !HIDDEN.test(registrant.trim());

/** A name without what its spellings differ in. */
const ownerOf = (registrant: string) =>
  registrant
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
/** Ids by the account that they belong to: the last number of some is that of a site. */
const accountsOf = (ids: readonly string[]) => [...new Set(ids.map((id) => id.replace(/^(UA-\d+)-\d+$/i, '$1')))];

/** Ids that sites of several owners share: of a theme, a counter or an advertising network. */
function openIds(referrers: readonly Referring[]): Set<string> {
  const owners = new Map<string, Set<string>>();
  for (const { trackingIds, registrant } of referrers)
    for (const id of accountsOf(trackingIds)) {
      const of = owners.get(id) ?? new Set<string>();
      if (isNamed(registrant)) of.add(ownerOf(registrant));
      owners.set(id, of);
    }
  return new Set([...owners].flatMap(([id, of]) => (of.size > 1 ? [id] : [])));
}

/**
 * Referrers on the same name servers and in the same block of addresses, where that tells something: few domains are known there, or a large
 * part of them refers here, and nothing shows that they have different owners.
 */
function sharedServers(referrers: readonly Referring[]): { places: number[]; sign: string }[] {
  const groups = new Map<string, number[]>();
  referrers.forEach(({ nameServers, addressBlock }, place) => {
    if (nameServers.length === 0 || addressBlock === null) return;
    const key = `${serversOf(nameServers).join(' ')} ${addressBlock}`;
    groups.set(key, [...(groups.get(key) ?? []), place]);
  });
  return [...groups.values()].flatMap((places) => {
    const of = places.map((place) => referrers[place]);
    if (places.length < 2 || haveOwners(of)) return [];
    const known = Math.max(0, ...of.map(({ serverSites }) => serverSites ?? 0));
    // where nobody counted, so many are a host's customers
    if (known === 0 ? places.length > RARE_SERVERS : known > RARE_SERVERS && places.length / known < LARGE_PART)
      return [];
    const [{ nameServers, addressBlock }] = of;
    const rare =
      known > 0
        ? `${places.length.toLocaleString('en')} of the ${Math.max(known, places.length).toLocaleString('en')} domains known there`
        : `${places.length} of the ${referrers.length} that refer`;
    return [
      { places, sign: `name servers ${serversOf(nameServers)[0]} and addresses ${addressBlock}, shared by ${rare}` },
    ];
  });
}

const serversOf = (nameServers: readonly string[]) =>
  nameServers.map((server) => server.toLowerCase().replace(/\.$/, '')).sort();

/** Whether sites show different owners: two registrants by name, or ids of their own for most of them. */
function haveOwners(of: readonly Referring[]): boolean {
  const owners = new Set(of.flatMap(({ registrant }) => (isNamed(registrant) ? [ownerOf(registrant)] : [])));
  if (owners.size > 1) return true;
  const ids = of
    .filter(({ trackingIds }) => trackingIds.length > 0)
    .map(({ trackingIds }) => accountsOf(trackingIds).sort().join());
  return ids.length >= 2 && ids.length > of.length / 2 && new Set(ids).size === ids.length;
}

/**
 * Joins referrers with near-identical pages. Fingerprints that differ in at most 3 of 64 bits are the same in at least one of four
 * quarters, so only those that share a quarter are compared (Manku, Jain and Sarma 2007, section 3).
 */
function joinAlike(referrers: readonly Referring[], join: (a: number, b: number, sign: string) => void): void {
  const byQuarter = new Map<string, number[]>();
  referrers.forEach(({ fingerprint }, place) => {
    if (fingerprint === null) return;
    for (let quarter = 0; quarter < 4; quarter++) {
      const key = `${quarter} ${fingerprint.slice(4 * quarter, 4 * quarter + 4)}`;
      const others = byQuarter.get(key);
      if (!others) {
        byQuarter.set(key, [place]);
        continue;
      }
      for (const other of others)
        if (hamming(fingerprint, referrers[other].fingerprint ?? '') <= NEAR_BITS) {
          join(other, place, 'near-identical linking pages');
          break;
        }
      if (others.length < MOST_COMPARED) others.push(place);
    }
  });
}
const MOST_COMPARED = 200;

/** The signs that most members share, at most three. */
function commonest(sets: Set<string>[]): string[] {
  const counts = new Map<string, number>();
  for (const set of sets) for (const sign of set) counts.set(sign, (counts.get(sign) ?? 0) + 1);
  return [...counts]
    .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
    .slice(0, 3)
    .map(([sign]) => sign);
}
