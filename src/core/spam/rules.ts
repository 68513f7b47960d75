import { isGeneric, isNaming, labelLetters, lettersOf } from '../links/anchor-kinds';
import { spamMass } from '../links/pagerank';
import { subjectClassifier } from '../topics/classifier';
import { isBrand, isCommercial, type SellingKind, scriptOf, sellingKind, sellingWords } from './selling';

/** A followed or unfollowed link to the judged domain, as a source reported it. Times in ms since 1970 or null. */
export interface SpamLink {
  fromSite: string;
  anchor: string;
  nofollow: boolean;
  firstSeenAt: number | null;
  /** Pages that carry it; absent: one. */
  pages?: number;
  /** Of the linking page; absent or null: not read. */
  text?: string | null;
}

/** What the past says, from captures that were read. Shares are of captures, 0 to 1. */
export interface SpamPast {
  captures: number;
  parked: number;
  /** Led to another domain. */
  redirected: number;
  /** Content about gambling, pills, loans, replicas and the like, where the site did not begin with it. */
  risky: number;
  /** Content on something else that is laced with words that sell. */
  laced: number;
  /** What the site was before anything else was made of it. */
  own: OwnPast;
  languageSwitches: number;
  subjectSwitches: number;
  /** 0 to 1; null: no content. */
  drift: number | null;
  /** Examples of each, for people. */
  notes: { parked: string[]; redirected: string[]; risky: string[]; switches: string[]; laced: string[] };
}

/** What a site first was: its script, what it sold and what it was about. */
export interface OwnPast {
  /** null: no content was read. */
  script: string | null;
  sells: SellingKind[];
  /** `area.subject`. */
  subject: string | null;
  /** What it called itself: titles of its first captures. */
  titles: string[];
}

/** What weighing the referrers took away, in referrers. */
export interface SpamVotes {
  referring: number;
  network: number;
  blanket: number;
  notes: { network: string[]; blanket: string[] };
}

export interface SpamInput {
  /** A-label form. */
  name: string;
  links: SpamLink[];
  /** Probabilities from one walk and its trusted twin; null where not measured. */
  strengthRank: number | null;
  trustRank: number | null;
  /** Times the name changed hands through a drop, as the record and the archive show; null when unknown. */
  drops: number | null;
  /** null: captures were not read. */
  past: SpamPast | null;
  /** null: referrers were not weighed. */
  votes: SpamVotes | null;
}

/** What a rule found. */
export interface RuleFinding {
  value: number;
  shown: string;
  evidence: string[];
}

export interface SpamRule {
  id: string;
  title: string;
  /** Points rise evenly from 0 at `from` to all of them at `to`. */
  from: number;
  to: number;
  /** How its value is written: a share as percent, or a count. */
  unit: 'share' | 'count';
  explanation: string;
  /** Points it may have at most, since by itself it means little; absent: as many as the examples give it. */
  most?: number;
  /** Says nothing by itself: where it alone could be measured, the risk is not known. */
  isAside?: boolean;
  /** @returns null where there is too little to measure. */
  measure(input: SpamInput): RuleFinding | null;
}

const MIN_LINKS = 5;
const MIN_CAPTURES = 2;
/** Subjects that abused names are used for. */
export const RISKY_SUBJECTS = /^(adult\.(?!parked)|games\.gambling|business\.loans)/;
const BURST_MS = 45 * 86_400_000;
/** On so many pages a link stands on all of a site. */
const SITE_WIDE_PAGES = 30;

const LEAST_TURN = 0.4;
/** A phrase that many use without wanting to sell counts so much. */
const PLAIN_PHRASE = 0.4;
const DOMAINS = 'referring domains';
const COMMENT =
  /\b(guest ?book|gästebuch|livre d'or|libro de visitas|(great|nice|good|awesome|wonderful|excellent|interesting|informative|helpful|amazing) (post|article|blog|site|read|info|information|content|share|writing)|thanks? (you )?for (the |your |sharing|posting)|keep up the (good|great) work|very (informative|helpful|useful|interesting)|i (really )?(love|like|enjoy(ed)?) (your|this) (site|blog|post|article)|leave a (reply|comment)|posted by (anonymous|guest)|comments? \(\d+\)|toller beitrag|schöne seite|super article|buen (post|artículo))/iu;

const percent = (share: number) => `${Math.round(share * 100)}%`;

/**
 * The rules of the scorecard, in the order they are shown: what each looks at, and from where to where it grows. How many points each
 * has is fitted (fit.ts).
 */
export const SPAM_RULES: SpamRule[] = [
  {
    id: 'money-anchors',
    title: 'Links whose words sell something',
    from: 0.05,
    to: 0.4,
    unit: 'share',
    explanation:
      'Share of referring domains whose words sell pills, gambling, loans and the like, in any language; not what the site itself began with.',
    measure(input) {
      const sites = sitesOf(input);
      if (sites.length < MIN_LINKS) return null;
      const hits = sites.filter((site) => site.sells !== null && !sellsItself(input, site.sells));
      return shareOf(hits.length, sites.length, DOMAINS, topAnchors(hits));
    },
  },
  {
    id: 'foreign-script-anchors',
    title: 'Anchors in another script than the site',
    from: 0.1,
    to: 0.5,
    unit: 'share',
    explanation:
      'Share of referring domains whose words are in a script that neither the content of the past nor the oldest links were written in.',
    measure(input) {
      const sites = sitesOf(input);
      const own = input.past?.own.script ?? scriptBefore(sites);
      if (sites.length < MIN_LINKS || own === null) return null;
      const hits = sites.filter(({ script }) => script !== null && script !== 'Latin' && script !== own);
      return shareOf(hits.length, sites.length, DOMAINS, topAnchors(hits));
    },
  },
  {
    id: 'dominant-anchor',
    title: 'One phrase over all others',
    from: 0.3,
    to: 0.7,
    unit: 'share',
    explanation:
      'Share of referring domains that use the same phrase that people search for. The own name, addresses and "click here" are left out, unless the name itself is what is sold.',
    measure(input) {
      const sites = sitesOf(input);
      if (sites.length < MIN_LINKS) return null;
      const users = new Map<string, number>();
      for (const site of sites)
        for (const phrase of new Set(site.anchors.map(plainPhrase))) {
          const sold = sellingKind(phrase);
          const isSold =
            sold !== null &&
            !sellsItself(input, sold) &&
            !(isOwnName(phrase, input.name) && (input.past?.own.subject || isBrand(phrase)));
          if (!isSold && (isOwnName(phrase, input.name) || isPlace(phrase))) continue;
          users.set(phrase, (users.get(phrase) ?? 0) + (isSold || isCommercial(phrase) ? 1 : PLAIN_PHRASE));
        }
      let top = '';
      let most = 0;
      for (const [phrase, count] of users) if (count > most) [top, most] = [phrase, count];
      return shareOf(most, sites.length, DOMAINS, most >= 1 ? [`"${top}" on about ${Math.round(most)} domains`] : []);
    },
  },
  {
    id: 'commercial-anchors',
    most: 34,
    title: 'Phrases that people search for',
    from: 0.15,
    to: 0.6,
    unit: 'share',
    explanation:
      'Share of referring domains whose words are a phrase for buying or hiring rather than the name of what they link to.',
    measure(input) {
      const sites = sitesOf(input);
      if (sites.length < MIN_LINKS) return null;
      const hits = sites.filter(({ isSearched }) => isSearched);
      return shareOf(hits.length, sites.length, DOMAINS, topAnchors(hits));
    },
  },
  {
    id: 'site-wide',
    title: 'Phrases on every page of a site',
    from: 0.1,
    to: 0.5,
    unit: 'share',
    explanation:
      'Share of referring domains that carry a phrase that sells on 30 pages and more: places that are sold. The name of a maker in a footer does not count.',
    measure(input) {
      const sites = sitesOf(input);
      if (sites.length < MIN_LINKS) return null;
      const hits = sites.filter(
        ({ pages, isSearched, sells }) =>
          pages >= SITE_WIDE_PAGES && (isSearched || (sells !== null && !sellsItself(input, sells))),
      );
      return shareOf(hits.length, sites.length, DOMAINS, topAnchors(hits));
    },
  },
  {
    id: 'link-burst',
    title: 'Nameless links that came all at once',
    from: 0.25,
    to: 0.75,
    unit: 'share',
    explanation:
      'Largest share of dated referring domains first seen within any 45 days whose words do not name the site: news names what it links to.',
    measure(input) {
      const dated = sitesOf(input)
        .flatMap((site) => (site.firstSeenAt === null ? [] : [{ at: site.firstSeenAt, counts: !site.isNaming }]))
        .sort((a, b) => a.at - b.at);
      if (dated.length < MIN_LINKS * 2) return null;
      let most = 0;
      let now = 0;
      let start = 0;
      let since = dated[0].at;
      for (const { at, counts } of dated) {
        if (counts) now++;
        for (; at - dated[start].at > BURST_MS; start++) if (dated[start].counts) now--;
        if (now > most) [most, since] = [now, dated[start].at];
      }
      const day = new Date(since).toISOString().slice(0, 10);
      return shareOf(most, dated.length, 'dated domains', [`${most} nameless within 45 days from ${day}`]);
    },
  },
  {
    id: 'spam-mass',
    most: 24,
    title: 'Strength that trust does not explain',
    from: 0.55,
    to: 0.98,
    unit: 'share',
    explanation:
      'Relative spam mass (Gyöngyi and others 2006): the part of strength that does not come from the trusted sites of the brief, with the trusted walk scaled to an assumed 85% of good sites.',
    measure({ strengthRank, trustRank, links }) {
      if (strengthRank === null || trustRank === null || links.length < MIN_LINKS) return null;
      const mass = spamMass(strengthRank, trustRank);
      return {
        value: mass,
        shown: percent(mass),
        evidence: [`strength ${strengthRank.toExponential(2)}, trust ${trustRank.toExponential(2)} of one walk`],
      };
    },
  },
  {
    id: 'nofollow-share',
    title: 'Nameless links that carry no vote',
    from: 0.3,
    to: 0.8,
    unit: 'share',
    explanation:
      'Share of referring domains all of whose links are nofollow, ugc or sponsored, with words that do not name the site: comments and paid places.',
    measure(input) {
      const sites = sitesOf(input);
      if (sites.length < MIN_LINKS) return null;
      const hits = sites.filter(({ nofollow, isNaming: names }) => nofollow && !names);
      return shareOf(hits.length, sites.length, DOMAINS, topAnchors(hits));
    },
  },
  {
    id: 'bad-company',
    title: 'Linking pages that sell',
    from: 0.15,
    to: 0.6,
    unit: 'share',
    explanation:
      'Share of referring domains whose linking page sells pills, gambling, loans and the like, which the site itself did not begin with.',
    measure(input) {
      const read = sitesOf(input).filter(({ text }) => text !== null);
      if (read.length < MIN_LINKS) return null;
      const hits = read.filter(({ text }) => pageSells(text ?? '', input));
      return shareOf(hits.length, read.length, 'linking pages that were read', topAnchors(hits));
    },
  },
  {
    id: 'comments',
    title: 'Links from comments and guestbooks',
    from: 0.15,
    to: 0.6,
    unit: 'share',
    explanation: 'Share of referring domains whose linking page is a guestbook, or praises without saying of what.',
    measure(input) {
      const read = sitesOf(input).filter(({ text }) => text !== null);
      if (read.length < MIN_LINKS) return null;
      const hits = read.filter(({ text, isNaming: names }) => !names && COMMENT.test(text ?? ''));
      return shareOf(hits.length, read.length, 'linking pages that were read', topAnchors(hits));
    },
  },
  {
    id: 'drops',
    most: 10,
    isAside: true,
    title: 'Dropped and taken again before',
    from: 0.5,
    to: 3,
    unit: 'count',
    explanation:
      'Times the archive shows content before the present registration began, so that the name changed hands.',
    measure({ drops }) {
      if (drops === null) return null;
      return { value: drops, shown: String(drops), evidence: drops > 0 ? [`${drops} known`] : [] };
    },
  },
  {
    id: 'unnamed',
    most: 24,
    title: 'Anchors that do not name the site',
    from: 0.5,
    to: 1,
    unit: 'share',
    explanation:
      'Share of referring domains whose words are neither the name, an address, "click here" nor of the subject of the site: people who link by themselves mostly name what they link to.',
    measure(input) {
      const sites = sitesOf(input);
      if (sites.length < MIN_LINKS) return null;
      const area = areaOf(input.past?.own.subject ?? null);
      // a name in Latin letters cannot be told in words of another script
      const own = input.past?.own.script ?? scriptBefore(sites);
      const told = sites.filter(({ script }) => script === null || script === 'Latin' || script !== own);
      if (told.length < MIN_LINKS) return null;
      const hits = told.filter((site) => !site.isNaming && !isOfArea(site, area));
      return shareOf(hits.length, told.length, DOMAINS, topAnchors(hits));
    },
  },
  {
    id: 'network',
    title: 'Referrers of one owner',
    from: 0.15,
    to: 0.7,
    unit: 'share',
    explanation:
      'Share of the referring domains that went when networks were counted as one vote each: same registrant, same servers and addresses, shared tracking ids, near-identical pages.',
    measure({ votes }) {
      if (votes === null || votes.referring < MIN_LINKS) return null;
      return shareOf(votes.network, votes.referring, 'referring domains', votes.notes.network);
    },
  },
  {
    id: 'blanket',
    title: 'Referrers that link to everything',
    from: 0.15,
    to: 0.7,
    unit: 'share',
    explanation: 'Share of the referring domains that went because they link to a great many lapsed domains.',
    measure({ votes }) {
      if (votes === null || votes.referring < MIN_LINKS) return null;
      return shareOf(votes.blanket, votes.referring, 'referring domains', votes.notes.blanket);
    },
  },
  {
    id: 'risky-content',
    title: 'Content about gambling, pills and the like',
    from: 0.02,
    to: 0.35,
    unit: 'share',
    explanation:
      'Share of the captures that were read whose subject is one that abused names are used for, and not the one that the site began with.',
    measure({ past }) {
      if (past === null || past.captures < MIN_CAPTURES) return null;
      return {
        value: past.risky,
        shown: `${percent(past.risky)} of ${past.captures} captures`,
        evidence: past.notes.risky,
      };
    },
  },
  {
    id: 'laced',
    title: 'Words that sell in content on something else',
    from: 0.05,
    to: 0.4,
    unit: 'share',
    explanation:
      'Share of the captures that were read that are about something else, with words for pills, gambling and the like put in.',
    measure({ past }) {
      if (past === null || past.captures < MIN_CAPTURES) return null;
      return {
        value: past.laced,
        shown: `${percent(past.laced)} of ${past.captures} captures`,
        evidence: past.notes.laced,
      };
    },
  },
  {
    id: 'turned',
    title: 'Became something else',
    from: 0.3,
    to: 0.9,
    unit: 'share',
    explanation:
      'How far the last content is from what the site was, counted in full where it turned to another language or to what abused names are used for, and by a third otherwise.',
    measure({ past }) {
      if (past === null || past.captures < MIN_CAPTURES || past.drift === null) return null;
      const isWorse = past.risky > 0 || past.languageSwitches > 0;
      return {
        value: past.drift * (isWorse ? 1 : 1 / 3),
        shown: `topic change ${past.drift.toFixed(2)}`,
        evidence: past.notes.switches,
      };
    },
  },
  {
    id: 'parked-captures',
    most: 12,
    title: 'Parked or for sale in the past',
    from: 0.25,
    to: 0.9,
    unit: 'share',
    explanation: 'Share of the captures that were read that show a parked page or a name for sale.',
    measure({ past }) {
      if (past === null || past.captures < MIN_CAPTURES) return null;
      return {
        value: past.parked,
        shown: `${percent(past.parked)} of ${past.captures} captures`,
        evidence: past.notes.parked,
      };
    },
  },
  {
    id: 'redirects',
    title: 'Sent its visitors to other domains',
    from: 0.05,
    to: 0.5,
    unit: 'share',
    explanation: 'Share of the captures that were read that lead to another domain.',
    measure({ past }) {
      if (past === null || past.captures < MIN_CAPTURES) return null;
      const { redirected } = past;
      return {
        value: redirected,
        shown: `${percent(redirected)} of ${past.captures} captures`,
        evidence: past.notes.redirected,
      };
    },
  },
  {
    id: 'switches',
    title: 'Switched its language or subject',
    from: 0.5,
    to: 2,
    unit: 'count',
    explanation: 'Times that the content of the past changed its language, or its subject.',
    measure({ past }) {
      if (past === null || past.captures < MIN_CAPTURES) return null;
      // who turns to another language or subject by himself keeps to what the site is about
      const value = (past.drift ?? 0) < LEAST_TURN ? 0 : past.languageSwitches + past.subjectSwitches;
      return { value, shown: String(value), evidence: past.notes.switches };
    },
  },
];

const byId = new Map(SPAM_RULES.map((rule) => [rule.id, rule]));
export function spamRule(id: string): SpamRule | undefined {
  return byId.get(id);
}

/** How far a value has come from where a rule begins to where it has all its points, 0 to 1; unmeasured counts as 0. */
export function reach({ from, to }: Pick<SpamRule, 'from' | 'to'>, value: number | null): number {
  return value === null ? 0 : Math.max(0, Math.min(1, (value - from) / (to - from)));
}

/** A bound of a rule as people read it. */
export function boundWords({ unit }: SpamRule, value: number): string {
  return unit === 'share' ? percent(value) : String(Math.ceil(value));
}

function shareOf(part: number, whole: number, unit: string, evidence: string[]) {
  const value = part / whole;
  const counted = Number.isInteger(part) ? part : part.toFixed(1);
  return { value, shown: `${percent(value)} (${counted} of ${whole} ${unit})`, evidence };
}

/** A referring domain with all its links. */
interface LinkingSite {
  site: string;
  anchors: string[];
  nofollow: boolean;
  firstSeenAt: number | null;
  pages: number;
  text: string | null;
  /** One of its anchors names the site, its address or nothing ("here"), and none sells. */
  isNaming: boolean;
  /** What its anchors sell; null: nothing. */
  sells: SellingKind | null;
  /** An anchor is a phrase that people search for. */
  isSearched: boolean;
  script: string | null;
}

const known = new WeakMap<readonly SpamLink[], LinkingSite[]>();

/** Referring domains: every rule counts these, not pages. */
function sitesOf({ links, name, past }: SpamInput): LinkingSite[] {
  const before = known.get(links);
  if (before) return before;
  const bySite = new Map<string, SpamLink[]>();
  for (const link of links) {
    const own = bySite.get(link.fromSite);
    if (own) own.push(link);
    else bySite.set(link.fromSite, [link]);
  }
  const called = calledNames(bySite);
  const sites = Array.from(bySite, ([site, own]): LinkingSite => {
    const anchors = [...new Set(own.map(({ anchor }) => anchor.trim()))];
    const times = own.flatMap(({ firstSeenAt }) => (firstSeenAt === null ? [] : [firstSeenAt]));
    // a site that is about something else may be called so: a band, a street, a café
    const isKnown = past !== null && past.own.subject !== null && !RISKY_SUBJECTS.test(past.own.subject);
    const told = anchors.filter((anchor) => !(isOwnName(plainPhrase(anchor), name) && (isKnown || isBrand(anchor))));
    const sells = told.map(sellingKind).find((kind) => kind !== null) ?? null;
    const titles = [...(past?.own.titles.map(lettersOf) ?? []), ...called];
    const names = anchors.some((anchor) => isNaming(anchor, name) || isTitle(anchor, titles));
    return {
      site,
      anchors,
      nofollow: own.every(({ nofollow }) => nofollow),
      firstSeenAt: times.length === 0 ? null : Math.min(...times),
      pages: own.reduce((sum, { pages }) => sum + (pages ?? 1), 0),
      text: own.find(({ text }) => text)?.text ?? null,
      isNaming: names && sells === null,
      sells,
      isSearched: anchors.some(
        (anchor) => isCommercial(anchor) && (sells !== null || !isOwnName(plainPhrase(anchor), name)),
      ),
      script: scriptOf(anchors.filter((anchor) => !isPlace(anchor)).join(' ')),
    };
  });
  known.set(links, sites);
  return sites;
}

const sellsItself = ({ past }: SpamInput, kind: SellingKind) => past?.own.sells.includes(kind) ?? false;

/** The script of the oldest third of dated links; null: too few to tell. */
function scriptBefore(sites: readonly LinkingSite[]): string | null {
  const dated = sites.filter(({ firstSeenAt, script }) => firstSeenAt !== null && script !== null);
  const oldest = dated
    .sort((a, b) => (a.firstSeenAt ?? 0) - (b.firstSeenAt ?? 0))
    .slice(0, Math.ceil(dated.length / 3));
  if (oldest.length < 3) return null;
  const counts = countBy(oldest, ({ script }) => script ?? '');
  return [...counts].sort((a, b) => b[1] - a[1])[0][0];
}

/** Words that so large a part of the referring domains use, over so long, are what people call the site. */
const CALLED_SHARE = 0.18;
const CALLED_MS = 500 * 86_400_000;

/** What people call a site, in letters alone: words that sell nothing and that many came to by themselves over years. */
function calledNames(bySite: ReadonlyMap<string, readonly SpamLink[]>): string[] {
  const users = new Map<string, number[]>();
  for (const own of bySite.values())
    for (const anchor of new Set(own.map((link) => plainPhrase(link.anchor)))) {
      const at = own.find(({ firstSeenAt }) => firstSeenAt !== null)?.firstSeenAt;
      if (at === null || at === undefined || isPlace(anchor) || isCommercial(anchor)) continue;
      const times = users.get(anchor);
      if (times) times.push(at);
      else users.set(anchor, [at]);
    }
  return [...users].flatMap(([anchor, times]) => {
    const isOften = times.length >= Math.max(3, CALLED_SHARE * bySite.size);
    const lasted = Math.max(...times) - Math.min(...times);
    return isOften && lasted >= CALLED_MS ? [lettersOf(anchor)] : [];
  });
}

const LEAST_TITLE = 4;
/** Whether an anchor is what the site called itself, or a good part of it. */
function isTitle(anchor: string, titles: readonly string[]): boolean {
  const said = lettersOf(anchor);
  return (
    said.length >= LEAST_TITLE &&
    titles.some((title) => title.length >= LEAST_TITLE && (title.includes(said) || said.includes(title)))
  );
}

const plainPhrase = (anchor: string) => anchor.toLowerCase().replace(/\s+/g, ' ').trim();
/** An address, or words that people put anywhere. */
const isPlace = (anchor: string) =>
  isGeneric(anchor) || /^(https?:|www\.)|^[\w-]+(\.[\w-]+)*\.[a-z]{2,}(\/\S*)?$/i.test(anchor);

function isOwnName(phrase: string, name: string): boolean {
  const own = labelLetters(name);
  const said = lettersOf(phrase);
  return said !== '' && (said.includes(own) || own.includes(said));
}

const areaOf = (subject: string | null) => subject?.split('.')[0] ?? null;

function isOfArea({ anchors, sells }: LinkingSite, area: string | null): boolean {
  if (area === null || sells !== null) return false;
  return anchors.some((anchor) => areaOfAnchor(anchor) === area);
}

const areas = new Map<string, string | null>();
const MOST_AREAS = 10_000;

function areaOfAnchor(anchor: string): string | null {
  let area = areas.get(anchor);
  if (area === undefined) {
    area = areaOf(subjectClassifier().classifyName(anchor.toLowerCase().match(/\p{L}+/gu) ?? []).subject);
    if (areas.size >= MOST_AREAS) areas.clear();
    areas.set(anchor, area);
  }
  return area;
}

/** Whether a linking page sells what the site did not begin with: several such words, or two of two kinds. */
function pageSells(text: string, input: SpamInput): boolean {
  const words = text.slice(0, MOST_TEXT).match(/[\p{L}\p{N}][\p{L}\p{M}\p{N}'’-]*/gu) ?? [];
  let found = 0;
  for (const [kind, own] of sellingWords(words)) if (!sellsItself(input, kind)) found += own.size;
  return (
    found >= 2 ||
    (words.length <= SHORT_TEXT && sellingKind(text) !== null && !sellsItself(input, sellingKind(text) ?? 'pills'))
  );
}
const MOST_TEXT = 4000;
const SHORT_TEXT = 30;

function topAnchors(sites: readonly LinkingSite[]): string[] {
  return [...countBy([...sites], ({ anchors }) => anchors[0])]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 5)
    .map(([anchor, count]) => `"${anchor}" from ${count} ${count === 1 ? 'domain' : 'domains'}`);
}

function countBy<T>(items: T[], keyOf: (item: T) => string): Map<string, number> {
  const counts = new Map<string, number>();
  for (const item of items) counts.set(keyOf(item), (counts.get(keyOf(item)) ?? 0) + 1);
  return counts;
}
