import type { PoolColumns } from './columns';

/** What may stand in a label: a to z, 0 to 9, hyphen; everything else is one symbol that no needle has. */
const SYMBOLS = 38;
const HYPHEN = 45;
const SYMBOL = new Uint8Array(256);
for (let i = 0; i < 26; i++) SYMBOL[97 + i] = SYMBOL[65 + i] = 1 + i;
for (let i = 0; i < 10; i++) SYMBOL[48 + i] = 27 + i;
SYMBOL[HYPHEN] = 37;

/** Whether a find counts, by where it lies in `nameBytes`. */
export type Accept = (row: number, start: number, end: number) => boolean;

/**
 * Many letter sequences looked for at once: the automaton of Aho and Corasick (1975), so that a name costs one step a letter
 * however many are looked for. Needles with letters that no label has are never found.
 */
export class Needles {
  private next: Int32Array;
  /** Length of the needle that ends at a node; 0: none. */
  private length: Uint8Array;
  /** Nearest shorter node that ends a needle, 0: none. */
  private shorter: Int32Array;
  private nodes = 1;

  /** @param isReversed the needles are laid in from their ends, for `ends`. */
  constructor(
    needles: Iterable<string>,
    private readonly isReversed = false,
  ) {
    const list = [...needles]
      .map((needle) => needle.toLowerCase())
      .filter((needle) => needle !== '' && isPlain(needle));
    const room = 1 + list.reduce((sum, needle) => sum + needle.length, 0);
    this.next = new Int32Array(SYMBOLS * room);
    this.length = new Uint8Array(room);
    this.shorter = new Int32Array(room);
    for (const needle of list) this.add(needle);
    if (!isReversed) this.link();
  }

  private add(needle: string): void {
    let node = 0;
    for (let i = 0; i < needle.length; i++) {
      const at = node * SYMBOLS + SYMBOL[needle.charCodeAt(this.isReversed ? needle.length - 1 - i : i)];
      if (this.next[at] === 0) this.next[at] = this.nodes++;
      node = this.next[at];
    }
    this.length[node] = needle.length;
  }

  /** Fills in where to go on after a letter that does not fit. `starts` and `is` stop there instead and use `depth`. */
  private link(): void {
    const { next, length, shorter } = this;
    this.tree = next.slice();
    const fail = new Int32Array(this.nodes);
    const queue: number[] = [];
    for (let s = 0; s < SYMBOLS; s++) if (next[s] > 0) queue.push(next[s]);
    for (let at = 0; at < queue.length; at++) {
      const node = queue[at];
      const back = fail[node];
      shorter[node] = length[back] > 0 ? back : shorter[back];
      for (let s = 0; s < SYMBOLS; s++) {
        const child = next[node * SYMBOLS + s];
        if (child > 0) {
          fail[child] = next[back * SYMBOLS + s];
          queue.push(child);
        } else next[node * SYMBOLS + s] = next[back * SYMBOLS + s];
      }
    }
  }

  /** The tree alone, without the links back. */
  private tree: Int32Array = new Int32Array(0);

  /** Sets the bits of rows from `first` on whose label holds a needle that `accept` takes. */
  mark(columns: PoolColumns, hits: Uint32Array, first: number, accept?: Accept): void {
    const { nameBytes, nameStart, labelLength, count } = columns;
    const { next, length, shorter } = this;
    for (let row = first; row < count; row++) {
      const start = nameStart[row];
      const end = start + labelLength[row];
      let node = 0;
      search: for (let at = start; at < end; at++) {
        node = next[node * SYMBOLS + SYMBOL[nameBytes[at]]];
        if (length[node] === 0 && shorter[node] === 0) continue;
        for (let found = length[node] > 0 ? node : shorter[node]; found > 0; found = shorter[found]) {
          if (accept && !accept(row, at + 1 - length[found], at + 1)) continue;
          hits[row >> 5] |= 1 << (row & 31);
          break search;
        }
      }
    }
  }

  /** The same for labels that begin with a needle, end with one (of a reversed tree) or are one. */
  markAnchored(columns: PoolColumns, hits: Uint32Array, first: number, mode: 'starts' | 'ends' | 'is'): void {
    const { nameBytes, nameStart, labelLength, count } = columns;
    const { length } = this;
    const tree = this.isReversed ? this.next : this.tree;
    for (let row = first; row < count; row++) {
      const size = labelLength[row];
      const start = nameStart[row];
      let node = 0;
      for (let i = 0; i < size; i++) {
        node = tree[node * SYMBOLS + SYMBOL[nameBytes[this.isReversed ? start + size - 1 - i : start + i]]];
        if (node === 0) break;
        if (length[node] > 0 && (mode !== 'is' || i === size - 1)) {
          hits[row >> 5] |= 1 << (row & 31);
          break;
        }
      }
    }
  }
}

function isPlain(needle: string): boolean {
  for (let i = 0; i < needle.length; i++)
    if (needle.charCodeAt(i) > 127 || SYMBOL[needle.charCodeAt(i)] === 0) return false;
  return needle.length < 64;
}

/** One native scan over the names from row `first` on; a find counts when it lies wholly inside a label. */
export function scanForNeedle(
  columns: PoolColumns,
  needle: string,
  hits: Uint32Array,
  first: number,
  accept?: Accept,
): void {
  const { nameStart, labelLength, count } = columns;
  const end = nameStart[count];
  const bytes = Buffer.from(columns.nameBytes.buffer, columns.nameBytes.byteOffset, end);
  const sought = Buffer.from(needle.toLowerCase(), 'latin1');
  if (sought.length === 0 || !isPlain(needle)) return;
  for (
    let at = bytes.indexOf(sought, nameStart[first]), row = first;
    at >= 0 && at < end;
    at = bytes.indexOf(sought, at)
  ) {
    row = rowAt(nameStart, count, at, row);
    const stop = at + sought.length;
    if (stop <= nameStart[row] + labelLength[row] && (!accept || accept(row, at, stop))) {
      hits[row >> 5] |= 1 << (row & 31);
      at = nameStart[row + 1];
    } else at++;
  }
}

/** Row whose name holds byte `at`; `from` is a row at or before it. Gallops, then halves. */
function rowAt(nameStart: Uint32Array, count: number, at: number, from: number): number {
  let low = from;
  let step = 1;
  while (low + step < count && nameStart[low + step] <= at) {
    low += step;
    step *= 2;
  }
  let high = Math.min(count, low + step);
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (nameStart[middle] <= at) low = middle;
    else high = middle;
  }
  return low;
}

/** The word of the row's split, which must have been made, that the letters from `start` to `end` lie in; null: in more than one. */
export function wordAround(columns: PoolColumns, row: number, start: number, end: number): string | null {
  const { nameBytes, nameStart, labelLength, splits } = columns;
  const low = splits[2 * row];
  const high = splits[2 * row + 1];
  const begins = (at: number) => ((at < 32 ? low >>> at : high >>> (at - 32)) & 1) === 1;
  const label = nameStart[row];
  let from = start - label;
  let to = end - label;
  for (let at = from + 1; at < to; at++) if (begins(at)) return null;
  while (from > 0 && !begins(from)) from--;
  if (!begins(from)) return null;
  while (to < labelLength[row] && !begins(to) && nameBytes[label + to] !== HYPHEN) to++;
  let word = '';
  for (let at = from; at < to; at++) word += String.fromCharCode(nameBytes[label + at]);
  return word;
}

/** Those needles without which nothing would be missed: what holds another is found with it. */
export function shortestOf(needles: readonly string[]): string[] {
  const shortest: string[] = [];
  for (const needle of [...new Set(needles)].sort((a, b) => a.length - b.length))
    if (needle !== '' && !shortest.some((other) => needle.includes(other))) shortest.push(needle);
  return shortest;
}
