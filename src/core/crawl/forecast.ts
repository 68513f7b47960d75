/** A page that a trial read beyond the home page. */
export interface SampledPage {
  /** Pages of its level that look like it, itself included; what it shows stands for all of them. */
  standsFor: number;
  /** Addresses inside that nothing read before it has. */
  fresh: string[];
}

/** What a page that a trial read, its home page too, names outside. */
export interface ReadOfTrial {
  /** Links from the home page to it. */
  depth: number;
  /** Outside domains, each once. */
  outside: readonly string[];
  /** It was read because such pages name many; it says nothing of the others. */
  isChosen: boolean;
}

/** What the pages of a trial showed of one site. */
export interface TrialSample {
  /** Distinct addresses inside that the home page links to. */
  homeLinks: number;
  /** Pages read one link from the home page, two links, three: as many levels as were looked at. */
  levels: SampledPage[][];
  /** Every page that was read. */
  read: ReadOfTrial[];
  /** Addresses that were asked for and gave no page. */
  failed: number;
  /** Mean time of a request. */
  msPerPage: number;
  /** Pause between requests. */
  delayMs: number;
}

export interface Range {
  low: number;
  high: number;
}

export interface Forecast {
  depth: number;
  pages: Range;
  /** Seconds, reading the site one page at a time. */
  seconds: Range;
  domains: Range;
}

/** Growth of distinct domains with pages is believed up to this power; what repeats later shows little in a few pages. */
const MOST_GROWTH = 0.45;
/** Domains that are taken to stand on pages that were not read, beside those that were seen; and named once, beside those that were. */
const PRIOR = { unseen: 2, once: 1 };
/** From the expected number to the ends of a range, which is at most four times as wide as it begins: more is missed above than below. */
const BELOW = 1.8;
const ABOVE = 4 / BELOW;
/** A site of unknown size is not forecast beyond this. */
const MOST_PAGES = 1_000_000;

/**
 * Forecasts what a crawl of a site would read and find at each depth, as ranges, from a few of its pages.
 *
 * Depth 0 is the home page and depth 1 what it links to: both are counted. Beyond, each sampled page stands for those of its level
 * that look like it. The high end takes them to lead to as many new pages each as the sampled one; the low end believes what was
 * seen, and half of the rest, less the share by which the samples overlapped. Kinds of pages that no sample stands for give
 * nothing at the low end and half the average at the high end. A level that was not looked at repeats the step before it,
 * between nothing and its full width.
 */
export function forecast(sample: TrialSample, deepest = 4): Forecast[] {
  const levels = levelSizes(sample, deepest);
  const total: Range = { low: 0, high: 0 };
  return levels.map((level, depth) => {
    total.low = Math.min(MOST_PAGES, total.low + level.low);
    total.high = Math.min(MOST_PAGES, total.high + level.high);
    const pages = { low: Math.round(total.low), high: Math.round(total.high) };
    const perPage = (sample.msPerPage + sample.delayMs) / 1000;
    return {
      depth,
      pages,
      seconds: { low: Math.round(pages.low * perPage * 0.8), high: Math.round(pages.high * perPage * 1.5) },
      domains: domainsIn(sample, depth, pages),
    };
  });
}

function levelSizes({ homeLinks, levels: sampled }: TrialSample, deepest: number): Range[] {
  const levels: Range[] = [
    { low: 1, high: 1 },
    { low: homeLinks, high: homeLinks },
  ];
  while (levels.length <= deepest) {
    const [before, last] = levels.slice(-2);
    const pages = sampled[levels.length - 2] ?? [];
    levels.push(pages.length > 0 ? nextLevel(last, pages) : guessLevel(before, last));
  }
  return levels.slice(0, deepest + 1);
}

function nextLevel(level: Range, pages: SampledPage[]): Range {
  const seen = new Set(pages.flatMap(({ fresh }) => fresh)).size;
  const sum = pages.reduce((total, { fresh }) => total + fresh.length, 0);
  if (sum === 0) return { low: 0, high: 0 };
  // 1 when no two samples shared an address, 0 when all showed the same
  const apart = pages.length === 1 ? 1 : Math.max(0, (seen / sum - 1 / pages.length) / (1 - 1 / pages.length));
  const stoodFor = pages.reduce((total, { standsFor }) => total + standsFor, 0);
  const spread = pages.reduce((total, { standsFor, fresh }) => total + standsFor * fresh.length, 0);
  // the sample was drawn from what was seen of the level; the level itself may be larger
  const scale = (size: number) => Math.max(1, size / Math.max(stoodFor, 1));
  const unlike = Math.max(0, Math.min(level.high, level.low) - stoodFor);
  const high = spread * (scale(level.high) > 2 ? scale(level.high) : 1) + (unlike * sum) / pages.length / 2;
  return { low: Math.max(seen, seen + ((spread - sum) * apart) / 2), high: Math.max(seen, high) };
}

function guessLevel(before: Range, last: Range): Range {
  const step = last.high / Math.max(1, before.high);
  return { low: 0, high: last.high * Math.min(2, step) };
}

/**
 * Distinct outside domains on `pages`, from those that were read as far from the home page. They grow with the pages as a power of their
 * number (Heaps 1978); its exponent, where the sample ends, is the share of the domains that one page alone has named (the next page
 * brings as many new ones as the share of what is seen once: Good 1953). Pages that were chosen count with what they name, and are left
 * out of the growth.
 */
function domainsIn({ read, failed }: TrialSample, depth: number, pages: Range): Range {
  const near = read.filter((page) => page.depth <= depth);
  const seen = new Set(near.flatMap(({ outside }) => outside)).size;
  if (near.length >= pages.high) return { low: seen, high: seen };
  const typical = near.filter(({ isChosen }) => !isChosen);
  const namings = new Map<string, number>();
  for (const { outside } of typical) for (const name of outside) namings.set(name, (namings.get(name) ?? 0) + 1);
  const once = [...namings.values()].filter((count) => count === 1).length;
  const growth = Math.min(MOST_GROWTH, (once + PRIOR.once) / (namings.size + PRIOR.once));
  const readable = (pages.low * read.length) / Math.max(1, read.length + failed);
  const times = Math.max(1, readable / Math.max(1, typical.length));
  const { low, high } = aroundOf(seen + (namings.size + PRIOR.unseen) * (times ** growth - 1));
  return { low: Math.max(seen, low), high: Math.max(seen, high) };
}

function aroundOf(expected: number): Range {
  const low = Math.floor(expected / BELOW);
  return { low, high: Math.min(Math.ceil(expected * ABOVE), 4 * Math.max(1, low)) };
}

/** What a trial says of one site's outside domains. */
export interface SiteDomains {
  domains: Range;
  /** Outside domains that its pages named. */
  names: readonly string[];
}

/**
 * Outside domains of several sites together, those that more than one of them names counted once: by the share of them that the trials'
 * pages had in common.
 */
export function domainsTogether(sites: readonly SiteDomains[]): Range {
  const named = sites.reduce((sum, { names }) => sum + names.length, 0);
  const distinct = new Set(sites.flatMap(({ names }) => names)).size;
  const share = named === 0 ? 1 : distinct / named;
  const middle = sites.reduce(
    (sum, { domains }) => sum + Math.sqrt((Math.max(0.25, domains.low) * domains.high * BELOW) / ABOVE),
    0,
  );
  if (sites.length === 0 || middle === 0) return { low: 0, high: 0 };
  const sum = (pick: (range: Range) => number) =>
    sites.reduce((total, { domains }) => total + pick(domains), 0) * share;
  // of several sites some are over and some under, so the sum of the ends is never wider than the ends of the sum
  const around = aroundOf(middle * share);
  return {
    low: Math.max(Math.floor(sum(({ low }) => low)), around.low),
    high: Math.min(Math.ceil(sum(({ high }) => high)), around.high),
  };
}
