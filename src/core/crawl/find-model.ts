import type { Cue, PageClass } from './page-class';

/**
 * How many lapsed domains a page is expected to give, learned while the crawl goes on.
 *
 * A class of pages (one shape of address on one site) is judged by what its pages gave. Few pages say little, so the rate of
 * each level is drawn towards the level above it, as a gamma prior draws a Poisson rate (empirical Bayes; Efron and Morris
 * 1975 for the idea): all pages, then the cue, then the word that sites share, then the site, then the class:
 *
 *   rate = (gave + k * rate of the level above) / (pages + k)
 *
 * with the site and the class as factors on what their words lead one to expect. What a page gave is the lapsed domains found
 * there first, plus half of what the pages it led to gave: an index page finds nothing itself and opens the way to lists.
 * Old readings fade, so that a class whose finds have all been made sinks.
 */
export interface ClassState extends PageClass {
  id: number;
  site: string;
  /** Pages read, and what they gave; both fade. */
  pages: number;
  gave: number;
}

/** What a page that led to another is credited of the other's finds. */
export const CREDIT = 0.5;
const START_RATE = 0.4;
const CUE_FACTOR: Record<Cue, number> = { list: 4, old: 1.5, plain: 0.7 };
const K_ALL = 20;
const K_CUE = 12;
const K_WORD = 10;
const K_SITE = 4;
const K_CLASS = 2;
/** A class remembers about so many pages. */
const MEMORY_PAGES = 60;

interface Tally {
  pages: number;
  gave: number;
}

export class FindModel {
  private readonly classes = new Map<number, ClassState>();
  private readonly all: Tally = { pages: 0, gave: 0 };
  private readonly cues = new Map<Cue, Tally>();
  private readonly words = new Map<string, Tally>();
  /** Of each site, what was expected of its pages by their words alone, and what they gave. */
  private readonly sites = new Map<string, { expected: number; gave: number }>();

  /** Takes in a class with what it did before, in this crawl or an interrupted part of it. */
  add(state: ClassState): void {
    this.classes.set(state.id, state);
    if (state.pages > 0 || state.gave > 0) this.tally(state, state.pages, state.gave);
  }

  get(id: number): ClassState | undefined {
    return this.classes.get(id);
  }

  /** A page of the class was read. */
  read(id: number): void {
    const state = this.classes.get(id);
    if (!state) return;
    if (state.pages >= MEMORY_PAGES) {
      const keep = 1 - 1 / MEMORY_PAGES;
      state.pages *= keep;
      state.gave *= keep;
    }
    state.pages++;
    this.tally(state, 1, 0);
  }

  /** A page of the class gave `amount` finds; see CREDIT for pages that only led there. */
  found(id: number, amount: number): void {
    const state = this.classes.get(id);
    if (!state) return;
    state.gave += amount;
    this.tally(state, 0, amount);
  }

  /** Finds expected of the next page of the class. */
  expected(id: number): number {
    const state = this.classes.get(id);
    if (!state) return 0;
    const base = this.wordRate(state);
    const site = this.sites.get(state.site);
    const siteFactor = site ? (site.gave + K_SITE) / (site.expected + K_SITE) : 1;
    const prior = base * siteFactor;
    return (state.gave + K_CLASS * prior) / (state.pages + K_CLASS);
  }

  /**
   * The expected finds and one standard deviation more: what the next page may well give. Two classes that differ by less
   * than is known of them are not worth waiting for one another.
   */
  hoped(id: number): number {
    const state = this.classes.get(id);
    if (!state) return 0;
    const expected = this.expected(id);
    return expected + Math.sqrt(expected / (state.pages + K_CLASS));
  }

  private wordRate(state: PageClass): number {
    const all = drawn(this.all, START_RATE, K_ALL);
    const cue = drawn(this.cues.get(state.cue), all * CUE_FACTOR[state.cue], K_CUE);
    return drawn(this.words.get(wordKey(state)), cue, K_WORD);
  }

  private tally(state: ClassState, pages: number, gave: number): void {
    const site = this.sites.get(state.site) ?? { expected: 0, gave: 0 };
    if (pages > 0) site.expected += pages * this.wordRate(state);
    site.gave += gave;
    this.sites.set(state.site, site);
    add(this.all, pages, gave);
    add(of(this.cues, state.cue), pages, gave);
    add(of(this.words, wordKey(state)), pages, gave);
  }
}

/** A word means another thing on a list of links than elsewhere. */
const wordKey = ({ word, cue }: PageClass) => `${cue} ${word}`;

function drawn(tally: Tally | undefined, prior: number, weight: number): number {
  return tally ? (tally.gave + weight * prior) / (tally.pages + weight) : prior;
}

function of<K>(map: Map<K, Tally>, key: K): Tally {
  let found = map.get(key);
  if (!found) {
    found = { pages: 0, gave: 0 };
    map.set(key, found);
  }
  return found;
}

function add(tally: Tally, pages: number, gave: number): void {
  tally.pages += pages;
  tally.gave += gave;
}

/**
 * The expected yield below which a page is not worth one of the pages that are left to read: that of the last page the
 * budget would reach, if what is known now were read from the best down.
 *
 * @param classes expected finds and pages waiting, of each class.
 * @returns 0 when the budget reaches them all.
 */
export function worthReading(classes: Iterable<{ expected: number; waiting: number }>, pagesLeft: number): number {
  const sorted = [...classes].filter(({ waiting }) => waiting > 0).sort((a, b) => b.expected - a.expected);
  let reached = 0;
  for (const { expected, waiting } of sorted) {
    reached += waiting;
    if (reached >= pagesLeft) return expected;
  }
  return 0;
}
