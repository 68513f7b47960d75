import { spamMass } from '../links/pagerank';
import { areaOf } from '../topics/subjects';
import type { SpamInput, SpamPast } from './input';
import {
  countBy,
  isOfArea,
  isOwnName,
  isPlace,
  type LinkingSite,
  plainPhrase,
  scriptBefore,
  sitesOf,
} from './linking-sites';
import { isBrand, isCommercial, type SellingKind, sellingKind, sellingWords } from './selling';

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
    title: 'Nameless links that do not count',
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
    title: 'Dropped and registered again before',
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
    title: 'Referring domains of one owner',
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
    title: 'Referring domains that link to everything',
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
    measure: ({ past }) => capturesThat('risky', past),
  },
  {
    id: 'laced',
    title: 'Words that sell in content on something else',
    from: 0.05,
    to: 0.4,
    unit: 'share',
    explanation:
      'Share of the captures that were read that are about something else, with words for pills, gambling and the like put in.',
    measure: ({ past }) => capturesThat('laced', past),
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
    measure: ({ past }) => capturesThat('parked', past),
  },
  {
    id: 'redirects',
    title: 'Sent its visitors to other domains',
    from: 0.05,
    to: 0.5,
    unit: 'share',
    explanation: 'Share of the captures that were read that lead to another domain.',
    measure: ({ past }) => capturesThat('redirected', past),
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

/** The share of captures that show one thing. */
function capturesThat(what: 'risky' | 'laced' | 'parked' | 'redirected', past: SpamPast | null): RuleFinding | null {
  if (past === null || past.captures < MIN_CAPTURES) return null;
  return {
    value: past[what],
    shown: `${percent(past[what])} of ${past.captures} captures`,
    evidence: past.notes[what],
  };
}

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

const sellsItself = ({ past }: SpamInput, kind: SellingKind) => past?.own.sells.includes(kind) ?? false;

/** Whether a linking page sells what the site did not begin with: several such words, or two of two kinds. */
function pageSells(text: string, input: SpamInput): boolean {
  const words = text.slice(0, MOST_TEXT).match(/[\p{L}\p{N}][\p{L}\p{M}\p{N}'’-]*/gu) ?? [];
  let found = 0;
  for (const [kind, own] of sellingWords(words)) if (!sellsItself(input, kind)) found += own.size;
  if (found >= 2) return true;
  const kind = words.length <= SHORT_TEXT ? sellingKind(text) : null;
  return kind !== null && !sellsItself(input, kind);
}
const MOST_TEXT = 4000;
const SHORT_TEXT = 30;

function topAnchors(sites: readonly LinkingSite[]): string[] {
  return [...countBy([...sites], ({ anchors }) => anchors[0])]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 5)
    .map(([anchor, count]) => `"${anchor}" from ${count} ${count === 1 ? 'domain' : 'domains'}`);
}
