/** Languages whose words are known, ISO 639-1. */
export const LEXICON_LANGUAGES = ['en', 'de', 'fr', 'es', 'nl', 'it'] as const;
export type LexiconLanguage = (typeof LEXICON_LANGUAGES)[number];

const LETTERS_A = 97;
/** Costs are kept in tenths. */
const COST_STEPS = 10;

/**
 * Words with what each costs, to be walked letter by letter. Nodes lie in the order of breadth, the children of one beside each other: a node is
 * a mask of the letters that go on from it and where its first child lies (a bitmap trie: Bagwell 2001).
 */
export class Lexicon {
  /** Where the first child of each node lies. */
  readonly firsts: Uint32Array;
  /** Cost of the word that ends at each node, natural log; infinite where none does. */
  readonly costs: Float32Array;

  /**
   * @param masks of each node, bit 0 to 25: letters that go on from it.
   * @param steps of each node: what the word that ends there costs, in tenths; 0: none ends there.
   */
  constructor(
    readonly masks: Uint32Array,
    readonly steps: Uint8Array,
  ) {
    this.firsts = new Uint32Array(masks.length);
    this.costs = new Float32Array(masks.length);
    let next = 1;
    for (let node = 0; node < masks.length; node++) {
      this.firsts[node] = next;
      next += bits(masks[node]);
      this.costs[node] = steps[node] === 0 ? Number.POSITIVE_INFINITY : steps[node] / COST_STEPS;
    }
    if (next !== Math.max(1, masks.length)) throw new Error('These are no nodes of a table of words');
  }

  /**
   * @param words lower case a to z, in order, each once.
   * @param costs of each: negative natural log of its share of running text, 0.1 to 25.5.
   */
  static of(words: readonly string[], costs: readonly number[]): Lexicon {
    const masks: number[] = [];
    const steps: number[] = [];
    // ranges of words that begin alike, breadth first
    let level: [from: number, to: number][] = [[0, words.length]];
    for (let depth = 0; level.length > 0; depth++) {
      const next: typeof level = [];
      for (const [from, to] of level) {
        let at = from;
        const ends = depth > 0 && words[at].length === depth;
        steps.push(ends ? Math.max(1, Math.min(255, Math.round(costs[at++] * COST_STEPS))) : 0);
        let mask = 0;
        while (at < to) {
          const letter = words[at].charCodeAt(depth);
          const begin = at;
          while (at < to && words[at].charCodeAt(depth) === letter) at++;
          mask |= 1 << (letter - LETTERS_A);
          next.push([begin, at]);
        }
        masks.push(mask);
      }
      level = next;
    }
    return new Lexicon(Uint32Array.from(masks), Uint8Array.from(steps));
  }

  /** The node that a letter (0 to 25) leads to from another, 0 being the first; -1: no word goes on so. */
  next(node: number, letter: number): number {
    const mask = this.masks[node];
    const bit = 1 << letter;
    return (mask & bit) === 0 ? -1 : this.firsts[node] + bits(mask & (bit - 1));
  }

  /** Infinite for a word that is not known. */
  costOf(word: string): number {
    let node = 0;
    for (let i = 0; i < word.length; i++) {
      const letter = word.charCodeAt(i) - LETTERS_A;
      node = letter >= 0 && letter < 26 ? this.next(node, letter) : -1;
      if (node < 0) return Number.POSITIVE_INFINITY;
    }
    return this.costs[node];
  }
}

/** How many bits are set in 32 (Warren, Hacker's Delight). */
export function bits(mask: number): number {
  let n = mask - ((mask >>> 1) & 0x55555555);
  n = (n & 0x33333333) + ((n >>> 2) & 0x33333333);
  return (((n + (n >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24;
}

/** Two letters that stand for one in names without signs. */
const WRITTEN_OUT: Partial<Record<LexiconLanguage, Record<string, string>>> = {
  de: { ä: 'ae', ö: 'oe', ü: 'ue' },
};
const LIGATURES: Record<string, string> = {
  ß: 'ss',
  æ: 'ae',
  œ: 'oe',
  ø: 'o',
  ł: 'l',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ı: 'i',
};

/** How a word is written in letters a to z: without its signs and, in German, with them written out as well. */
export function foldWord(word: string, language: LexiconLanguage): string[] {
  const lower = word.toLowerCase();
  if (/^[a-z]*$/.test(lower)) return [lower];
  const forms = new Set([foldLetters(lower)]);
  const out = WRITTEN_OUT[language];
  if (out) forms.add(foldLetters(lower.replace(/[äöü]/g, (letter) => out[letter])));
  return [...forms];
}

/** Letters without their signs, ligatures as two. */
export function foldLetters(text: string): string {
  return text
    .replace(/[ßæœøłđðþı]/g, (letter) => LIGATURES[letter])
    .normalize('NFD')
    .replace(/\p{M}/gu, '');
}
