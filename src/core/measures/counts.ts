/** What one source counts of the links to a domain. */
export interface SourceCount {
  sourceId: number;
  source: string;
  /** Kind of source: an index's export, a crawl, a list that says so. */
  kind: string;
  /** ms since 1970 UTC: when its figures are from. */
  at: number;
  /** null: it does not say. */
  backlinks: number | null;
  referringDomains: number | null;
  /** Links that are nofollow, of those it lists; null: it lists none. */
  nofollow: number | null;
  /** Links that the source knows of all domains: how much of the web it covers. */
  coverage: number | null;
}

/** Which figure counts where sources differ: that of all their links together, the largest, the newest, or that of one source. */
export const COUNT_RULES = ['together', 'largest', 'newest'] as const;
export type CountRule = (typeof COUNT_RULES)[number] | { source: string };

export interface ChosenCount {
  backlinks: number;
  referringDomains: number;
  /** Whose figure it is, for people. */
  from: string;
}

/** Reads a rule as it is kept: one of the words, or `source:` and a name. Anything else is "together". */
export function readCountRule(text: string): CountRule {
  if (text.startsWith('source:')) return { source: text.slice('source:'.length) };
  return COUNT_RULES.find((rule) => rule === text) ?? 'together';
}

/**
 * Chooses the figure to sort by. A source that does not say how many domains link is not chosen; where the chosen source does not know the
 * domain, all of them together count.
 *
 * @param together links of all sources, each page once.
 */
export function chooseCount(
  counts: readonly SourceCount[],
  together: { backlinks: number; referringDomains: number },
  rule: CountRule,
): ChosenCount {
  const all: ChosenCount = {
    ...together,
    from: counts.length > 1 ? `${counts.length} sources together` : (counts[0]?.source ?? 'no source'),
  };
  const known = counts.filter((count) => count.referringDomains !== null);
  if (rule === 'together' || known.length === 0) return all;
  const order =
    rule === 'largest'
      ? (count: SourceCount) => count.referringDomains ?? 0
      : rule === 'newest'
        ? (count: SourceCount) => count.at
        : (count: SourceCount) => (count.source === rule.source ? 1 : 0);
  const best = known.reduce((first, count) => (order(count) > order(first) ? count : first));
  if (typeof rule === 'object' && best.source !== rule.source) return all;
  return {
    backlinks: best.backlinks ?? best.referringDomains ?? 0,
    referringDomains: best.referringDomains ?? 0,
    from: best.source,
  };
}

export interface Disagreement {
  /** Largest over smallest count of referring domains. */
  factor: number;
  most: string;
  least: string;
  /** Likely causes, most telling first; at least one. */
  causes: string[];
}

const DAY = 86_400_000;
/** Dates that lie so far apart explain much. */
const FAR_APART_MS = 120 * DAY;
/** A source that knows so many times more links is another kind of source. */
const MUCH_MORE = 5;

/**
 * Where sources differ in referring domains by more than a factor, with what may explain it; null: they agree, or only one says. A crawl
 * knows few pages and always differs: it is compared only where there are no two others.
 */
export function disagreement(counts: readonly SourceCount[], factor: number): Disagreement | null {
  const all = counts.filter((count) => count.referringDomains !== null);
  const others = all.filter(({ kind }) => kind !== 'crawl');
  const known = others.length > 1 ? others : all;
  if (known.length < 2) return null;
  const domains = (count: SourceCount) => Math.max(1, count.referringDomains ?? 0);
  const most = known.reduce((first, count) => (domains(count) > domains(first) ? count : first));
  const least = known.reduce((first, count) => (domains(count) < domains(first) ? count : first));
  const ratio = domains(most) / domains(least);
  if (ratio <= factor) return null;
  return { factor: Math.round(ratio * 10) / 10, most: most.source, least: least.source, causes: causesOf(most, least) };
}

function causesOf(most: SourceCount, least: SourceCount): string[] {
  const causes: string[] = [];
  if (least.kind === 'crawl') causes.push(`${least.source} is a crawl: it knows only the pages it read`);
  if (most.kind === 'list') causes.push(`${most.source} is a list: what it counts, and when, it does not say`);
  if (Math.abs(most.at - least.at) > FAR_APART_MS) {
    const days = Math.round(Math.abs(most.at - least.at) / DAY);
    const older = most.at < least.at ? most : least;
    const what = older === most ? 'links may have gone since' : 'links may have come since';
    causes.push(`${older.source} is ${days} days older: ${what}`);
  }
  if (most.coverage !== null && least.coverage !== null && most.coverage > MUCH_MORE * least.coverage)
    causes.push(
      `${most.source} knows ${Math.round(most.coverage / Math.max(1, least.coverage))} times as many links in all`,
    );
  const share = (count: SourceCount) =>
    count.nofollow !== null && count.backlinks ? count.nofollow / count.backlinks : null;
  const [high, low] = [share(most), share(least)];
  if (high !== null && low !== null && high - low > 0.3)
    causes.push(`${most.source} counts nofollow links, which ${least.source} hardly has`);
  const pages = (count: SourceCount) => (count.backlinks ?? 0) / Math.max(1, count.referringDomains ?? 0);
  if (most.backlinks !== null && least.backlinks !== null && pages(least) > 4 * pages(most))
    causes.push(`${least.source} lists many pages of few sites, ${most.source} few pages of many`);
  if (causes.length === 0)
    causes.push('neither date, coverage nor nofollow explains it; one of them may count hosts, or links that are gone');
  return causes;
}
