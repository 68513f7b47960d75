import { FOREIGN_SCRIPT, isGeneric, isNaming, lettersOf, MONEY_WORDS } from '../links/anchor-kinds';
import { spamMass } from '../links/pagerank';
import { displayName } from '../names/domain';

/** A followed or unfollowed link to the judged domain, as a source reported it. Times in ms since 1970 or null. */
export interface SpamLink {
  fromSite: string;
  anchor: string;
  nofollow: boolean;
  firstSeenAt: number | null;
}

/** What the past says, from captures that were read. Shares are of captures, 0 to 1. */
export interface SpamPast {
  captures: number;
  parked: number;
  /** Led to another domain. */
  redirected: number;
  /** Content about gambling, pills, loans, replicas and the like. */
  risky: number;
  languageSwitches: number;
  subjectSwitches: number;
  /** 0 to 1; null: no content. */
  drift: number | null;
  /** Examples of each, for people. */
  notes: { parked: string[]; redirected: string[]; risky: string[]; switches: string[] };
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
  /** Says nothing by itself: where it alone could be measured, the risk is not known. */
  isAside?: boolean;
  /** @returns null where there is too little to measure. */
  measure(input: SpamInput): RuleFinding | null;
}

const MIN_LINKS = 5;
const MIN_CAPTURES = 2;
/** Subjects that abused names are used for. */
export const RISKY_SUBJECTS = /^(adult\.(?!parked)|games\.gambling|business\.loans)/;
const DAYS_30 = 30 * 86_400_000;

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
    explanation: 'Share of links with gambling, pills, loans and the like in the anchor text.',
    measure({ links }) {
      if (links.length < MIN_LINKS) return null;
      const hits = links.filter((link) => MONEY_WORDS.test(link.anchor));
      return shareOf(hits.length, links.length, 'links', topAnchors(hits));
    },
  },
  {
    id: 'foreign-script-anchors',
    title: 'Anchors in another script',
    from: 0.1,
    to: 0.5,
    unit: 'share',
    explanation: 'Share of links whose anchor is written in a script that the name itself is not.',
    measure({ links, name }) {
      if (links.length < MIN_LINKS || FOREIGN_SCRIPT.test(displayName(name))) return null;
      const hits = links.filter((link) => FOREIGN_SCRIPT.test(link.anchor));
      return shareOf(hits.length, links.length, 'links', topAnchors(hits));
    },
  },
  {
    id: 'dominant-anchor',
    title: 'One anchor over all others',
    from: 0.4,
    to: 0.9,
    unit: 'share',
    explanation:
      'Share of referring domains that use the same words. The own name, addresses and "click here" are left out: those repeat honestly.',
    measure({ links, name }) {
      const own = lettersOf(displayName(name).split('.')[0]);
      const sitesByAnchor = new Map<string, Set<string>>();
      const sites = new Set<string>();
      for (const link of links) {
        sites.add(link.fromSite);
        const anchor = link.anchor.toLowerCase();
        if (isGeneric(anchor) || /^(https?:|www\.)/.test(anchor) || lettersOf(anchor).includes(own)) continue;
        if (own.includes(lettersOf(anchor))) continue;
        sitesByAnchor.set(anchor, (sitesByAnchor.get(anchor) ?? new Set()).add(link.fromSite));
      }
      if (sites.size < MIN_LINKS) return null;
      let top = '';
      let most = 0;
      for (const [anchor, users] of sitesByAnchor) if (users.size > most) [top, most] = [anchor, users.size];
      return shareOf(
        most,
        sites.size,
        'referring domains',
        most > 0 ? [`"${top}" on ${most} ${most === 1 ? 'domain' : 'domains'}`] : [],
      );
    },
  },
  {
    id: 'site-wide',
    title: 'Links from one site',
    from: 0.3,
    to: 0.9,
    unit: 'share',
    explanation: 'Share of all links that come from the one domain with the most: a link on every page is one vote.',
    measure({ links }) {
      if (links.length < MIN_LINKS * 2) return null;
      const bySite = countBy(links, (link) => link.fromSite);
      const [site, count] = [...bySite].sort((a, b) => b[1] - a[1])[0];
      return shareOf(count, links.length, 'links', [`${count} links from ${site}`]);
    },
  },
  {
    id: 'link-burst',
    title: 'Links that came all at once',
    from: 0.3,
    to: 0.85,
    unit: 'share',
    explanation: 'Largest share of dated links first seen within any 30 days.',
    measure({ links }) {
      const times = links
        .flatMap((link) => (link.firstSeenAt === null ? [] : [link.firstSeenAt]))
        .sort((a, b) => a - b);
      if (times.length < MIN_LINKS * 2) return null;
      let most = 0;
      let start = 0;
      let burstStart = times[0];
      for (let end = 0; end < times.length; end++) {
        while (times[end] - times[start] > DAYS_30) start++;
        if (end - start + 1 > most) {
          most = end - start + 1;
          burstStart = times[start];
        }
      }
      const since = new Date(burstStart).toISOString().slice(0, 10);
      return shareOf(most, times.length, 'dated links', [`${most} links within 30 days from ${since}`]);
    },
  },
  {
    id: 'spam-mass',
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
    title: 'Links that carry no vote',
    from: 0.6,
    to: 1,
    unit: 'share',
    explanation: 'Share of links marked nofollow, ugc or sponsored: comments and paid places.',
    measure({ links }) {
      if (links.length < MIN_LINKS) return null;
      const hits = links.filter((link) => link.nofollow);
      return shareOf(hits.length, links.length, 'links', topAnchors(hits));
    },
  },
  {
    id: 'drops',
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
    title: 'Anchors that do not name the site',
    from: 0.5,
    to: 1,
    unit: 'share',
    explanation:
      'Share of links whose words are neither the name, an address, nor "click here": people who link by themselves mostly name what they link to.',
    measure({ links, name }) {
      if (links.length < MIN_LINKS) return null;
      const hits = links.filter(({ anchor }) => !isNaming(anchor, name));
      return shareOf(hits.length, links.length, 'links', topAnchors(hits));
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
    explanation: 'Share of the captures that were read whose subject is one that abused names are used for.',
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
    id: 'parked-captures',
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
      const value = past.languageSwitches + past.subjectSwitches;
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

function topAnchors(links: SpamLink[]): string[] {
  return [...countBy(links, (link) => link.anchor)]
    .sort((a, b) => b[1] - a[1])
    .slice(0, 5)
    .map(([anchor, count]) => `"${anchor}" ${count} times`);
}

function countBy<T>(items: T[], keyOf: (item: T) => string): Map<string, number> {
  const counts = new Map<string, number>();
  for (const item of items) counts.set(keyOf(item), (counts.get(keyOf(item)) ?? 0) + 1);
  return counts;
}
