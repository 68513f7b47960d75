import { bitsIn } from './bits';
import type { Condition, GroupMode, SievePart } from './conditions';
import type { TogetherBits } from './offer-passes';
import type { RowBits } from './range-marks';

/** What one part of a sieve does. */
export interface PartCounts {
  /** Where it stands: `2`, `2.0`. */
  path: string;
  /** Rows that the parts before it let through to it. */
  reaching: number;
  /** Rows left after it and all before it; in an `any` group, rows let through by it or one before it. */
  remaining: number;
  /** Rows it keeps out of those that reach it; in an `any` group, rows it adds. */
  removes: number;
  /** Without it, so many more rows would pass the whole sieve; negative: fewer, since they pass by it alone. */
  alone: number;
  /** Of the rows that reach it, those whose value is not known; null where every value is. */
  unknown: number | null;
}

export interface Counted {
  rows: RowBits;
  total: number;
  parts: PartCounts[];
}

/** How the parts of a sieve are evaluated. */
export interface Evaluation {
  /** Rows a condition lets through. */
  of(condition: Condition): RowBits;
  /** Rows whose value is unknown; null where every value is known. */
  unknownOf(condition: Condition): RowBits | null;
  /** Of conditions on offers that stand together in an `all` group, where one offer has to have all of it. */
  togetherOf?(part: SievePart): TogetherBits | null;
  /** Words of 32 rows. */
  blocks: number;
}

/** Takes in rows that reach a part, some blocks at a time. */
export interface Tally {
  /** @param rows word w stands for block `from` + w. */
  add(rows: RowBits, from: number, blocks: number): void;
}

/** So many blocks are counted through all parts before the next, so that what lies between stays in the cache. */
const AT_ONCE = 2048;
const NOTHING = new Uint32Array(AT_ONCE);

/**
 * Counts what each part of a sieve does, and which rows pass it as a whole. A part that is off counts nothing and changes nothing.
 *
 * `alone` needs no second evaluation of the whole: for every part the rows are kept whose fate it decides (all other parts of an
 * `all` group pass, none of the others of an `any` or `none` group does), from the outside inwards.
 *
 * @param tallies told, by path, of the rows that reach a part.
 */
export function countParts(
  parts: SievePart[],
  pool: RowBits,
  evaluation: Evaluation,
  tallies: ReadonlyMap<string, Tally> = new Map(),
): Counted {
  const { blocks } = evaluation;
  const counts = new Map<string, PartCounts>();
  const rows = new Uint32Array(blocks);
  const counter = new Counter(evaluation, counts, tallies);
  for (let from = 0; from < Math.max(1, blocks); from += AT_ONCE)
    counter.countBlocks(parts, pool, rows, from, Math.min(blocks, from + AT_ONCE));
  return { rows, total: size(rows, blocks), parts: [...counts.values()] };
}

class Counter {
  private readonly known = new Map<SievePart, RowBits>();
  private readonly spare: RowBits[] = [];
  private used = 0;
  private from = 0;
  private n = 0;

  constructor(
    private readonly evaluation: Evaluation,
    private readonly counts: Map<string, PartCounts>,
    private readonly tallies: ReadonlyMap<string, Tally>,
  ) {}

  countBlocks(parts: SievePart[], pool: RowBits, rows: RowBits, from: number, to: number): void {
    this.from = from;
    this.n = to - from;
    this.used = 0;
    this.known.clear();
    const reach = pool.subarray(from, to);
    rows.set(this.and(reach, this.groupPasses('all', parts)).subarray(0, this.n), from);
    this.count('all', parts, '', reach, reach, 1);
  }

  /** Rows a part lets through by itself. */
  private passes(part: SievePart): RowBits {
    let bits = this.known.get(part);
    if (!bits) {
      bits =
        part.type === 'group'
          ? this.groupPasses(part.mode, part.parts)
          : this.evaluation.of(part).subarray(this.from, this.from + this.n);
      this.known.set(part, bits);
    }
    return bits;
  }

  private groupPasses(mode: GroupMode, parts: SievePart[]): RowBits {
    const on = parts.filter((part) => !part.off).map((part) => this.passes(part));
    if (on.length === 0) return this.take().fill(0xffffffff);
    let bits = on[0];
    for (const other of on.slice(1)) bits = mode === 'all' ? this.and(bits, other) : this.or(bits, other);
    return mode === 'none' ? this.andNot(this.take().fill(0xffffffff), bits) : bits;
  }

  /**
   * @param reach rows that reach the first of `parts`.
   * @param decided rows whose fate in the whole sieve is that of this group.
   * @param sign 1: what passes the group passes the sieve; -1: what passes it is kept out.
   */
  private count(
    mode: GroupMode,
    parts: SievePart[],
    above: string,
    reach: RowBits,
    decided: RowBits,
    sign: 1 | -1,
  ): void {
    const { n } = this;
    const on = parts.filter((part) => !part.off);
    // what the parts before and behind each one make of a row, so that leaving one out costs nothing extra
    const before = this.running(mode, on);
    const behind = this.running(mode, [...on].reverse());
    const inner = mode === 'none' ? (-sign as 1 | -1) : sign;
    let place = 0;
    let soFar = reach;
    let reaching = size(reach, n);
    let passedBefore = 0;
    parts.forEach((part, index) => {
      const path = above === '' ? String(index) : `${above}.${index}`;
      this.tallies.get(path)?.add(soFar, this.from, n);
      const entry = this.entry(path);
      entry.reaching += reaching;
      if (part.off) {
        entry.remaining += mode === 'any' ? passedBefore : reaching;
        if (part.type === 'group') this.count(part.mode, part.parts, path, soFar, this.take().fill(0), inner);
        return;
      }
      const bits = this.passes(part);
      const first = before[place] ?? (mode === 'all' ? decided : null);
      const rest = behind[on.length - 1 - place] ?? (mode === 'all' ? decided : null);
      const together = mode === 'all' ? this.evaluation.togetherOf?.(part) : null;
      if (together) entry.alone += sign * this.failedTogether(decided, on, together);
      else if (mode === 'all') entry.alone += sign * failedByOne(decided, first ?? decided, rest ?? decided, bits, n);
      // an `any` group without parts lets everything through
      else if (mode === 'any' && on.length === 1) entry.alone += sign * failedByOne(decided, decided, decided, bits, n);
      else {
        const kept = passedByOne(decided, first ?? NOTHING, rest ?? NOTHING, bits, n);
        entry.alone += mode === 'any' ? -sign * kept : sign * kept;
      }
      const after = this.after(mode, soFar, reach, before[place], bits);
      const remaining = size(after, n);
      entry.remaining += remaining;
      entry.removes += mode === 'any' ? remaining - passedBefore : reaching - remaining;
      if (part.type === 'group') {
        const others = this.others(mode, before[place], behind[on.length - 1 - place]);
        // rows that the other parts leave to this one
        const mine = mode === 'all' ? this.and(decided, others) : this.andNot(decided, others);
        this.count(part.mode, part.parts, path, soFar, mine, inner);
      } else {
        const unknown = this.evaluation.unknownOf(part)?.subarray(this.from, this.from + n);
        if (unknown) entry.unknown = (entry.unknown ?? 0) + sizeOfAnd(soFar, unknown, n);
      }
      if (mode === 'any') passedBefore = remaining;
      else {
        soFar = after;
        reaching = remaining;
      }
      place++;
    });
  }

  /** Rows that all else passes, and the conditions it stands together with without it, but not with it. */
  private failedTogether(decided: RowBits, on: SievePart[], { members, whole, without }: TogetherBits): number {
    const part = (bits: RowBits) => bits.subarray(this.from, this.from + this.n);
    const others = on
      .filter((other) => !members.has(other))
      .reduce((bits, other) => this.and(bits, this.passes(other)), decided);
    return failedByOne(decided, others, part(without), part(whole), this.n);
  }

  /** Rows left behind a part. */
  private after(mode: GroupMode, soFar: RowBits, reach: RowBits, before: RowBits | null, bits: RowBits): RowBits {
    if (mode === 'all') return this.and(soFar, bits);
    if (mode === 'none') return this.andNot(soFar, bits);
    return this.and(reach, before ? this.or(before, bits) : bits);
  }

  private entry(path: string): PartCounts {
    let entry = this.counts.get(path);
    if (!entry) {
      entry = { path, reaching: 0, remaining: 0, removes: 0, alone: 0, unknown: null };
      this.counts.set(path, entry);
    }
    return entry;
  }

  /** For each part what those before it make together; null before the first. */
  private running(mode: GroupMode, parts: SievePart[]): (RowBits | null)[] {
    const all: (RowBits | null)[] = [];
    let last: RowBits | null = null;
    for (const part of parts) {
      all.push(last);
      const bits = this.passes(part);
      last = last ? (mode === 'all' ? this.and(last, bits) : this.or(last, bits)) : bits;
    }
    return all;
  }

  /** What the parts before and behind make together; where there is none of either, nobody else decides. */
  private others(mode: GroupMode, before: RowBits | null, behind: RowBits | null): RowBits {
    if (before && behind) return mode === 'all' ? this.and(before, behind) : this.or(before, behind);
    return before ?? behind ?? this.take().fill(mode === 'all' ? 0xffffffff : 0);
  }

  /** An array of some blocks, good until the next ones are counted. */
  private take(): RowBits {
    if (this.used === this.spare.length) this.spare.push(new Uint32Array(AT_ONCE));
    return this.spare[this.used++];
  }

  private and(a: RowBits, b: RowBits): RowBits {
    const bits = this.take();
    for (let w = 0; w < this.n; w++) bits[w] = a[w] & b[w];
    return bits;
  }
  private andNot(a: RowBits, b: RowBits): RowBits {
    const bits = this.take();
    for (let w = 0; w < this.n; w++) bits[w] = a[w] & ~b[w];
    return bits;
  }
  private or(a: RowBits, b: RowBits): RowBits {
    const bits = this.take();
    for (let w = 0; w < this.n; w++) bits[w] = a[w] | b[w];
    return bits;
  }
}

/** How many rows. */
export function size(bits: RowBits, blocks: number): number {
  let sum = 0;
  for (let w = 0; w < blocks; w++) sum += bitsIn(bits[w]);
  return sum;
}
function sizeOfAnd(a: RowBits, b: RowBits, blocks: number): number {
  let sum = 0;
  for (let w = 0; w < blocks; w++) sum += bitsIn(a[w] & b[w]);
  return sum;
}

/** Rows that all others pass and this one does not. */
function failedByOne(decided: RowBits, before: RowBits, behind: RowBits, bits: RowBits, blocks: number): number {
  let sum = 0;
  for (let w = 0; w < blocks; w++) sum += bitsIn(decided[w] & before[w] & behind[w] & ~bits[w]);
  return sum;
}
/** Rows that this one has and none of the others. */
function passedByOne(decided: RowBits, before: RowBits, behind: RowBits, bits: RowBits, blocks: number): number {
  let sum = 0;
  for (let w = 0; w < blocks; w++) sum += bitsIn(decided[w] & bits[w] & ~(before[w] | behind[w]));
  return sum;
}

/** Numbers of the rows, ascending. */
export function rowsOf(bits: RowBits, blocks: number, total: number): Uint32Array {
  const rows = new Uint32Array(total);
  let at = 0;
  for (let w = 0; w < blocks; w++) {
    const base = w << 5;
    for (let word = bits[w]; word !== 0; word &= word - 1) rows[at++] = base + 31 - Math.clz32(word & -word);
  }
  return rows;
}
