/** What a fact with more different words than codes calls those that came last. */
export const OTHERS = '(others)';

const MAX_WORDS = 0xffff;

/** Words by code; code 0 is "not known". */
export class Dictionary {
  readonly words: string[] = [''];
  private readonly codes = new Map<string, number>();

  codeOf(word: string | null): number {
    if (word === null) return 0;
    let code = this.codes.get(word);
    if (code === undefined) {
      code = this.words.length;
      if (code === MAX_WORDS && word !== OTHERS) return this.codeOf(OTHERS);
      this.words.push(word);
      this.codes.set(word, code);
    }
    return code;
  }

  /** Code of a word, or -1 when no row has it. */
  find(word: string): number {
    return this.codes.get(word) ?? -1;
  }

  /** Codes of a word however it is written, with capitals or without. */
  findAll(word: string): number[] {
    const exact = this.codes.get(word);
    if (exact !== undefined) return [exact];
    const lower = word.toLowerCase();
    return this.words.flatMap((other, code) => (code > 0 && other.toLowerCase() === lower ? [code] : []));
  }
}
