import { SUBJECTS } from './subjects';

/** Number of the class of pages that say nothing; those before it are the subjects, in their order. */
export const NOTHING_NUMBER = SUBJECTS.length;
/** Weights are kept in steps of so much, natural log. */
const STEP = 0.05;
const MOST_STEPS = 255;

/** What a word says: weights by subject number (`NOTHING_NUMBER`: of pages that say nothing), over what it says of all others. */
export interface Telling {
  subjects: Uint8Array;
  weights: Float32Array;
}

/** A word in letters of ASCII: marks of letters taken away. */
export function foldTerm(word: string): string {
  if (/^[\x20-\x7e]*$/.test(word)) return word;
  return word.replace(/ß/g, 'ss').replace(/œ/g, 'oe').replace(/æ/g, 'ae').normalize('NFD').replace(/\p{M}/gu, '');
}

/** Words of a language with the subjects that they speak for. */
export class SubjectTable {
  private readonly places = new Map<string, number>();

  private constructor(
    keys: readonly string[],
    private readonly starts: Uint32Array,
    private readonly entries: Uint8Array,
  ) {
    for (let n = 0; n < keys.length; n++) this.places.set(keys[n], n);
  }

  get size(): number {
    return this.places.size;
  }

  keys(): IterableIterator<string> {
    return this.places.keys();
  }

  has(key: string): boolean {
    return this.places.has(key);
  }

  /** @param key as `foldTerm` and `singular` give it. */
  find(key: string): Telling | null {
    const place = this.places.get(key);
    if (place === undefined) return null;
    const start = this.starts[place];
    const many = this.starts[place + 1] - start;
    const subjects = new Uint8Array(many);
    const weights = new Float32Array(many);
    for (let n = 0; n < many; n++) {
      subjects[n] = this.entries[2 * (start + n)];
      weights[n] = this.entries[2 * (start + n) + 1] * STEP;
    }
    return { subjects, weights };
  }

  /** @param words in any order; weights above 12.75 are cut to it. */
  static pack(words: ReadonlyMap<string, readonly (readonly [subject: number, weight: number])[]>): Uint8Array {
    const keys = [...words.keys()].sort();
    const text = new TextEncoder().encode(keys.join('\n'));
    const counts = new Uint8Array(keys.length);
    const entries: number[] = [];
    for (const [n, key] of keys.entries()) {
      const told = words.get(key) ?? [];
      counts[n] = told.length;
      for (const [subject, weight] of told)
        entries.push(subject, Math.max(1, Math.min(MOST_STEPS, Math.round(weight / STEP))));
    }
    const bytes = new Uint8Array(8 + text.length + counts.length + entries.length);
    const view = new DataView(bytes.buffer);
    view.setUint32(0, text.length);
    view.setUint32(4, keys.length);
    bytes.set(text, 8);
    bytes.set(counts, 8 + text.length);
    bytes.set(entries, 8 + text.length + counts.length);
    return bytes;
  }

  /** @throws when it is no such table. */
  static unpack(bytes: Uint8Array): SubjectTable {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const textLength = view.getUint32(0);
    const many = view.getUint32(4);
    const keys = new TextDecoder().decode(bytes.subarray(8, 8 + textLength)).split('\n');
    const counts = bytes.subarray(8 + textLength, 8 + textLength + many);
    const starts = new Uint32Array(many + 1);
    for (let n = 0; n < many; n++) starts[n + 1] = starts[n] + counts[n];
    const entries = bytes.slice(8 + textLength + many);
    if (keys.length !== many || entries.length !== 2 * starts[many]) throw new Error('This is no table of subjects');
    return new SubjectTable(keys, starts, entries);
  }
}
