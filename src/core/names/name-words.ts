import { foldLetters, type LexiconLanguage } from './lexicon';
import type { Split, Splitter, WordSplitter } from './word-split';

/** What a language costs that was not asked for, where some were and where none was: it has to suit a name so much better. */
const NOT_ASKED_FOR = { some: 8, none: 6 };

/**
 * Splits names in several languages: each is split by the words of each, and the cheapest is taken. The languages of a brief come before
 * others.
 */
export class NameWords implements Splitter {
  private readonly mask = new Uint32Array(2);

  /**
   * @param splitters by language, at least one; those not in `asked` are taken only for names that suit them much better.
   * @param which whether somebody asked for some languages, or for none and `asked` is what is always read.
   */
  constructor(
    private readonly splitters: ReadonlyMap<LexiconLanguage, WordSplitter>,
    private readonly asked: ReadonlySet<LexiconLanguage>,
    private readonly which: keyof typeof NOT_ASKED_FOR = 'some',
  ) {}

  starts(bytes: Uint8Array, start: number, end: number, into: Uint32Array, at: number): void {
    if (this.splitters.size === 1) {
      for (const splitter of this.splitters.values()) splitter.starts(bytes, start, end, into, at);
      return;
    }
    let least = Number.POSITIVE_INFINITY;
    for (const [language, splitter] of this.splitters) {
      const cost = splitter.mark(bytes, start, end, this.mask, 0) + this.extra(language);
      if (cost >= least) continue;
      least = cost;
      into[at] = this.mask[0];
      into[at + 1] = this.mask[1];
    }
  }

  split(label: string): Split {
    return this.read(label).split;
  }

  /** A label, also one in letters beyond ASCII, with the language that its words suit. */
  read(label: string): { split: Split; language: LexiconLanguage } {
    if (/^[a-z\d-]*$/.test(label)) return this.readPlain(label);
    const { folded, from } = foldLabel(label);
    const { split, language } = this.readPlain(folded);
    return { split: unfold(split, label, from), language };
  }

  /** @param label letters a to z, figures and hyphens. */
  private readPlain(label: string): { split: Split; language: LexiconLanguage } {
    let [chosen] = this.splitters;
    if (this.splitters.size > 1) {
      const bytes = new Uint8Array(label.length);
      for (let i = 0; i < label.length; i++) bytes[i] = label.charCodeAt(i) & 0x7f;
      let least = Number.POSITIVE_INFINITY;
      for (const one of this.splitters) {
        const cost = one[1].mark(bytes, 0, bytes.length, this.mask, 0) + this.extra(one[0]);
        if (cost < least) [chosen, least] = [one, cost];
      }
    }
    const [language, splitter] = chosen;
    return { split: splitter.split(label), language };
  }

  knows(word: string): boolean {
    for (const splitter of this.splitters.values()) if (splitter.knows(word)) return true;
    return false;
  }

  costOfWord(word: string): number {
    let least = Number.POSITIVE_INFINITY;
    for (const [language, splitter] of this.splitters)
      least = Math.min(least, splitter.costOfWord(word) + this.extra(language));
    return least;
  }

  private extra(language: LexiconLanguage): number {
    return this.asked.has(language) ? 0 : NOT_ASKED_FOR[this.which];
  }
}

/** A label in letters a to z, with where each of them stands in it. */
function foldLabel(label: string): { folded: string; from: number[] } {
  let folded = '';
  const from: number[] = [];
  let at = 0;
  for (const letter of label) {
    const plain = foldLetters(letter.toLowerCase());
    for (let i = 0; i < plain.length; i++) from.push(at);
    folded += plain;
    at += letter.length;
  }
  return { folded, from };
}

/** The words as they stand in the label. */
function unfold({ words, starts, runnerUp, confidence }: Split, label: string, from: readonly number[]): Split {
  const stand = (pieces: readonly string[], at: readonly number[]) =>
    pieces.map((piece, n) => label.slice(from[at[n]], from[at[n] + piece.length] ?? label.length));
  return {
    words: stand(words, starts),
    starts: starts.map((at) => from[at]),
    runnerUp: runnerUp && stand(runnerUp, startsOf(runnerUp, words, starts)),
    confidence,
  };
}

/** Where pieces begin that are made of the same letters as words: hyphens between those stand between these too. */
function startsOf(pieces: readonly string[], words: readonly string[], starts: readonly number[]): number[] {
  const places = words.flatMap((word, n) => Array.from(word, (_, i) => starts[n] + i));
  let at = 0;
  return pieces.map((piece) => {
    const begin = places[at];
    at += piece.length;
    return begin;
  });
}
