import { wordsOfText } from './address';

/** An address of the old site that something still links to, or that was captured. */
export interface OldAddress {
  /** Path with query. */
  path: string;
  /** What links say of it, and what its page was called. */
  anchors: readonly string[];
  title: string | null;
  /** Title of the subject that its words tell; null or absent: none that shows. */
  subject?: string | null;
  /** What its referrers weigh together. */
  weight: number;
  domains: number;
}

/** A page of one's own. */
export interface OwnPage {
  /** Whole address. */
  url: string;
  title: string;
  /** Further words: headings, description. */
  text: string;
  /** Title of the subject that its words tell; null or absent: none that shows. */
  subject?: string | null;
}

/** A page that an old address might move to. */
export interface Candidate {
  url: string;
  /** 0 to 1. */
  confidence: number;
  /** Words that both have, those that decide first, with where the old address has them. */
  reasons: { word: string; where: 'address' | 'anchors' | 'title' | 'subject' }[];
}

export interface Proposal {
  old: OldAddress;
  /** The best first; none where nothing is like it. */
  candidates: Candidate[];
}

/** How much a word counts by where the old address has it: a title says more than a word in an anchor. */
const WEIGHTS = { address: 1, anchors: 1.2, title: 1.6, subject: 1.2 } as const;
/** A subject is a word like others, kept apart from them by this. */
const SUBJECT = '\u0000';
type Where = keyof typeof WEIGHTS;
const CANDIDATES = 4;
/** Less alike is not alike. */
export const LEAST_CONFIDENCE = 0.18;
const REASONS = 5;

/**
 * Finds for each old address the own pages that are most like it: cosine of their words, each by its rarity among the own pages (tf-idf, Salton
 * and Buckley 1988), the words of the old address by where they stand, its subject as one more. The same path is the same page.
 */
export function proposeRedirects(old: readonly OldAddress[], pages: readonly OwnPage[]): Proposal[] {
  const index = new PageIndex(pages);
  return old.map((address) => ({ old: address, candidates: index.like(address) }));
}

class PageIndex {
  private readonly postings = new Map<string, { page: number; weight: number }[]>();
  private readonly rarity = new Map<string, number>();
  private readonly norms: Float64Array;
  private readonly byPath = new Map<string, number>();

  constructor(private readonly pages: readonly OwnPage[]) {
    const bags = pages.map(bagOf);
    for (const bag of bags) for (const word of bag.keys()) this.rarity.set(word, (this.rarity.get(word) ?? 0) + 1);
    for (const [word, count] of this.rarity) this.rarity.set(word, Math.log(1 + pages.length / count));
    this.norms = new Float64Array(pages.length);
    for (const [page, bag] of bags.entries()) {
      let squares = 0;
      for (const [word, count] of bag) {
        const weight = count * this.rarityOf(word);
        squares += weight * weight;
        const list = this.postings.get(word);
        if (list) list.push({ page, weight });
        else this.postings.set(word, [{ page, weight }]);
      }
      this.norms[page] = Math.sqrt(squares) || 1;
    }
    for (const [page, { url }] of pages.entries()) {
      const path = samePath(new URL(url).pathname);
      if (path !== '' && !this.byPath.has(path)) this.byPath.set(path, page);
    }
  }

  like(old: OldAddress): Candidate[] {
    const words = wordsOf(old);
    const scores = new Map<number, number>();
    let squares = 0;
    for (const [word, { weight }] of words) {
      const value = weight * this.rarityOf(word);
      squares += value * value;
      for (const { page, weight: own } of this.postings.get(word) ?? [])
        scores.set(page, (scores.get(page) ?? 0) + value * own);
    }
    const norm = Math.sqrt(squares) || 1;
    const candidates = [...scores].map(([page, dot]) => ({ page, confidence: dot / (norm * this.norms[page]) }));
    const same = this.byPath.get(samePath(old.path.split('?')[0]));
    if (same !== undefined) {
      const found = candidates.find(({ page }) => page === same);
      if (found) found.confidence = Math.max(0.9, found.confidence);
      else candidates.push({ page: same, confidence: 0.9 });
    }
    return candidates
      .filter(({ confidence }) => confidence >= LEAST_CONFIDENCE)
      .sort((a, b) => b.confidence - a.confidence || this.pages[a.page].url.localeCompare(this.pages[b.page].url))
      .slice(0, CANDIDATES)
      .map(({ page, confidence }) => ({
        url: this.pages[page].url,
        confidence: Math.min(1, confidence),
        reasons: this.reasons(words, page),
      }));
  }

  private reasons(words: ReadonlyMap<string, { weight: number; where: Where }>, page: number): Candidate['reasons'] {
    return [...words]
      .flatMap(([word, { weight, where }]) => {
        const own = this.postings.get(word)?.find((one) => one.page === page);
        return own ? [{ word, where, value: weight * this.rarityOf(word) * own.weight }] : [];
      })
      .sort((a, b) => b.value - a.value)
      .slice(0, REASONS)
      .map(({ word, where }) => ({ word: word.replace(SUBJECT, ''), where }));
  }

  /** A word that no own page has counts as the rarest, so that an address of other things is like nothing. */
  private rarityOf(word: string): number {
    return this.rarity.get(word) ?? Math.log(1 + this.pages.length);
  }
}

const samePath = (path: string) =>
  path
    .toLowerCase()
    .replace(/(?:index)?\.(?:html?|php|aspx?)$/, '')
    .replace(/\/+$/, '');

function bagOf({ url, title, text, subject }: OwnPage): Map<string, number> {
  const bag = new Map<string, number>();
  const add = (words: string[], weight: number) => {
    for (const word of words) bag.set(word, (bag.get(word) ?? 0) + weight);
  };
  add(wordsOfText(new URL(url).pathname), 1);
  add(wordsOfText(title), 1.6);
  add(wordsOfText(text), 0.4);
  if (subject) add([`${SUBJECT}${subject}`], WEIGHTS.subject);
  return bag;
}

/** Words of an old address with their weight, by where they count most. */
function wordsOf({ path, anchors, title, subject }: OldAddress): Map<string, { weight: number; where: Where }> {
  const words = new Map<string, { weight: number; where: Where }>();
  const add = (list: string[], where: Where, share: number) => {
    for (const word of new Set(list)) {
      const weight = WEIGHTS[where] * share;
      const known = words.get(word);
      if (!known || known.weight < weight) words.set(word, { weight, where });
    }
  };
  add(wordsOfText(path), 'address', 1);
  if (title) add(wordsOfText(title), 'title', 1);
  if (subject) add([`${SUBJECT}${subject}`], 'subject', 1);
  for (const anchor of anchors) add(wordsOfText(anchor), 'anchors', 1 / Math.sqrt(Math.max(1, anchors.length)));
  return words;
}
