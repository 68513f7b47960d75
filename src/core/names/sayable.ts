import type { WordCount } from './word-split';

/** How easily a name is said, 0 to 100, and the letters that make it hard. */
export interface Sayability {
  score: number;
  /** Runs of letters that words hardly have, hardest first, at most 4. */
  hard: string[];
}

const LETTERS = 27;
/** Border of a word, as letter number 26. */
const BORDER = 26;
/** Words that the letters are counted in. */
const WORDS = 40_000;
const SMOOTHING = 0.5;
const MIXED = 30;
/** A run of three that is this much rarer than a run in words on average (natural log) is hard. */
const HARD = 4.2;
/** Short words have few runs, and one odd one is no verdict. */
const SPREAD = 1.6;

/**
 * Tells from runs of three letters how much a name reads like a word: trigram model with its counts from a list of words, each counted by
 * the logarithm of its frequency (Vitevitch and Luce 2004, phonotactic probability, on letters for want of sounds).
 */
export class SayabilityModel {
  private readonly log = new Float32Array(LETTERS ** 3);
  private readonly mean: number;
  private readonly spread: number;

  constructor(counts: Iterable<WordCount>) {
    const seen = new Float64Array(LETTERS ** 3);
    const words: string[] = [];
    for (const { word, count } of counts) {
      if (words.length >= WORDS) break;
      const lower = word.toLowerCase();
      if (!/^[a-z]{2,}$/.test(lower)) continue;
      words.push(lower);
      eachRun(lower, (run) => {
        seen[run] += Math.log(1 + count);
      });
    }
    this.smooth(seen);
    let sum = 0;
    let squares = 0;
    const sample = words.filter((_, n) => n % 7 === 0);
    for (const word of sample) {
      const value = this.perRun(word);
      sum += value;
      squares += value * value;
    }
    this.mean = sum / sample.length;
    this.spread = SPREAD * Math.sqrt(Math.max(1e-9, squares / sample.length - this.mean ** 2));
  }

  /** Chance of a letter after two, mixed with that after one (Witten and Bell 1991), so that pairs never met are as odd as they look. */
  private smooth(seen: Float64Array): void {
    const pairs = new Float64Array(LETTERS ** 2);
    for (let run = 0; run < seen.length; run++) pairs[run % LETTERS ** 2] += seen[run];
    for (let b = 0; b < LETTERS; b++) {
      let after = 0;
      for (let c = 0; c < LETTERS; c++) after += pairs[b * LETTERS + c];
      for (let a = 0; a < LETTERS; a++) {
        const at = (a * LETTERS + b) * LETTERS;
        let total = 0;
        for (let c = 0; c < LETTERS; c++) total += seen[at + c];
        for (let c = 0; c < LETTERS; c++) {
          const afterOne = (pairs[b * LETTERS + c] + SMOOTHING) / (after + SMOOTHING * LETTERS);
          this.log[at + c] = Math.log((seen[at + c] + MIXED * afterOne) / (total + MIXED));
        }
      }
    }
  }

  /**
   * @param words of the split: borders between them are said as borders of words.
   * @returns 50 for what is as sayable as the average word, 100 for much better; digits and letters outside a to z lower it to 0.
   */
  of(words: readonly string[]): Sayability {
    const plain = words.filter((word) => /^[a-z]+$/.test(word));
    if (plain.length === 0) return { score: 0, hard: [] };
    const letters = plain.reduce((sum, word) => sum + word.length, 0);
    const all = words.reduce((sum, word) => sum + word.length, 0);
    const value = plain.reduce((sum, word) => sum + this.perRun(word) * word.length, 0) / letters;
    const score = 100 / (1 + Math.exp(-(value - this.mean) / this.spread));
    return { score: Math.round((score * letters) / all), hard: this.hardRuns(plain) };
  }

  private perRun(word: string): number {
    let sum = 0;
    let runs = 0;
    eachRun(word, (run) => {
      sum += this.log[run];
      runs++;
    });
    return sum / runs;
  }

  private hardRuns(words: readonly string[]): string[] {
    const found: { text: string; value: number }[] = [];
    for (const word of words) {
      let at = 0;
      eachRun(word, (run) => {
        const text = ` ${word} `.slice(at, at + 3).trim();
        if (this.log[run] < this.mean - HARD) found.push({ text, value: this.log[run] });
        at++;
      });
    }
    return [...new Set(found.sort((a, b) => a.value - b.value).map(({ text }) => text))].slice(0, 4);
  }
}

/** Runs of three letters of a word with its borders, as places in a table of 27 by 27 by 27. */
function eachRun(word: string, take: (run: number) => void): void {
  let a = BORDER;
  let b = word.charCodeAt(0) - 97;
  for (let i = 1; i <= word.length; i++) {
    const c = i === word.length ? BORDER : word.charCodeAt(i) - 97;
    take((a * LETTERS + b) * LETTERS + c);
    a = b;
    b = c;
  }
}
