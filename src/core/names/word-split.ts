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

/** Words that a brief names cost as much as the commonest nouns, however short they are. */
const GIVEN_COST = 6;
/** A run of letters that is no known word: what it costs to begin one, and each letter of it (natural log). */
const UNKNOWN_START = 8.5;
const UNKNOWN_LETTER = 2.7;
/** What a word of one, two or three letters costs on top: such words turn up in the middle of others by chance. */
const SHORT_COST = [0, 7, 4.5, 1.2];
const MAX_WORD = 24;
/** Pieces that a word list of running text holds because of apostrophes, and endings that are words only there. */
const NO_WORDS = new Set(
  'll ve re don didn doesn isn wasn aren ain couldn wouldn em ya na ta er org com net co'.split(' '),
);
const LETTERS = 26;

/**
 * Splits labels into the most likely words: the cheapest path over the letters, where a word costs the negative logarithm of its share
 * of running text (unigram model; Viterbi 1967) and a run of letters that is no word costs by its length. Digits and hyphens part words.
 */
export class WordSplitter {
  /** Children of each node of the tree of words, 26 a node, 0: none. */
  private next: Int32Array;
  private nodes = 1;
  /** Cost of the word that ends at a node; infinite where none does. */
  private cost: Float32Array;
  private readonly best = new Float64Array(256);
  private readonly from = new Int16Array(256);
  /** The same for paths that end in a run of letters that is no word, and where the run begins. */
  private readonly run = new Float64Array(256);
  private readonly runFrom = new Int16Array(256);

  /** @param given words of the trade or of a brief, taken for common ones. Lower case a to z; others are passed over. */
  constructor(counts: Iterable<WordCount>, given: Iterable<string> = []) {
    this.next = new Int32Array(LETTERS * (1 << 16));
    this.cost = new Float32Array(1 << 16).fill(Number.POSITIVE_INFINITY);
    let total = 0;
    const known: WordCount[] = [];
    for (const entry of counts) {
      total += entry.count;
      known.push(entry);
    }
    for (const { word, count } of known) {
      const lower = word.toLowerCase();
      if (lower.length === 1 ? lower === 'a' || lower === 'i' : !NO_WORDS.has(lower))
        this.add(lower, -Math.log(count / total) + (SHORT_COST[lower.length] ?? 0));
    }
    for (const word of given) this.add(word.toLowerCase(), GIVEN_COST);
  }

  /** Adds a word, or makes it cheaper when it is known. */
  private add(word: string, cost: number): void {
    if (word.length === 0 || word.length > MAX_WORD || !/^[a-z]+$/.test(word)) return;
    let node = 0;
    for (let i = 0; i < word.length; i++) {
      const at = node * LETTERS + word.charCodeAt(i) - 97;
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

  /**
   * Where words begin in a label, as bits: bit i of the result for byte i, in two halves of 32. Bytes of an A-label (`xn--…`) are one word.
   *
   * @param bytes lower-case ASCII; `start` to `end` at most 63 bytes.
   */
  starts(bytes: Uint8Array, start: number, end: number, into: Uint32Array, at: number): void {
    into[at] = 0;
    into[at + 1] = 0;
    if (isALabel(bytes, start, end)) {
      into[at] = 1;
      return;
    }
    for (let i = start; i < end; ) {
      const code = bytes[i];
      let stop = i + 1;
      if (isLetter(code)) {
        while (stop < end && isLetter(bytes[stop])) stop++;
        this.walk(bytes, i, stop);
        for (let k = stop - i; k > 0; k = this.from[k]) {
          const begins = i + this.from[k] - start;
          into[at + (begins >> 5)] |= 1 << (begins & 31);
        }
      } else {
        if (isDigit(code)) {
          while (stop < end && isDigit(bytes[stop])) stop++;
          into[at + ((i - start) >> 5)] |= 1 << ((i - start) & 31);
        }
      }
      i = stop;
    }
  }

  /** The cheapest path over letters `i` to `stop`; `from[k]` is where the word that ends after k letters begins. */
  private walk(bytes: Uint8Array, i: number, stop: number): void {
    const { best, from, run, runFrom, next, cost } = this;
    const length = stop - i;
    for (let k = 0; k <= length; k++) best[k] = run[k] = Number.POSITIVE_INFINITY;
    best[0] = 0;
    for (let k = 0; k < length; k++) {
      // a run goes on by a letter, or begins; that it may go on is worth keeping even where a word would be cheaper here
      if (run[k] < best[k] + UNKNOWN_START) {
        run[k + 1] = run[k] + UNKNOWN_LETTER;
        runFrom[k + 1] = runFrom[k];
      } else {
        run[k + 1] = best[k] + UNKNOWN_START + UNKNOWN_LETTER;
        runFrom[k + 1] = k;
      }
      if (run[k + 1] < best[k + 1]) {
        best[k + 1] = run[k + 1];
        from[k + 1] = runFrom[k + 1];
      }
      const here = best[k];
      let node = 0;
      for (let m = k; m < length; m++) {
        node = next[node * LETTERS + bytes[i + m] - 97];
        if (node === 0) break;
        const through = here + cost[node];
        if (through < best[m + 1]) {
          best[m + 1] = through;
          from[m + 1] = k;
        }
      }
    }
  }

  /** A label with its words, the runner-up and the distance between the two. */
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
      confidence: second ? 1 / (1 + Math.exp(-second.distance)) : 1,
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
    if (!/^[a-z]+$/.test(piece)) return null;
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

  /** Whether it is a word by itself. */
  knows(word: string): boolean {
    return this.costOfWord(word) < UNKNOWN_START + UNKNOWN_LETTER * word.length;
  }

  private costOf(label: string, starts: number[]): number {
    let sum = 0;
    starts.forEach((at, n) => {
      const piece = pieceAt(label, at, starts[n + 1]);
      if (/^[a-z]+$/.test(piece))
        sum += Math.min(this.costOfWord(piece), UNKNOWN_START + UNKNOWN_LETTER * piece.length);
    });
    return sum;
  }

  /** What a word costs: the negative natural log of its share of running text; infinite for one that is not known. */
  costOfWord(word: string): number {
    let node = 0;
    for (let i = 0; i < word.length; i++) {
      node = this.next[node * LETTERS + word.charCodeAt(i) - 97];
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

/**
 * Other forms of a noun that count as the same word: singular for plural and the other way round, by the regular rules of English.
 *
 * @returns the word and what it may be, all of them lower case.
 */
export function numberForms(word: string): string[] {
  const forms = new Set([word]);
  if (word.length < 3) return [word];
  const isPlural = /[^s]s$/.test(word) && !/(?:us|is)$/.test(word);
  if (isPlural) {
    forms.add(word.slice(0, -1));
    if (/[^aeiou]ies$/.test(word) && word.length > 4) forms.add(`${word.slice(0, -3)}y`);
    if (/(?:[sxz]|[cs]h)es$/.test(word)) forms.add(word.slice(0, -2));
  } else if (/[^aeiou]y$/.test(word)) forms.add(`${word.slice(0, -1)}ies`);
  else forms.add(/(?:[sxz]|[cs]h)$/.test(word) ? `${word}es` : `${word}s`);
  return [...forms];
}

function isLetter(code: number): boolean {
  return code >= 97 && code <= 122;
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
