import { FIGURED_WORDS, MEASURED_WORDS } from './figured-words';
import { bits, type Lexicon } from './lexicon';

/** A word and how often it is met in running text. */
export interface WordCount {
  word: string;
  count: number;
}

export interface Split {
  /** Words and what stands between them (digits, letters that make no word), in order; hyphens left out. */
  words: string[];
  /** Where each begins in the label. */
  starts: number[];
  /** 0 to 1: how much likelier this split is than the runner-up. */
  confidence: number;
  runnerUp: string[] | null;
}

/** What is asked of whoever knows the words of names. */
export interface Splitter {
  /**
   * Where words begin in a label, as bits: bit i of the result for byte i, in two halves of 32. Bytes of an A-label (`xn--…`) are one word.
   *
   * @param bytes lower-case ASCII; `start` to `end` at most 63 bytes.
   */
  starts(bytes: Uint8Array, start: number, end: number, into: Uint32Array, at: number): void;
  /** A label with its words, the runner-up and the distance between the two. */
  split(label: string): Split;
  /** Whether it is a word by itself. */
  knows(word: string): boolean;
  /** What a word costs: the negative natural log of its share of running text; infinite for one that is not known. */
  costOfWord(word: string): number;
}

/** Words that a brief names cost as much as the commonest nouns, however short they are. */
const GIVEN_COST = 6;
/** A run of letters that is no known word: what it costs to begin one, and each letter of it (natural log). */
const UNKNOWN_START = 8.5;
const UNKNOWN_LETTER = 2.7;
/** A number, one with its unit, and a word that has figures in it. */
const NUMBER_COST = 6;
const MEASURED_COST = 8;
const FIGURED_COST = 6.5;
/** What a unit of distance to the runner-up says; less than one, since words of names are not those of running text (docs/figures.md). */
const CERTAINTY = 0.8;
const MAX_WORD = 24;
const LETTERS = 26;
/** Letters and figures. */
const SIGNS = 36;

/**
 * Splits labels into the most likely words: the cheapest path over the letters, where a word costs the negative logarithm of its share
 * of running text (unigram model; Viterbi 1967) and a run of letters that is no word costs by its length. Hyphens part words; so do
 * numbers, but where the two make a word (3d, b2b, 24h).
 */
export class WordSplitter implements Splitter {
  /** Children of each node of the tree of given words, 36 a node, 0: none. */
  private next = new Int32Array(SIGNS * (1 << 8));
  private nodes = 1;
  /** Cost of the word that ends at a node; infinite where none does. */
  private cost = new Float32Array(1 << 8).fill(Number.POSITIVE_INFINITY);
  private readonly best = new Float64Array(256);
  private readonly from = new Int16Array(256);
  /** The same for paths that end in a run of letters that is no word, and where the run begins. */
  private readonly run = new Float64Array(256);
  private readonly runFrom = new Int16Array(256);

  /** @param given words of the trade or of a brief, taken for common ones. Lower case a to z; others are passed over. */
  constructor(
    private readonly lexicon: Lexicon,
    given: Iterable<string> = [],
  ) {
    for (const word of MEASURED_WORDS) this.add(word, MEASURED_COST);
    for (const word of FIGURED_WORDS) this.add(word, FIGURED_COST);
    for (const word of given) if (/^[a-z]+$/.test(word.toLowerCase())) this.add(word.toLowerCase(), GIVEN_COST);
  }

  /** Adds a word of letters and figures, or makes it cheaper when it is known. */
  private add(word: string, cost: number): void {
    if (word.length === 0 || word.length > MAX_WORD) return;
    let node = 0;
    for (let i = 0; i < word.length; i++) {
      const at = node * SIGNS + signOf(word.charCodeAt(i));
      if (this.next[at] === 0) {
        if (this.nodes === this.cost.length) this.grow();
        this.next[at] = this.nodes++;
      }
      node = this.next[at];
    }
    this.cost[node] = Math.min(cost, this.cost[node]);
  }

  private grow(): void {
    const wider = new Int32Array(this.next.length * 2);
    wider.set(this.next);
    this.next = wider;
    const costs = new Float32Array(this.cost.length * 2).fill(Number.POSITIVE_INFINITY);
    costs.set(this.cost);
    this.cost = costs;
  }

  starts(bytes: Uint8Array, start: number, end: number, into: Uint32Array, at: number): void {
    this.mark(bytes, start, end, into, at);
  }

  /** As `starts`. @returns what the split costs. */
  mark(bytes: Uint8Array, start: number, end: number, into: Uint32Array, at: number): number {
    into[at] = 0;
    into[at + 1] = 0;
    if (isALabel(bytes, start, end)) {
      into[at] = 1;
      return 0;
    }
    let sum = 0;
    for (let i = start; i < end; ) {
      let stop = i + 1;
      if (isSign(bytes[i])) {
        while (stop < end && isSign(bytes[stop])) stop++;
        this.walk(bytes, i, stop);
        sum += this.best[stop - i];
        for (let k = stop - i; k > 0; k = this.from[k]) {
          const begins = i + this.from[k] - start;
          into[at + (begins >> 5)] |= 1 << (begins & 31);
        }
      }
      i = stop;
    }
    return sum;
  }

  /** The cheapest path over letters and figures `i` to `stop`; `from[k]` is where the word that ends after k of them begins. */
  private walk(bytes: Uint8Array, i: number, stop: number): void {
    const { best, from, run, runFrom, next, cost } = this;
    const { masks, firsts, costs } = this.lexicon;
    const length = stop - i;
    for (let k = 0; k <= length; k++) best[k] = run[k] = Number.POSITIVE_INFINITY;
    best[0] = 0;
    for (let k = 0; k < length; k++) {
      const here = best[k];
      if (isDigit(bytes[i + k])) {
        // a number is not cut
        if (k > 0 && isDigit(bytes[i + k - 1])) continue;
        let end = k + 1;
        while (end < length && isDigit(bytes[i + end])) end++;
        if (here + NUMBER_COST < best[end]) {
          best[end] = here + NUMBER_COST;
          from[end] = k;
        }
      } else {
        // a run goes on by a letter, or begins; that it may go on is worth keeping even where a word would be cheaper here
        if (run[k] < here + UNKNOWN_START) {
          run[k + 1] = run[k] + UNKNOWN_LETTER;
          runFrom[k + 1] = runFrom[k];
        } else {
          run[k + 1] = here + UNKNOWN_START + UNKNOWN_LETTER;
          runFrom[k + 1] = k;
        }
        if (run[k + 1] < best[k + 1]) {
          best[k + 1] = run[k + 1];
          from[k + 1] = runFrom[k + 1];
        }
      }
      if (here === Number.POSITIVE_INFINITY) continue;
      let node = 0;
      let given = 0;
      for (let m = k; m < length; m++) {
        const sign = signOf(bytes[i + m]);
        let word = Number.POSITIVE_INFINITY;
        if (node >= 0) {
          // Lexicon.next, written out: this is where the time goes
          const bit = 1 << sign;
          const mask = masks[node];
          if (sign < LETTERS && (mask & bit) !== 0) {
            node = firsts[node] + bits(mask & (bit - 1));
            word = costs[node];
          } else node = -1;
        }
        if (given >= 0) {
          given = next[given * SIGNS + sign] || -1;
          if (given >= 0 && cost[given] < word && !(sign >= LETTERS && m + 1 < length && isDigit(bytes[i + m + 1])))
            word = cost[given];
        }
        if (node < 0 && given < 0) break;
        if (here + word < best[m + 1]) {
          best[m + 1] = here + word;
          from[m + 1] = k;
        }
      }
    }
  }

  split(label: string): Split {
    const bytes = new Uint8Array(label.length);
    for (let i = 0; i < label.length; i++) bytes[i] = label.charCodeAt(i) & 0x7f;
    const mask = new Uint32Array(2);
    this.starts(bytes, 0, bytes.length, mask, 0);
    const { words, starts } = wordsAt(label, mask[0], mask[1]);
    const second = this.secondBest(label, starts);
    return {
      words,
      starts,
      confidence: second ? 1 / (1 + Math.exp(-CERTAINTY * second.distance)) : 1,
      runnerUp: second?.words ?? null,
    };
  }

  /** The cheapest split that differs: each word of the best one forbidden in turn (Yen 1971, for one more path). */
  private secondBest(label: string, starts: number[]): { words: string[]; distance: number } | null {
    if (label.startsWith('xn--')) return null;
    let found: { words: string[]; distance: number } | null = null;
    const own = this.costOf(label, starts);
    for (let w = 0; w < starts.length; w++) {
      const other = this.without(label, starts, w);
      if (!other) continue;
      const distance = this.costOf(label, other) - own;
      if (distance > -1e-9 && (!found || distance < found.distance))
        found = { words: other.map((at, n) => pieceAt(label, at, other[n + 1])), distance };
    }
    return found;
  }

  /** The cheapest split in which word `w` of the best one is no word, among joining it to a neighbour and splitting it. */
  private without(label: string, starts: number[], w: number): number[] | null {
    const options: number[][] = [];
    const piece = pieceAt(label, starts[w], starts[w + 1]);
    if (/^\d+$/.test(piece) || !/^[a-z\d]+$/.test(piece)) return null;
    for (let cut = 1; cut < piece.length; cut++)
      options.push([...starts.slice(0, w + 1), starts[w] + cut, ...starts.slice(w + 1)]);
    const isJoined = w > 0 && starts[w - 1] + pieceAt(label, starts[w - 1], starts[w]).length === starts[w];
    if (isJoined && /^[a-z]+$/.test(pieceAt(label, starts[w - 1], starts[w]))) {
      options.push(starts.filter((_, n) => n !== w));
      // the border between the two moves
      for (let move = 1 - pieceAt(label, starts[w - 1], starts[w]).length; move < piece.length; move++)
        if (move !== 0) options.push(starts.map((at, n) => (n === w ? at + move : at)));
    }
    let best: number[] | null = null;
    let least = Number.POSITIVE_INFINITY;
    for (const option of options) {
      const cost = this.costOf(label, option);
      if (cost < least) [best, least] = [option, cost];
    }
    return best;
  }

  knows(word: string): boolean {
    return this.costOfWord(word) < UNKNOWN_START + UNKNOWN_LETTER * word.length;
  }

  private costOf(label: string, starts: number[]): number {
    let sum = 0;
    starts.forEach((at, n) => {
      const piece = pieceAt(label, at, starts[n + 1]);
      sum += /^[a-z]+$/.test(piece)
        ? Math.min(this.costOfWord(piece), UNKNOWN_START + UNKNOWN_LETTER * piece.length)
        : this.costOfFigures(piece);
    });
    return sum;
  }

  /** Of a number, or a word that has figures in it; of anything else more than of any word. */
  private costOfFigures(piece: string): number {
    return /^\d+$/.test(piece) ? NUMBER_COST : Math.min(this.costOfGiven(piece), 99);
  }

  costOfWord(word: string): number {
    return Math.min(this.lexicon.costOf(word), this.costOfGiven(word));
  }

  private costOfGiven(word: string): number {
    let node = 0;
    for (let i = 0; i < word.length; i++) {
      const code = word.charCodeAt(i);
      node = isSign(code) ? this.next[node * SIGNS + signOf(code)] : 0;
      if (node === 0) return Number.POSITIVE_INFINITY;
    }
    return this.cost[node];
  }
}

/** Words of a label from the bits that `starts` gives. */
export function wordsAt(label: string, low: number, high: number): { words: string[]; starts: number[] } {
  const starts: number[] = [];
  for (let i = 0; i < label.length; i++) if (((i < 32 ? low >>> i : high >>> (i - 32)) & 1) === 1) starts.push(i);
  return { starts, words: starts.map((at, n) => pieceAt(label, at, starts[n + 1])) };
}

/** From a start to the next, without the hyphens that part them. */
function pieceAt(label: string, start: number, next: number | undefined): string {
  let end = next ?? label.length;
  while (end > start + 1 && label.charCodeAt(end - 1) === 45 && !label.startsWith('xn--')) end--;
  return label.slice(start, end);
}

/** A lower-case letter or a figure. */
function isSign(code: number): boolean {
  return (code >= 97 && code <= 122) || isDigit(code);
}
/** 0 to 25 for letters, 26 to 35 for figures. */
function signOf(code: number): number {
  return code >= 97 ? code - 97 : code - 48 + LETTERS;
}
function isDigit(code: number): boolean {
  return code >= 48 && code <= 57;
}
function isALabel(bytes: Uint8Array, start: number, end: number): boolean {
  return (
    end - start > 4 &&
    bytes[start] === 120 &&
    bytes[start + 1] === 110 &&
    bytes[start + 2] === 45 &&
    bytes[start + 3] === 45
  );
}
