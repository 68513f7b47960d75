import { displayName } from '../names/domain';

/** A followed or unfollowed link to the judged domain, as a source reported it. Times in ms since 1970 or null. */
export interface SpamLink {
  fromSite: string;
  anchor: string;
  nofollow: boolean;
  firstSeenAt: number | null;
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
}

export interface RuleResult {
  rule: string;
  title: string;
  /** Measured value, in the unit the title names; null when there was nothing to measure. */
  value: number | null;
  /** The value as people read it. */
  shown: string;
  /** Points towards 100; 0 when the rule does not bite. */
  points: number;
  maxPoints: number;
  /** The links, anchors or figures behind it, at most 8. */
  evidence: string[];
  /** What the rule looks for and from where to where its points rise. */
  explanation: string;
}

export interface SpamCard {
  /** 0 to 100, higher is worse; null when no rule had anything to measure. */
  risk: number | null;
  results: RuleResult[];
}

interface Rule {
  id: string;
  title: string;
  maxPoints: number;
  /** Points rise evenly from 0 at `from` to maxPoints at `to`. */
  from: number;
  to: number;
  explanation: string;
  measure(input: SpamInput): { value: number; shown: string; evidence: string[] } | null;
}

const MONEY_WORDS =
  /\b(casino|poker|slots?|betting|bet|jackpot|roulette|viagra|cialis|pills?|pharmacy|payday|loans?|credit|forex|crypto|escorts?|porn|xxx|replica|essay|cheap|buy now|bonus)\b/iu;
const GENERIC_ANCHORS =
  /^(|click here|here|more|read more|link|website|site|home|homepage|visit|visit (the )?(site|website)|www|source|this)$/i;
const FOREIGN_SCRIPT =
  /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Hangul}\p{Script=Cyrillic}\p{Script=Arabic}\p{Script=Thai}]/u;
const MIN_LINKS = 5;
const DAYS_30 = 30 * 86_400_000;

const percent = (share: number) => `${Math.round(share * 100)}%`;

/**
 * The first scorecard. Points are set by hand so that one extreme sign is a warning and two are a verdict; they are not
 * yet fitted on labelled examples, and the interface says so.
 */
export const SPAM_RULES: Rule[] = [
  {
    id: 'money-anchors',
    title: 'Links whose words sell something',
    maxPoints: 35,
    from: 0.05,
    to: 0.4,
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
    maxPoints: 20,
    from: 0.1,
    to: 0.5,
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
    maxPoints: 15,
    from: 0.4,
    to: 0.9,
    explanation:
      'Share of referring domains that use the same words. The own name, addresses and "click here" are left out: those repeat honestly.',
    measure({ links, name }) {
      const own = letters(displayName(name).split('.')[0]);
      const sitesByAnchor = new Map<string, Set<string>>();
      const sites = new Set<string>();
      for (const link of links) {
        sites.add(link.fromSite);
        const anchor = link.anchor.toLowerCase();
        if (GENERIC_ANCHORS.test(anchor) || /^(https?:|www\.)/.test(anchor) || letters(anchor).includes(own)) continue;
        if (own.includes(letters(anchor))) continue;
        sitesByAnchor.set(anchor, (sitesByAnchor.get(anchor) ?? new Set()).add(link.fromSite));
      }
      if (sites.size < MIN_LINKS) return null;
      let top = '';
      let most = 0;
      for (const [anchor, users] of sitesByAnchor) if (users.size > most) [top, most] = [anchor, users.size];
      return shareOf(most, sites.size, 'referring domains', most > 0 ? [`"${top}" on ${most} domains`] : []);
    },
  },
  {
    id: 'site-wide',
    title: 'Links from one site',
    maxPoints: 12,
    from: 0.3,
    to: 0.9,
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
    maxPoints: 15,
    from: 0.3,
    to: 0.85,
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
    maxPoints: 20,
    from: 0.55,
    to: 0.98,
    explanation:
      'Relative spam mass (Gyöngyi and others 2006): the part of strength that does not come from the trusted sites of the brief, with the trusted walk scaled to an assumed 85% of good sites.',
    measure({ strengthRank, trustRank, links }) {
      if (strengthRank === null || trustRank === null || links.length < MIN_LINKS) return null;
      const mass = Math.max(0, Math.min(1, 1 - (0.85 * trustRank) / strengthRank));
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
    maxPoints: 8,
    from: 0.6,
    to: 1,
    explanation: 'Share of links marked nofollow, ugc or sponsored: comments and paid places.',
    measure({ links }) {
      if (links.length < MIN_LINKS) return null;
      const hits = links.filter((link) => link.nofollow);
      return shareOf(hits.length, links.length, 'links', topAnchors(hits));
    },
  },
  {
    id: 'drops',
    title: 'Dropped and taken again before',
    maxPoints: 10,
    from: 0.5,
    to: 3,
    explanation:
      'Times the archive shows content before the present registration began, so that the name changed hands.',
    measure({ drops }) {
      if (drops === null) return null;
      return { value: drops, shown: String(drops), evidence: drops > 0 ? [`${drops} known`] : [] };
    },
  },
];

/** Judges one domain by every rule. Risk is the sum of points, at most 100. */
export function scoreSpam(input: SpamInput): SpamCard {
  let measured = 0;
  let sum = 0;
  const results = SPAM_RULES.map((rule): RuleResult => {
    const found = rule.measure(input);
    const strength = found ? Math.max(0, Math.min(1, (found.value - rule.from) / (rule.to - rule.from))) : 0;
    const points = Math.round(strength * rule.maxPoints * 10) / 10;
    if (found) measured++;
    sum += points;
    return {
      rule: rule.id,
      title: rule.title,
      value: found?.value ?? null,
      shown: found?.shown ?? 'too little to measure',
      points,
      maxPoints: rule.maxPoints,
      evidence: found?.evidence.slice(0, 8) ?? [],
      explanation: rule.explanation,
    };
  });
  return { risk: measured === 0 ? null : Math.min(100, Math.round(sum)), results };
}

function shareOf(part: number, whole: number, unit: string, evidence: string[]) {
  const value = part / whole;
  return { value, shown: `${percent(value)} (${part} of ${whole} ${unit})`, evidence };
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

function letters(text: string): string {
  return text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
}
