import type { Splitter } from './word-split';

/** What is looked at of each name: beginnings of so many letters. */
const FIRST = 2;
const SHORTEST = 5;
/** Shorter ones are found in any word. */
const SHORTEST_PART = 3;
/** What two common words cost together, natural log. Places are often two rare ones. */
const COMMON_PAIR = 20.6;
const LONGEST = 15;
/** A beginning that fewer names share is no word of its own. */
const LEAST_NAMES = 8;
/** What may follow a word of its own, at least, and how evenly (entropy, natural log). */
const LEAST_WAYS = 5;
const LEAST_ENTROPY = 1.2;
/** By so much the entropy rises where a word ends. */
const RISE = 0.3;
/** Beginnings between two pauses. */
const AT_ONCE = 200;

/**
 * Words that are in no list but begin many names: places, brands. Where a word ends, what follows is open: the entropy of the next
 * letter rises there (Harris 1955, "From phoneme to morpheme"; branching entropy, Jin and Tanaka-Ishii 2006). What is a word already
 * is left out, and what has such an end within it, because then it is that word and another.
 *
 * Yields now and then, so that long work can be put between other work; returns the words, those of most names first.
 *
 * @param labels lower-case labels without their ending.
 */
export function* learnCoined(labels: readonly string[], splitter: Splitter): Generator<void, string[]> {
  let level = beginnings(labels);
  /** Beginnings at which a word may end. */
  const ends = new Set<string>();
  let entropies = new Map<string, number>();
  const found: { word: string; names: number }[] = [];
  let looked = 0;
  for (let length = FIRST; length <= LONGEST; length++) {
    const longer = new Map<string, number[]>();
    const here = new Map<string, number>();
    for (const [word, rows] of level) {
      if (++looked % AT_ONCE === 0) yield;
      const followers = byNextLetter(labels, rows, length);
      const entropy = entropyOf(followers, rows.length);
      here.set(word, entropy);
      const isRising = entropy - (entropies.get(word.slice(0, -1)) ?? 0) > RISE;
      if (entropy > LEAST_ENTROPY && isRising && followers.size >= LEAST_WAYS) {
        if (
          length >= SHORTEST &&
          !splitter.knows(word) &&
          !isJoined(word, ends, splitter) &&
          !isCompound(word, splitter)
        )
          found.push({ word, names: rows.length });
        ends.add(word);
      }
      for (const [letter, some] of followers)
        if (some.length >= LEAST_NAMES && letter >= 'a' && letter <= 'z') longer.set(word + letter, some);
    }
    entropies = here;
    level = longer;
  }
  return found.sort((a, b) => b.names - a.names || (a.word < b.word ? -1 : 1)).map(({ word }) => word);
}

/** Whether a word ends within it: after three letters and less that says something only where they are a word. */
function isJoined(word: string, ends: ReadonlySet<string>, splitter: Splitter): boolean {
  for (let cut = FIRST; cut < word.length - 1; cut++) {
    const head = word.slice(0, cut);
    if (ends.has(head) && (cut > 3 || splitter.knows(head))) return true;
  }
  return false;
}

/** Whether a word is two that are common, so that names of the trade (nightsky, bookcraft) are split all the same. */
function isCompound(word: string, splitter: Splitter): boolean {
  for (let cut = SHORTEST_PART; cut <= word.length - SHORTEST_PART; cut++)
    if (splitter.costOfWord(word.slice(0, cut)) + splitter.costOfWord(word.slice(cut)) < COMMON_PAIR) return true;
  return false;
}

/** Rows by the first letters of their names. */
function beginnings(labels: readonly string[]): Map<string, number[]> {
  const level = new Map<string, number[]>();
  const letters = /^[a-z]{4}/;
  labels.forEach((label, row) => {
    if (!letters.test(label)) return;
    const first = label.slice(0, FIRST);
    const rows = level.get(first);
    if (rows) rows.push(row);
    else level.set(first, [row]);
  });
  for (const [first, rows] of level) if (rows.length < LEAST_NAMES) level.delete(first);
  return level;
}

function byNextLetter(labels: readonly string[], rows: number[], at: number): Map<string, number[]> {
  const followers = new Map<string, number[]>();
  for (const row of rows) {
    const letter = labels[row][at] ?? '';
    const some = followers.get(letter);
    if (some) some.push(row);
    else followers.set(letter, [row]);
  }
  return followers;
}

function entropyOf(followers: Map<string, number[]>, total: number): number {
  let sum = 0;
  for (const { length } of followers.values()) sum -= (length / total) * Math.log(length / total);
  return sum;
}
