import { isAddress, isGeneric, isNaming, labelLetters, lettersOf } from '../links/anchor-kinds';
import { remember } from '../remember';
import { subjectClassifier } from '../topics/classifier';
import { areaOf } from '../topics/subjects';
import type { SpamInput, SpamLink } from './input';
import { RISKY_SUBJECTS } from './risky';
import { isBrand, isCommercial, type SellingKind, scriptOf, sellingKind } from './selling';

/** A referring domain with all its links. */
export interface LinkingSite {
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

const known = new WeakMap<SpamInput, LinkingSite[]>();

/** Referring domains: every rule counts these, not pages. */
export function sitesOf(input: SpamInput): LinkingSite[] {
  const { links, name, past } = input;
  const before = known.get(input);
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
  known.set(input, sites);
  return sites;
}

/** The script of the oldest third of dated links; null: too few to tell. */
export function scriptBefore(sites: readonly LinkingSite[]): string | null {
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

export const plainPhrase = (anchor: string) => anchor.toLowerCase().replace(/\s+/g, ' ').trim();
/** An address, or words that people put anywhere. */
export const isPlace = (anchor: string) => isGeneric(anchor) || isAddress(anchor);

export function isOwnName(phrase: string, name: string): boolean {
  const own = labelLetters(name);
  const said = lettersOf(phrase);
  return said !== '' && (said.includes(own) || own.includes(said));
}

export function isOfArea({ anchors, sells }: LinkingSite, area: string | null): boolean {
  if (area === null || sells !== null) return false;
  return anchors.some((anchor) => areaOfAnchor(anchor) === area);
}

const MOST_AREAS = 10_000;
const areaOfAnchor = remember((anchor) => {
  const words = anchor.toLowerCase().match(/\p{L}+/gu) ?? [];
  return areaOf(subjectClassifier().classifyName(words).subject);
}, MOST_AREAS);

export function countBy<T>(items: T[], keyOf: (item: T) => string): Map<string, number> {
  const counts = new Map<string, number>();
  for (const item of items) counts.set(keyOf(item), (counts.get(keyOf(item)) ?? 0) + 1);
  return counts;
}
