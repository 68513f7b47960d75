import { diffArrays, diffWords } from 'diff';
import type { PageBlock } from './outline';

/** A piece of text that both pages have, or one of them. */
export interface WordChange {
  text: string;
  in: 'both' | 'first' | 'second';
}

/** Blocks that stand side by side. */
export interface BlockPair {
  first: PageBlock | null;
  second: PageBlock | null;
  /** same: the same words in both; changed: another text in the same place; else only one page has it. */
  change: 'same' | 'changed' | 'first' | 'second';
  /** Of a changed pair, its words. */
  words: WordChange[] | null;
}

export interface PageChanges {
  pairs: BlockPair[];
  /** Share of the blocks of both that are the same, 0 to 1. */
  sameRatio: number;
}

/** Pairs with more text than this are not compared word by word. */
const MOST_CHARS = 4000;
/** Edits looked for before two pages are taken for quite different ones: what nobody would read is not worth seconds. */
const MOST_EDITS = 1200;
const keyOf = (block: PageBlock) => `${block.kind} ${block.level} ${block.text}`;

/** Two pages side by side (Myers 1986, by the `diff` library): blocks first, then the words of those that took another's place. */
export function comparePages(first: readonly PageBlock[], second: readonly PageBlock[]): PageChanges {
  const parts = diffArrays(first.map(keyOf), second.map(keyOf), { maxEditLength: MOST_EDITS }) ?? [
    { value: first.map(keyOf), removed: true, added: false },
    { value: second.map(keyOf), removed: false, added: true },
  ];
  const pairs: BlockPair[] = [];
  let [a, b] = [0, 0];
  let same = 0;
  for (let n = 0; n < parts.length; n++) {
    const part = parts[n];
    const next = parts[n + 1];
    if (!part.removed && !part.added) {
      for (let i = 0; i < part.value.length; i++)
        pairs.push({ first: first[a++], second: second[b++], change: 'same', words: null });
      same += part.value.length;
    } else if (next && part.removed !== next.removed && part.added !== next.added && (next.added || next.removed)) {
      const [gone, come] = part.removed
        ? [part.value.length, next.value.length]
        : [next.value.length, part.value.length];
      pairs.push(...replaced(first.slice(a, a + gone), second.slice(b, b + come)));
      a += gone;
      b += come;
      n++;
    } else if (part.removed)
      for (let i = 0; i < part.value.length; i++)
        pairs.push({ first: first[a++], second: null, change: 'first', words: null });
    else
      for (let i = 0; i < part.value.length; i++)
        pairs.push({ first: null, second: second[b++], change: 'second', words: null });
  }
  const all = first.length + second.length;
  return { pairs, sameRatio: all === 0 ? 1 : (2 * same) / all };
}

/** What went and what came in its place, paired while both are of one kind. */
function replaced(gone: readonly PageBlock[], come: readonly PageBlock[]): BlockPair[] {
  const pairs: BlockPair[] = [];
  for (let i = 0; i < Math.max(gone.length, come.length); i++) {
    const [first, second] = [gone[i] ?? null, come[i] ?? null];
    if (first && second && first.kind === second.kind)
      pairs.push({ first, second, change: 'changed', words: wordsOf(first.text, second.text) });
    else {
      if (first) pairs.push({ first, second: null, change: 'first', words: null });
      if (second) pairs.push({ first: null, second, change: 'second', words: null });
    }
  }
  return pairs;
}

function wordsOf(first: string, second: string): WordChange[] {
  const parts = first.length + second.length > MOST_CHARS ? undefined : diffWords(first, second);
  if (!parts)
    return [
      { text: first, in: 'first' },
      { text: second, in: 'second' },
    ];
  return parts.map(({ value, added, removed }) => ({ text: value, in: added ? 'second' : removed ? 'first' : 'both' }));
}
