import { Random } from './random';
import { ABUSE_THEMES, FOREIGN_LANGUAGES, foreignText, HONEST_THEMES, type Theme, themeOf, themeText } from './themes';
import { PLACES, SUBJECTS, TAILS } from './words';

const DAY = 86_400_000;
const YEAR = 365.25 * DAY;

/** A site that links, and what may give its owner away. */
export interface LabelledSite {
  name: string;
  registrant: string | null;
  nameServers: string[];
  addressBlock: string;
  trackingIds: string[];
  /** Text of its linking page. */
  text: string;
  lapsedTargets: number;
}

export interface LabelledLink {
  from: LabelledSite;
  anchor: string;
  nofollow: boolean;
  firstSeenAt: number;
  page: number;
}

export interface LabelledCapture {
  at: number;
  status: number;
  location: string | null;
  html: string;
}

/** A domain of which it is known whether it was abused, and how. */
export interface LabelledDomain {
  name: string;
  isSpam: boolean;
  /** Kind of honest site, or of abuse. */
  kind: string;
  links: LabelledLink[];
  captures: LabelledCapture[];
  registeredAt: number | null;
}

export interface LabelledWorld {
  /** Names of all sites, the trusted ones first. */
  sites: string[];
  trusted: number;
  /** Links among the sites, as places in `sites`. */
  edges: [from: number, to: number][];
  domains: LabelledDomain[];
}

/** Kinds that points are fitted on, and others that they are judged on. */
export const TAUGHT_ABUSE = [
  'casino-takeover',
  'comment-spam',
  'foreign-script',
  'owner-network',
  'bought-burst',
  'parked-flip',
  'forwarder',
  'footer-links',
  'blanket-links',
] as const;
export const OTHER_ABUSE = ['slow-network', 'exact-phrase', 'loan-takeover', 'coin-takeover', 'language-flip'] as const;
export const TAUGHT_CLEAN = [
  'club',
  'shop',
  'few-links',
  'honest-money',
  'news-burst',
  'neighbours-abroad',
  'dropped-once',
  'talked-about',
  'far-from-trust',
  'everyday-tool',
  'seen-at-once',
] as const;
export const OTHER_CLEAN = ['festival', 'shared-host', 'renamed', 'old-and-parked'] as const; // biome-ignore format: lists
type Kind =
  | (typeof TAUGHT_ABUSE)[number]
  | (typeof OTHER_ABUSE)[number]
  | (typeof TAUGHT_CLEAN)[number]
  | (typeof OTHER_CLEAN)[number];

const NOW = Date.UTC(2026, 10, 20);
const HONEST_SITES = 900;
const FARM_SITES = 360;
const ISLAND_SITES = 260;

/**
 * A world of labelled domains: honest sites that link to one another and to what they like, farms of spam sites that hardly anybody honest
 * links to, and domains of every kind asked for, with their links and captures.
 */
export function makeLabelledWorld(seed: number, kinds: readonly Kind[], perKind: number): LabelledWorld {
  return new Maker(seed).make(kinds, perKind);
}

const isAbuse = (kind: Kind) => [...TAUGHT_ABUSE, ...OTHER_ABUSE].some((abuse) => abuse === kind);

class Maker {
  private readonly random: Random;
  private readonly names = new Set<string>();
  /** Some people know many sites to trust, others two. */
  private readonly trusted: number;
  private readonly honest: LabelledSite[] = [];
  private readonly farms: LabelledSite[] = [];
  /** Honest sites of a field that no trusted site knows of. */
  private readonly islands: LabelledSite[] = [];
  private readonly edges: [number, number][] = [];

  constructor(seed: number) {
    this.random = new Random(`labelled ${seed}`);
    this.trusted = this.random.whole(2, 12);
  }

  make(kinds: readonly Kind[], perKind: number): LabelledWorld {
    const { random } = this;
    for (let i = 0; i < HONEST_SITES; i++) this.honest.push(this.site(this.name(), random.pick(HONEST_THEMES), i));
    for (let i = 0; i < FARM_SITES; i++)
      this.farms.push(this.site(`${this.name('deals')}`, random.pick(ABUSE_THEMES), i, true));
    for (let i = 0; i < ISLAND_SITES; i++) this.islands.push(this.site(this.name(), random.pick(HONEST_THEMES), i));
    this.linkSites();
    this.linkIslands();
    const domains: LabelledDomain[] = [];
    for (const kind of kinds) for (let i = 0; i < perKind; i++) domains.push(this.domain(kind));
    return {
      sites: [...this.honest, ...this.farms, ...this.islands].map(({ name }) => name),
      trusted: this.trusted,
      edges: this.edges,
      domains,
    };
  }

  private name(tail?: string): string {
    const { random } = this;
    for (;;) {
      const word = random.pick(random.pick(SUBJECTS).names);
      const place = random.pick(PLACES).toLowerCase();
      const end = tail ?? random.pick(TAILS);
      const name = `${place}${word}${end}${random.chance(0.3) ? random.whole(1, 999) : ''}.${random.pick(['com', 'org', 'net'])}`;
      if (this.names.has(name)) continue;
      this.names.add(name);
      return name;
    }
  }

  private site(name: string, theme: Theme, number: number, isFarm = false): LabelledSite {
    const { random } = this;
    const host = isFarm ? `farm${Math.floor(number / 12)}` : `coombe${random.whole(1, 40)}`;
    return {
      name,
      registrant:
        isFarm && random.chance(0.4)
          ? `Owner ${Math.floor(number / 12)}`
          : random.chance(0.3)
            ? `Owner of ${name}`
            : null,
      nameServers: [`ns1.${host}.net`, `ns2.${host}.net`],
      addressBlock: isFarm ? `127.66.${Math.floor(number / 12)}` : `127.${random.whole(0, 60)}.${random.whole(0, 250)}`,
      trackingIds:
        isFarm && random.chance(0.5)
          ? [`UA-77${1000 + Math.floor(number / 12)}`]
          : random.chance(0.5)
            ? [`UA-${random.whole(1e5, 9e6)}`]
            : [],
      text: themeText(theme, random, 90),
      lapsedTargets: isFarm ? random.whole(0, 60) : random.chance(0.04) ? random.whole(30, 90) : random.whole(0, 14),
    };
  }

  private linkSites(): void {
    const { random, edges } = this;
    for (let i = 0; i < HONEST_SITES; i++) {
      for (let n = random.whole(2, 12); n > 0; n--) edges.push([i, Math.floor(random.next() ** 2 * HONEST_SITES)]);
      if (i < this.trusted)
        for (let n = random.whole(8, 40); n > 0; n--) edges.push([i, random.whole(0, HONEST_SITES - 1)]);
    }
    for (let i = 0; i < FARM_SITES; i++) {
      const at = HONEST_SITES + i;
      for (let n = random.whole(3, 14); n > 0; n--) edges.push([at, HONEST_SITES + random.whole(0, FARM_SITES - 1)]);
      for (let n = random.whole(0, 3); n > 0; n--) edges.push([at, random.whole(0, HONEST_SITES - 1)]);
      // now and then an honest site has a farm's comment on it
      if (random.chance(0.12)) edges.push([random.whole(0, HONEST_SITES - 1), at]);
    }
  }

  private linkIslands(): void {
    const { random, edges } = this;
    const first = HONEST_SITES + FARM_SITES;
    for (let i = 0; i < ISLAND_SITES; i++) {
      for (let n = random.whole(2, 9); n > 0; n--)
        edges.push([first + i, first + Math.floor(random.next() ** 2 * ISLAND_SITES)]);
      if (random.chance(0.4)) edges.push([first + i, random.whole(0, HONEST_SITES - 1)]);
    }
  }

  private domain(kind: Kind): LabelledDomain {
    const { random } = this;
    const name = this.name();
    const theme = random.pick(HONEST_THEMES);
    const years = random.whole(4, 18);
    const began = NOW - years * YEAR;
    const domain: LabelledDomain = { name, isSpam: isAbuse(kind), kind, links: [], captures: [], registeredAt: began };
    const age = () => began + random.next() * (NOW - began) * 0.9;
    const title = name.split('.')[0];
    const naming = () =>
      random.pick([
        title,
        name,
        `the ${title} site`,
        'click here',
        random.pick(theme.nouns),
        `${title} ${random.pick(theme.nouns)}`,
        `http://${name}/`,
      ]);
    const honest = (count: number, more: Partial<LabelledLink> = {}) =>
      this.links(domain, this.honest, count, naming, age, { nofollow: 0.08, ...more });
    const site = (from: number, to: number, about = theme, stray = 0.1) => this.content(domain, from, to, about, stray);
    const count = random.whole(12, 70);
    const half = began + (NOW - began) * (0.45 + random.next() * 0.3);
    switch (kind) {
      case 'club':
      case 'shop':
        honest(count);
        site(began, NOW);
        break;
      case 'few-links':
        honest(random.whole(5, 9));
        site(began, NOW);
        break;
      case 'honest-money':
        honest(count);
        this.links(
          domain,
          this.honest,
          Math.ceil(count * 0.12),
          () =>
            random.pick(['loan of books', 'bonus episode', 'a good bet', 'cheap days out', 'credit to the village']),
          age,
          {},
        );
        site(began, NOW);
        break;
      case 'news-burst': {
        honest(count);
        const day = age();
        this.links(domain, this.honest, Math.ceil(count * 0.8), naming, () => day + random.next() * 20 * DAY, {});
        site(began, NOW);
        break;
      }
      case 'neighbours-abroad':
        honest(count);
        this.links(
          domain,
          this.honest,
          Math.ceil(count * 0.15),
          () => random.pick(['пчеловодство', '養蜂クラブ', 'клуб друзей']),
          age,
          {},
        );
        site(began, NOW);
        break;
      case 'dropped-once':
        honest(count);
        site(began, half);
        this.parked(domain, half + 0.4 * YEAR, half + 1.6 * YEAR);
        domain.registeredAt = half + 0.3 * YEAR;
        break;
      case 'old-and-parked':
        honest(count);
        site(began, half);
        this.parked(domain, half, NOW);
        break;
      case 'talked-about':
        honest(count);
        this.links(domain, this.honest, count, naming, age, { nofollow: 0.9 });
        site(began, NOW);
        break;
      case 'everyday-tool': {
        // maps, tickets, films: linked by what they are for, and by everybody
        const uses = random.pick([
          ['map', 'how to find us', 'our place'],
          ['tickets', 'book here'],
          ['watch the film', 'video'],
          ['opening hours'],
        ]);
        this.links(
          domain,
          random.chance(0.5) ? this.honest : this.islands,
          count + 40,
          () => (random.chance(0.12) ? naming() : random.pick(uses)),
          age,
          {},
        );
        site(began, NOW);
        break;
      }
      case 'seen-at-once': {
        // an index that came by for the first time dates everything to that month
        const day = half;
        this.links(domain, this.honest, count, naming, () => day + random.next() * 25 * DAY, { nofollow: 0.08 });
        site(began, NOW);
        break;
      }
      case 'far-from-trust':
        this.links(domain, this.islands, Math.ceil(count / 2), naming, age, { nofollow: 0.08 });
        site(began, NOW);
        break;
      case 'festival':
        honest(Math.ceil(count / 2));
        this.links(domain, this.honest, count, () => `${title} festival weekend`, age, {});
        site(began, NOW);
        break;
      case 'shared-host':
        honest(count);
        for (const link of domain.links)
          link.from = { ...link.from, nameServers: ['ns1.coombe7.net', 'ns2.coombe7.net'] };
        site(began, NOW);
        break;
      case 'renamed':
        honest(count);
        site(began, half);
        site(half, NOW, random.pick(HONEST_THEMES), 0.2);
        break;
      case 'casino-takeover':
      case 'loan-takeover':
      case 'coin-takeover': {
        const about = themeOf(
          { 'casino-takeover': 'games.gambling', 'loan-takeover': 'business.loans', 'coin-takeover': 'adult.crypto' }[
            kind
          ],
        );
        honest(Math.ceil(count * 0.6));
        const words: Record<typeof kind, string[]> = {
          'casino-takeover': ['best casino bonus', 'online slots', 'poker jackpot', 'betting odds'],
          'loan-takeover': ['instant cash today', 'payday advance', 'borrow without checks', 'loans with bad credit'],
          'coin-takeover': ['double your coins', 'trading signals', 'crypto profit', 'token airdrop'],
        };
        this.links(
          domain,
          this.farms,
          Math.ceil(count * (0.4 + random.next())),
          () => random.pick(words[kind]),
          () => half + YEAR + random.next() * 0.6 * YEAR,
          { nofollow: 0.2 },
        );
        site(began, half);
        site(half + 0.8 * YEAR, NOW, about, 0.05);
        domain.registeredAt = half + 0.7 * YEAR;
        break;
      }
      case 'comment-spam':
        honest(Math.ceil(count * 0.2));
        this.links(
          domain,
          [...this.honest, ...this.farms],
          count * 2,
          () =>
            random.pick(['cheap pills', 'buy viagra online', 'replica watches', 'essay writing help', 'best bonus']),
          age,
          { nofollow: 0.75 },
        );
        site(began, NOW, random.pick(ABUSE_THEMES), 0.1);
        break;
      case 'foreign-script':
        honest(Math.ceil(count * 0.5));
        this.links(
          domain,
          this.farms,
          count,
          () => random.pick(['казино онлайн', 'купить дешево', '激安ブランド', 'быстрый кредит']),
          () => half + random.next() * YEAR,
          {},
        );
        site(began, half);
        this.foreign(domain, half + 0.5 * YEAR, NOW, 'ru');
        break;
      case 'owner-network':
        honest(random.whole(0, 6));
        this.network(
          domain,
          random.whole(18, 45),
          () => random.pick([title, random.pick(theme.nouns), `best ${random.pick(theme.nouns)}`, 'visit']),
          () => half + random.next() * 0.4 * YEAR,
        );
        site(began, NOW);
        break;
      case 'slow-network':
        honest(random.whole(2, 8));
        this.network(domain, random.whole(20, 60), naming, age);
        site(began, NOW);
        break;
      case 'bought-burst': {
        honest(random.whole(2, 8));
        const day = age();
        this.links(
          domain,
          this.farms,
          count,
          () => `buy ${random.pick(theme.nouns)} online`,
          () => day + random.next() * 15 * DAY,
          {},
        );
        site(began, NOW);
        break;
      }
      case 'exact-phrase': {
        honest(random.whole(2, 10));
        const phrase = `${random.pick(theme.nouns)} online`;
        this.links(domain, this.farms, count, () => (random.chance(0.85) ? phrase : naming()), age, {});
        site(began, NOW);
        break;
      }
      case 'footer-links': {
        honest(random.whole(1, 5));
        const few = Array.from({ length: random.whole(5, 9) }, () => random.pick(this.farms));
        for (const from of few)
          for (let page = 0; page < random.whole(20, 80); page++)
            domain.links.push({
              from,
              anchor: `${random.pick(theme.nouns)} shop`,
              nofollow: false,
              firstSeenAt: half,
              page,
            });
        site(began, NOW);
        break;
      }
      case 'parked-flip':
        honest(random.whole(5, 20));
        this.links(domain, this.farms, count, naming, age, {});
        site(began, began + 0.5 * YEAR);
        this.parked(domain, began + YEAR, NOW);
        domain.registeredAt = NOW - random.whole(1, 2) * YEAR;
        break;
      case 'forwarder':
        honest(random.whole(5, 14));
        this.links(
          domain,
          this.farms,
          count,
          () => random.pick(['visit', 'best offers', `buy ${random.pick(theme.nouns)}`]),
          age,
          {},
        );
        site(began, half);
        this.forwarding(domain, half, NOW);
        break;
      case 'blanket-links': {
        honest(random.whole(0, 5));
        const everything = () => ({
          ...random.pick(this.farms),
          name: this.name('list'),
          lapsedTargets: random.whole(150, 3000),
          registrant: null,
          trackingIds: [],
          addressBlock: `127.${random.whole(70, 120)}.${random.whole(0, 250)}`,
          text: themeText(random.pick(HONEST_THEMES), random, 80),
        });
        for (let i = 0; i < count; i++)
          domain.links.push({
            from: everything(),
            anchor: random.pick(['site', name, `${title} review`, random.pick(theme.nouns)]),
            nofollow: false,
            firstSeenAt: half + random.next() * YEAR,
            page: 0,
          });
        site(began, NOW);
        break;
      }
      case 'language-flip': {
        honest(Math.ceil(count * 0.5));
        this.links(
          domain,
          this.farms,
          count,
          () => random.pick(['Angebote', 'ofertas', 'скидки', 'günstig kaufen']),
          () => half + random.next() * YEAR,
          {},
        );
        site(began, half);
        this.foreign(domain, half + 0.7 * YEAR, NOW, random.pick(FOREIGN_LANGUAGES));
        domain.registeredAt = half + 0.6 * YEAR;
        break;
      }
    }
    domain.captures.sort((a, b) => a.at - b.at);
    return domain;
  }

  private links(
    domain: LabelledDomain,
    from: readonly LabelledSite[],
    count: number,
    anchor: () => string,
    at: () => number,
    more: { nofollow?: number | boolean },
  ): void {
    const { random } = this;
    const share = Number(more.nofollow ?? 0.05);
    for (let i = 0; i < count; i++)
      domain.links.push({
        from: random.pick(from),
        anchor: anchor(),
        nofollow: random.chance(share),
        firstSeenAt: at(),
        page: random.whole(0, 3),
      });
  }

  /** Sites of one owner, who gives himself away by one sign or another. */
  private network(domain: LabelledDomain, count: number, anchor: () => string, at: () => number): void {
    const { random } = this;
    const owner = random.whole(1, 1e6);
    const sign = random.whole(0, 3);
    const text = themeText(random.pick(HONEST_THEMES), random, 120);
    for (let i = 0; i < count; i++) {
      const own = this.site(this.name('hub'), random.pick(HONEST_THEMES), random.whole(0, 1e6));
      const from: LabelledSite = {
        ...own,
        registrant: sign === 0 ? `Holding ${owner}` : null,
        nameServers: sign === 1 ? [`ns1.own${owner}.net`, `ns2.own${owner}.net`] : own.nameServers,
        addressBlock: sign === 1 ? `127.90.${owner % 250}` : own.addressBlock,
        trackingIds: sign === 2 ? [`G-OWN${owner}`] : [],
        text: sign === 3 ? `${text} ${random.pick(PLACES)}` : own.text,
      };
      domain.links.push({ from, anchor: anchor(), nofollow: false, firstSeenAt: at(), page: 0 });
    }
  }

  private content(domain: LabelledDomain, from: number, to: number, theme: Theme, stray: number): void {
    this.every(domain, from, to, () => page(domain.name, themeText(theme, this.random, 130, stray)));
  }

  private foreign(domain: LabelledDomain, from: number, to: number, language: string): void {
    this.every(domain, from, to, () => page('Angebot', foreignText(language, this.random, 9)));
  }

  private parked(domain: LabelledDomain, from: number, to: number): void {
    this.every(domain, from, to, () => page(domain.name, 'This domain is parked.'));
  }

  private forwarding(domain: LabelledDomain, from: number, to: number): void {
    const target = this.random.pick(this.honest).name;
    this.every(domain, from, to, () => '', { status: 301, location: `http://${target}/` });
  }

  private every(
    domain: LabelledDomain,
    from: number,
    to: number,
    html: () => string,
    more: Partial<LabelledCapture> = {},
  ): void {
    const count = Math.max(1, Math.min(7, Math.round((to - from) / (0.8 * YEAR))));
    for (let i = 0; i < count; i++)
      domain.captures.push({
        at: from + ((i + 0.5) / count) * (to - from),
        status: 200,
        location: null,
        html: html(),
        ...more,
      });
  }
}

const page = (title: string, text: string) => `<!doctype html><title>${title}</title><p>${text}</p>`;
