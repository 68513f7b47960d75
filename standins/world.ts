import { LONGEST_LAPSE_DAYS, lapseDays, rulesOf, stagesOf } from './lives';
import { hash, Random } from './random';
import { type Layout, type Manner, pagesOfSite, type SitePage, type SourceSite } from './sites';
import { ENDINGS, PLACES, REGISTRARS, SUBJECTS, type Subject, TAILS } from './words';

export const DAY = 86_400_000;
export const YEAR = 365.25 * DAY;
export type Use = 'site' | 'parked' | 'casino' | 'forward' | 'bare';

/** One registration. `until` is the expiry that was not renewed; null: still kept. */
export interface Span {
  from: number;
  until: number | null;
  use: Use;
  registrar: string;
  forwardTo?: string;
  /** The owner of a kept name renews so many days after its expiry; absent: before. */
  renewsLateDays?: number;
}

export interface WorldDomain {
  name: string;
  ending: string;
  subject: Subject;
  title: string;
  spans: Span[];
  /** One owner of many names shares these. */
  nameServers: string;
  role: 'source' | 'hub' | 'living' | 'target' | 'background' | 'listed' | 'network';
  story?: string;
  /** The zone and the record disagree, on purpose. */
  disagrees?: boolean;
  /** What a registrar says of it while its record has it free. */
  atRegistrar?: 'premium' | 'reserved';
  /** Since when it is the customer's, who bought it. */
  soldAt?: number;
}

export type WorldPhase = 'free' | 'active' | 'auto-renew' | 'redemption' | 'pending-delete';

export interface DomainState {
  phase: WorldPhase;
  span: Span | null;
  delegated: boolean;
  /** When it ran out or will: of a kept name, the next anniversary. */
  expires: number | null;
  /** Since when it is in its phase. */
  since: number | null;
}

/** Where a domain stands at a moment. Everything any server says of it follows from this. */
export function stateAt(domain: WorldDomain, at: number): DomainState {
  for (const span of domain.spans) {
    if (at < span.from) continue;
    const expires = span.until ?? anniversary(span, at);
    const active = (): DomainState => ({ phase: 'active', span, delegated: true, expires, since: span.from });
    if (at < expires) return active();
    if (span.until === null) return { ...active(), phase: 'auto-renew', since: expires };
    const stages = stagesOf(domain.name, domain.ending, span.registrar, expires);
    if (at >= stages.dropAt) continue;
    const delegated = domain.disagrees === true;
    if (at < stages.redemptionAt) return { ...active(), phase: 'auto-renew', since: expires };
    if (at < stages.pendingDeleteAt)
      return { phase: 'redemption', span, delegated, expires, since: stages.redemptionAt };
    // some registries know no pending delete, and set a name free at its hour
    const { pendingDelete } = rulesOf(domain.ending);
    if (pendingDelete === 0) continue;
    return { phase: 'pending-delete', span, delegated, expires, since: stages.pendingDeleteAt };
  }
  return { phase: 'free', span: null, delegated: domain.disagrees === true, expires: null, since: null };
}

/** When a name that was let go becomes free; null: it is kept. */
export function dropOf(domain: WorldDomain): number | null {
  const span = domain.spans.at(-1);
  if (!span?.until) return null;
  return stagesOf(domain.name, domain.ending, span.registrar, span.until).dropAt;
}

/** The expiry that counts at a moment: the next, or while a late owner has not renewed, the last. */
function anniversary({ from, renewsLateDays = 0 }: Span, at: number): number {
  const years = Math.floor((at - from) / YEAR);
  const last = from + years * YEAR;
  return years > 0 && at < last + renewsLateDays * DAY ? last : last + YEAR;
}

/** A link of the world. Paths of pages; the domains by name. */
export interface WorldLink {
  from: WorldDomain;
  fromPath: string;
  to: WorldDomain;
  toPath: string;
  anchor: string;
  nofollow: boolean;
  firstSeen: number;
}

export interface World {
  seed: number;
  start: number;
  domains: Map<string, WorldDomain>;
  sources: WorldDomain[];
  /** Link sources by name, with their pages by path. */
  sites: Map<string, { site: SourceSite; pages: Map<string, SitePage> }>;
  listed: WorldDomain[];
  links: WorldLink[];
  /** Links by the page they stand on: `name path`. */
  byPage: Map<string, WorldLink[]>;
}

const SOURCES: [name: string, title: string, subject: string, layout: Layout, manners: Manner[]][] = [
  ['merrowvalebeekeepers.org', 'Merrow Vale Beekeepers', 'bees', 'sections', []],
  ['thornabeckhivenotes.org', 'Thornabeck Hive Notes', 'bees', 'sections', []],
  ['pellgatehoneyguild.co.uk', 'Pellgate Honey Guild', 'bees', 'club', []],
  ['ossenmereapiaryschool.org', 'Ossenmere Apiary School', 'bees', 'library', []],
  ['lathergillswarmline.org', 'Lathergill Swarm Line', 'bees', 'journal', []],
  ['cradlewickhoneyfair.com', 'Cradlewick Honey Fair', 'bees', 'club', ['sessions']],
  ['merrowvalepress.org', 'Merrow Vale Private Presses', 'press', 'sections', []],
  ['quillbrooktypefriends.org', 'Quillbrook Friends of Type', 'press', 'sections', []],
  ['brindlefellbookcraft.net', 'Brindlefell Bookcraft', 'press', 'journal', ['encoding']],
  ['merrowvaledarksky.org', 'Merrow Vale Dark Sky Society', 'sky', 'club', []],
  ['fennimoorobservatory.org', 'Fennimoor Observatory', 'sky', 'library', ['slow']],
  ['mirrowbystarsweekly.com', 'Mirrowby Stars Weekly', 'sky', 'journal', []],
  ['merrowvalegazette.com', 'The Merrow Vale Gazette', 'vale', 'journal', []],
  ['dunscarrowwalks.org', 'Dunscarrow Walks', 'vale', 'sections', []],
  ['harrowmeadarchives.org', 'Harrowmead Archives', 'vale', 'directory', []],
  ['tallowendcalendar.org', 'Tallowend Village Calendar', 'vale', 'sections', ['calendar']],
  ['umberleymarket.com', 'Umberley Market', 'vale', 'sections', ['challenge']],
  ['umberleyparishnews.org', 'Umberley Parish News', 'vale', 'journal', ['consent']],
  ['wexcombehivestore.com', 'Wexcombe Hive Store', 'bees', 'shop', ['facets']],
  ['tarnwickinkworks.com', 'Tarnwick Ink Works', 'press', 'shop', ['facets', 'limited']],
  ['skeldrakenectarnotes.net', 'Skeldrake Nectar Notes', 'bees', 'journal', ['soft-404']],
  ['marlowickskeptrust.org', 'Marlowick Skep Trust', 'bees', 'library', ['mirror']],
  ['ottergarthwalks.org', 'Ottergarth Walks', 'vale', 'club', ['deeper']],
  ['pinderwellastroclub.org', 'Pinderwell Astro Club', 'sky', 'club', ['moody']],
  ['rushenbyplatenguild.org', 'Rushenby Platen Guild', 'press', 'library', ['cut']],
  ['sallowmerechoir.org', 'Sallowmere Choir', 'vale', 'club', ['forbidding']],
  ['vennacreapiary.org', 'Vennacre Apiary', 'bees', 'directory', ['noindex']],
  ['merrowvaleanswers.com', 'Merrow Vale Answers', 'bees', 'answers', []],
  ['withypoolskyanswers.com', 'Withypool Sky Answers', 'sky', 'answers', []],
];
/** Sites with a layout each, made up beside those above. */
const MORE_SOURCES = 41;
const LAYOUTS: Layout[] = ['sections', 'journal', 'library', 'club', 'directory', 'shop'];
/** Names that half the web of the vale links to. */
const HUBS = ['merrowmaps.com', 'valevideohouse.net', 'lanternpost.com'];

/** Sites of the beekeeping brief that are trusted from the first. */
export const TRUSTED = [
  'merrowvalebeekeepers.org',
  'thornabeckhivenotes.org',
  'ossenmereapiaryschool.org',
  'merrowvalepress.org',
  'merrowvaledarksky.org',
  'merrowvalegazette.com',
];

const LIVING = 420;
const TARGETS = 1900;
const BACKGROUND = 4200;

/** Makes the world. @param listed names that only a drop list knows. */
export function makeWorld(seed: number, start: number, listed = 50_000): World {
  const maker = new WorldMaker(seed, start);
  return maker.make(listed);
}

class WorldMaker {
  private readonly random: Random;
  private readonly domains = new Map<string, WorldDomain>();
  private readonly links: WorldLink[] = [];
  private readonly byPage = new Map<string, WorldLink[]>();
  private readonly sites: World['sites'] = new Map();

  constructor(
    private readonly seed: number,
    private readonly start: number,
  ) {
    this.random = new Random(seed);
  }

  make(listedCount: number): World {
    const sources = this.makeSources();
    const hubs = HUBS.map((name) => this.keep(name, name.split('.')[0], subjectOf('vale'), 'hub', 16));
    const living = this.many(LIVING, (subject, name) =>
      this.keep(name.domain, name.title, subject, 'living', this.random.whole(3, 20)),
    );
    const stories = this.makeStories(living);
    const targets = this.many(TARGETS, (subject, name) => this.target(name.domain, name.title, subject));
    const background = this.many(BACKGROUND, (subject, name) =>
      this.random.chance(0.7)
        ? this.keep(name.domain, name.title, subject, 'background', this.random.whole(1, 16))
        : this.lapsed(name.domain, name.title, subject, 'background'),
    );
    const listed = this.many(listedCount, (subject, name) => this.listedName(name.domain, name.title, subject));

    this.linkSources(sources, living, [...stories, ...targets], hubs);
    this.linkBackground(sources, living, background, hubs);
    const referrers = [...living, ...background].filter((domain) => stateAt(domain, this.start).phase === 'active');
    this.linkTargets(targets, referrers);
    this.linkListed(listed, referrers);
    const dropping = [...stories, ...targets, ...background].filter((domain) => {
      const { phase } = stateAt(domain, this.start);
      return phase === 'pending-delete' || (phase === 'free' && (dropOf(domain) ?? 0) > this.start - 14 * DAY);
    });
    return {
      seed: this.seed,
      start: this.start,
      domains: this.domains,
      sources,
      sites: this.sites,
      listed: [...dropping, ...listed],
      links: this.links,
      byPage: this.byPage,
    };
  }

  private makeSources(): WorldDomain[] {
    const { random } = this;
    const plans: SourceSite[] = SOURCES.map(([name, title, subject, layout, manners]) => ({
      name,
      title,
      subject,
      layout,
      manners,
      fateShare: layout === 'shop' ? 0.3 : 0.45,
    }));
    for (let i = 0; i < MORE_SOURCES; i++) {
      const subject = random.pick(SUBJECTS);
      const { domain, title } = this.freshName(subject);
      this.domains.set(domain, {} as WorldDomain); // taken; filled below
      // four in ten are well kept, and link to nothing that lapsed
      const fateShare = random.chance(0.4) ? 0 : random.pick([0.2, 0.45, 0.65]);
      plans.push({ name: domain, title, subject: subject.id, layout: random.pick(LAYOUTS), manners: [], fateShare });
    }
    return plans.map((site) => {
      const subject = subjectOf(site.subject);
      this.sites.set(site.name, {
        site,
        pages: pagesOfSite(site, subject, this.seed, site.subject === 'vale' ? SUBJECTS : []),
      });
      return this.keep(site.name, site.title, subject, 'source', 14);
    });
  }

  private many<T>(count: number, make: (subject: Subject, name: { domain: string; title: string }) => T): T[] {
    return Array.from({ length: count }, () => {
      const subject = this.random.pick(SUBJECTS);
      return make(subject, this.freshName(subject));
    });
  }

  private freshName(subject: Subject): { domain: string; title: string } {
    for (;;) {
      const place = this.random.pick(PLACES);
      const word = this.random.pick(subject.names);
      const parts = this.random.chance(0.12) ? [word, place] : [place, word];
      if (this.random.chance(0.75)) parts.push(this.random.pick(TAILS));
      const joint = this.random.chance(0.08) ? '-' : '';
      const number = this.random.chance(0.06) ? String(this.random.whole(2, 99)) : '';
      const domain = `${parts.join(joint).toLowerCase()}${number}.${this.ending()}`;
      if (!this.domains.has(domain))
        return { domain, title: parts.map((part) => part[0].toUpperCase() + part.slice(1)).join(' ') };
    }
  }

  private ending(): string {
    let left = this.random.next();
    for (const [ending, share] of ENDINGS) {
      left -= share;
      if (left < 0) return ending;
    }
    return 'com';
  }

  private add(name: string, title: string, subject: Subject, role: WorldDomain['role'], spans: Span[]): WorldDomain {
    const ending = name.slice(name.indexOf('.') + 1);
    const domain: WorldDomain = {
      name,
      ending,
      subject,
      title,
      spans,
      nameServers: `coombe${1 + (hash(name) % 40)}`,
      role,
    };
    this.domains.set(name, domain);
    return domain;
  }

  private span(from: number, until: number | null, use: Use, forwardTo?: string): Span {
    return { from, until, use, registrar: this.random.pick(REGISTRARS), forwardTo };
  }

  private keep(name: string, title: string, subject: Subject, role: WorldDomain['role'], years: number): WorldDomain {
    const from = this.start - years * YEAR - this.random.whole(0, 364) * DAY;
    return this.add(name, title, subject, role, [this.span(from, null, 'site')]);
  }

  /** A registration of a name that drops `ago` days before the start; negative: yet to come. */
  private ended(name: string, years: number, dropAgoDays: number, use: Use = 'site'): Span {
    const late = this.random.whole(0, 3600) * 1000;
    const registrar = this.random.pick(REGISTRARS);
    const ending = name.slice(name.indexOf('.') + 1);
    const until = this.start - (dropAgoDays + lapseDays(name, ending, registrar)) * DAY - late;
    return { from: until - years * YEAR, until, use, registrar };
  }

  private lapsed(name: string, title: string, subject: Subject, role: WorldDomain['role']): WorldDomain {
    return this.add(name, title, subject, role, [
      this.ended(name, this.random.whole(1, 15), this.random.whole(1, 3000)),
    ]);
  }

  /** Every kind of fate that a linked name can have. */
  private target(name: string, title: string, subject: Subject): WorldDomain {
    const years = this.random.whole(2, 18);
    const fate = this.random.next();
    const { random } = this;
    if (fate < 0.4) return this.add(name, title, subject, 'target', [this.ended(name, years, random.whole(5, 2200))]);
    if (fate < 0.52) return this.add(name, title, subject, 'target', [this.ended(name, years, -random.whole(1, 4))]);
    if (fate < 0.64) return this.add(name, title, subject, 'target', [this.ended(name, years, -random.whole(6, 34))]);
    if (fate < 0.7) return this.add(name, title, subject, 'target', [this.ended(name, years, -random.whole(36, 69))]);
    if (fate < 0.85) {
      const use = random.pick<Use>(['parked', 'parked', 'casino', 'bare']);
      const first = this.ended(name, years, random.whole(400, 2500));
      const again = (first.until ?? 0) + (LONGEST_LAPSE_DAYS + random.whole(1, 300)) * DAY;
      return this.add(name, title, subject, 'target', [first, this.span(again, null, use)]);
    }
    return this.keep(name, title, subject, 'target', years);
  }

  private listedName(name: string, title: string, subject: Subject): WorldDomain {
    const drawn = this.random.chance(0.6) ? -this.random.whole(1, 4) : this.random.whole(0, 9);
    // lists name what is in pending delete or has dropped; where that stage is shorter or not there, nearer to the drop
    const { pendingDelete } = rulesOf(name.slice(name.indexOf('.') + 1));
    const drop = drawn < 0 && -drawn >= pendingDelete ? (pendingDelete > 0 ? -1 : -drawn) : drawn;
    return this.add(name, title, subject, 'listed', [
      this.ended(name, this.random.whole(1, 9), drop, this.random.chance(0.4) ? 'site' : 'parked'),
    ]);
  }

  /** Names with a tale that the tools must find. */
  private makeStories(living: WorldDomain[]): WorldDomain[] {
    const bees = subjectOf('bees');
    const tell = (name: string, title: string, story: string, spans: Span[]): WorldDomain => {
      const domain = this.add(name, title, bees, 'target', spans);
      domain.story = story;
      return domain;
    };
    const club = tell('ossenmerebeeclub.org', 'Ossenmere Bee Club', 'a club that lapsed with excellent links', [
      this.ended('ossenmerebeeclub.org', 19, -2),
    ]);
    const casinoFirst = this.ended('cradlewickhivecraft.com', 11, 900);
    const casino = tell(
      'cradlewickhivecraft.com',
      'Cradlewick Hivecraft',
      'dropped, then a casino page, then dropped again',
      [
        casinoFirst,
        this.span((casinoFirst.until ?? 0) + 90 * DAY, this.start - (LONGEST_LAPSE_DAYS + 2) * DAY, 'casino'),
      ],
    );
    const shop = tell(
      'dunscarrowhiveshop.com',
      'Dunscarrow Hive Shop',
      'a shop whose links all come from one network',
      [this.ended('dunscarrowhiveshop.com', 6, 40)],
    );
    const forwarder = tell(
      'mirrowbybeeinspector.org',
      'Mirrowby Bee Inspector',
      'forwards to a strong site and borrows its strength',
      [
        this.ended('mirrowbybeeinspector.org', 8, 1500),
        this.span(this.start - 700 * DAY, this.start + 40 * DAY, 'forward', 'merrowvalegazette.com'),
      ],
    );
    const late = tell('tallowendhoneypath.net', 'Tallowend Honey Path', 'the owner renews at the last moment', [
      // ran out 38 days before the start; its registrar would delete it on day 42, its owner comes on day 40
      { ...this.span(this.start - 9 * YEAR - 38 * DAY, null, 'site'), renewsLateDays: 40 },
    ]);
    const odd = tell('fennimoorbeeschool.co.uk', 'Fennimoor Bee School', 'free by its record, delegated by DNS', [
      this.ended('fennimoorbeeschool.co.uk', 9, 200),
    ]);
    odd.disagrees = true;
    const held = (name: string, title: string, story: string, atRegistrar: WorldDomain['atRegistrar']) => {
      const until = this.start - 160 * DAY;
      const span: Span = { from: until - 12 * YEAR, until, use: 'site', registrar: REGISTRARS[0] };
      const domain = tell(name, title, story, [span]);
      domain.atRegistrar = atRegistrar;
      return domain;
    };
    const reserved = held(
      'lathergillbeemuseum.org',
      'Lathergill Bee Museum',
      'free by its record, refused by the registrar',
      'reserved',
    );
    const premium = held(
      'thornabeckhoney.com',
      'Thornabeck Honey',
      'free by its record, dear at the registrar',
      'premium',
    );
    const german: Span = {
      from: this.start - 170 * DAY - 14 * YEAR,
      until: this.start - 170 * DAY,
      use: 'site',
      registrar: REGISTRARS[1],
    };
    const diary = tell('gantrymoorbeediary.net', 'Gantrymoor Bee Diary', 'changed its language before it lapsed', [
      german,
    ]);
    const anchors = ['best casino bonus', 'online slots', 'казино онлайн', 'poker jackpot', 'cheap loans'];
    for (let i = 0; i < 60; i++)
      this.link(
        this.random.pick(living),
        `/guestbook-${i}.html`,
        casino,
        '/',
        this.random.pick(anchors),
        false,
        this.start - 420 * DAY + i * 0.4 * DAY,
      );
    for (let i = 0; i < 45; i++) {
      const member = this.add(
        `${PLACES[i % PLACES.length].toLowerCase()}bestdeals${i}.com`,
        `Best Deals ${i}`,
        subjectOf('vale'),
        'network',
        [this.span(this.start - 2 * YEAR, null, 'site')],
      );
      member.nameServers = 'tarnhost1';
      for (let page = 0; page < 3; page++)
        this.link(
          member,
          `/post-${page}.html`,
          shop,
          '/',
          'buy beehives cheap',
          false,
          this.start - 500 * DAY + i * DAY * 0.5,
        );
    }
    for (let i = 0; i < 90; i++) {
      const from = this.random.pick(living);
      this.link(
        from,
        `/links-${i % 4}.html`,
        club,
        this.random.pick(['/', '/guide.html', '/swarms.html']),
        this.random.pick(['Ossenmere Bee Club', 'the bee club at Ossenmere', 'ossenmerebeeclub.org', 'swarm guide']),
        this.random.chance(0.05),
        this.start - this.random.whole(400, 6000) * DAY,
      );
    }
    for (let i = 0; i < 40; i++)
      this.link(
        living[i * 7],
        `/links-${i % 3}.html`,
        diary,
        '/',
        i % 3 ? 'Gantrymoor Bee Diary' : 'bee diary',
        false,
        this.start - (900 + i * 90) * DAY,
      );
    // old friends of the club never tidied their lists
    for (const [source, path] of [
      ['merrowvalebeekeepers.org', '/links/4.html'],
      ['thornabeckhivenotes.org', '/links/13.html'],
    ]) {
      const from = this.domains.get(source) as WorldDomain;
      this.link(from, path, club, '/', 'Ossenmere Bee Club', false, this.start - 5200 * DAY);
      this.link(from, path, casino, '/', 'Cradlewick Hivecraft', false, this.start - 3900 * DAY);
      this.link(from, path, diary, '/', 'Gantrymoor Bee Diary', false, this.start - 4100 * DAY);
    }
    for (let i = 0; i < 12; i++)
      this.link(
        this.random.pick(living),
        '/links-1.html',
        forwarder,
        '/',
        'bee inspector',
        false,
        this.start - 1000 * DAY,
      );
    return [club, casino, shop, forwarder, late, odd, reserved, premium];
  }

  private link(
    from: WorldDomain,
    fromPath: string,
    to: WorldDomain,
    toPath: string,
    anchor: string,
    nofollow: boolean,
    firstSeen: number,
  ): void {
    if (from === to) return;
    const link: WorldLink = { from, fromPath, to, toPath, anchor, nofollow, firstSeen };
    this.links.push(link);
    const key = `${from.name} ${fromPath}`;
    const list = this.byPage.get(key);
    if (list) list.push(link);
    else this.byPage.set(key, [link]);
  }

  private anchorFor(to: WorldDomain): string {
    const { random } = this;
    return random.pick([
      to.title,
      to.title,
      to.name,
      `${to.title} website`,
      random.pick(to.subject.words),
      'click here',
      `${random.pick(to.subject.words)} at ${to.title}`,
    ]);
  }

  /** First seen somewhere between the target's beginning and its end. */
  private seenDuring(to: WorldDomain): number {
    const span = to.spans[0];
    const end = Math.min(this.start, span.until ?? this.start);
    return span.from + this.random.next() * Math.max(DAY, end - span.from);
  }

  private linkSources(
    sources: WorldDomain[],
    living: WorldDomain[],
    targets: WorldDomain[],
    hubs: WorldDomain[],
  ): void {
    const { random } = this;
    for (const source of sources) {
      const { site, pages } = this.sites.get(source.name) as { site: SourceSite; pages: Map<string, SitePage> };
      const near = targets.filter((target) => target.subject === source.subject || random.chance(0.12));
      const alive = living.filter((domain) => domain.subject === source.subject || random.chance(0.1));
      for (const { path, kind } of pages.values()) {
        for (let i = 0, count = this.linksOn(kind); i < count; i++) {
          const share = kind === 'list' ? site.fateShare : kind === 'old' ? site.fateShare * 0.8 : site.fateShare * 0.3;
          const to = random.chance(share) ? random.pick(near) : random.pick(alive);
          const toPath = random.chance(0.6) ? '/' : `/${random.pick(to.subject.words)}.html`;
          this.link(source, path, to, toPath, this.anchorFor(to), random.chance(0.06), this.seenDuring(to));
        }
        if (random.chance(0.5)) this.link(source, path, random.pick(hubs), '/', 'map', false, this.start - 900 * DAY);
      }
      const friends = [...pages.values()].find(({ kind }) => kind === 'list')?.path ?? '/';
      for (const other of sources)
        if (other !== source && random.chance(0.12))
          this.link(source, friends, other, '/', other.title, false, this.start - 2000 * DAY);
    }
  }

  private linksOn(kind: SitePage['kind']): number {
    const { random } = this;
    if (kind === 'list') return random.whole(14, 34);
    if (kind === 'old') return random.chance(0.5) ? random.whole(1, 3) : 0;
    if (kind === 'article') return random.chance(0.35) ? random.whole(1, 2) : 0;
    return 0;
  }

  /** Living sites link to one another, the early ones most: so strength is heavy-tailed. */
  private linkBackground(
    sources: WorldDomain[],
    living: WorldDomain[],
    background: WorldDomain[],
    hubs: WorldDomain[],
  ): void {
    const all = [...sources, ...living, ...background];
    all.forEach((from, index) => {
      if (stateAt(from, this.start).phase !== 'active') return;
      if (this.random.chance(0.6))
        this.link(from, '/', this.random.pick(hubs), '/', 'how to find us', false, this.start - 1200 * DAY);
      const count = this.random.whole(1, 9);
      for (let i = 0; i < count; i++) {
        const to = all[Math.floor(this.random.next() ** 2.2 * (index + 1))];
        this.link(
          from,
          this.random.pick(['/', '/links.html', '/about.html']),
          to,
          '/',
          this.anchorFor(to),
          this.random.chance(0.15),
          this.seenDuring(to),
        );
      }
    });
  }

  private linkTargets(targets: WorldDomain[], referrers: WorldDomain[]): void {
    for (const target of targets) {
      const count = this.random.tail(140);
      for (let i = 0; i < count; i++)
        this.link(
          this.random.pick(referrers),
          `/links-${i % 3}.html`,
          target,
          this.random.chance(0.7) ? '/' : '/guide.html',
          this.anchorFor(target),
          this.random.chance(0.1),
          this.seenDuring(target),
        );
      if (target.spans.some((span) => span.use === 'casino')) {
        const burst = (target.spans[1]?.from ?? this.start) + 30 * DAY;
        for (let i = 0; i < this.random.whole(15, 60); i++)
          this.link(
            this.random.pick(referrers),
            `/comments-${i}.html`,
            target,
            '/',
            this.random.pick(['casino bonus', 'slots', 'poker online', 'payday loans']),
            this.random.chance(0.4),
            burst + i * 0.3 * DAY,
          );
      }
    }
  }

  private linkListed(listed: WorldDomain[], referrers: WorldDomain[]): void {
    for (const domain of listed) {
      if (!this.random.chance(0.2)) continue;
      const count = this.random.tail(60);
      for (let i = 0; i < count; i++)
        this.link(
          this.random.pick(referrers),
          '/links.html',
          domain,
          '/',
          this.anchorFor(domain),
          this.random.chance(0.2),
          this.seenDuring(domain),
        );
    }
  }
}

function subjectOf(id: string): Subject {
  const found = SUBJECTS.find((subject) => subject.id === id);
  if (!found) throw new Error(`no subject ${id}`);
  return found;
}
