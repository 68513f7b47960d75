import { isChoiceFact, isNumberFact, isTimeFact, type PoolColumns } from './columns';
import { type Condition, MAX_CONDITIONS, type TextMode } from './conditions';
import { countsBackwards, timeBound } from './facts';

/**
 * Which conditions each row fails, kept from question to question: bit k of a row's mask for condition k. While a handle is
 * dragged all conditions but one stay the same, so only that one is asked again.
 */
export class FailureMarks {
  private failed = new Int32Array(0);
  private version = -1;
  /** The conditions that the masks stand for, as text. */
  private marked: string[] = [];
  private readonly textHits: TextHits;

  constructor(private readonly columns: PoolColumns) {
    this.textHits = new TextHits(columns);
  }

  /**
   * @param nowSeconds what "years ago" and "hours from now" count from. A condition on time is asked again every minute.
   * @returns one mask a row, at least `columns.count` of them; good until the next call.
   * @throws RangeError for more than MAX_CONDITIONS conditions.
   */
  mark(conditions: Condition[], nowSeconds: number): Int32Array {
    if (conditions.length > MAX_CONDITIONS) throw new RangeError(`at most ${MAX_CONDITIONS} conditions`);
    const { columns } = this;
    const minute = Math.floor(nowSeconds / 60);
    const asked = conditions.map((condition) => JSON.stringify([condition, isTimeFact(condition.fact) ? minute : 0]));
    if (this.version !== columns.version || this.marked.length !== asked.length) {
      if (this.failed.length < columns.count) this.failed = new Int32Array(Math.ceil(columns.count * 1.25));
      else this.failed.fill(0, 0, columns.count);
      this.marked = [];
      this.version = columns.version;
    }
    conditions.forEach((condition, index) => {
      if (asked[index] !== this.marked[index]) this.markOne(condition, index, nowSeconds);
    });
    this.marked = asked;
    return this.failed;
  }

  private markOne(condition: Condition, index: number, now: number): void {
    const { columns, failed } = this;
    if (condition.type === 'range') markRange(columns, condition, now, failed, index);
    else if (condition.type === 'choice') markChoice(columns, condition, failed, index);
    else if (condition.type === 'member') markMember(columns, condition, failed, index);
    else {
      const hits = this.textHits.of(condition);
      const failOn = condition.not ? 1 : 0;
      const others = ~(1 << index);
      for (let row = 0; row < columns.count; row++)
        failed[row] = (failed[row] & others) | (+(hits[row] === failOn) << index);
    }
  }
}

type Of<T extends Condition['type']> = Extract<Condition, { type: T }>;

function markRange(columns: PoolColumns, condition: Of<'range'>, now: number, failed: Int32Array, index: number): void {
  const { fact, keepUnknown } = condition;
  const count = columns.count;
  const others = ~(1 << index);
  // the tests are written without branches: which rows pass is nowhere near predictable
  if (isNumberFact(fact)) {
    const values = columns.numbers[fact];
    // the column is 32 bits wide, so the bounds are rounded the same way the values were
    const min = condition.min === null ? Number.NEGATIVE_INFINITY : Math.fround(condition.min);
    const max = condition.max === null ? Number.POSITIVE_INFINITY : Math.fround(condition.max);
    if (keepUnknown) {
      for (let row = 0; row < count; row++) {
        const value = values[row];
        failed[row] = (failed[row] & others) | ((+(value < min) | +(value > max)) << index);
      }
    } else {
      for (let row = 0; row < count; row++) {
        const value = values[row];
        failed[row] = (failed[row] & others) | ((1 ^ (+(value >= min) & +(value <= max))) << index);
      }
    }
    return;
  }
  if (!isTimeFact(fact)) return;
  const values = columns.times[fact];
  const backwards = countsBackwards(fact);
  const low = backwards ? condition.max : condition.min;
  const high = backwards ? condition.min : condition.max;
  const min = low === null ? 1 : timeBound(fact, low, now);
  const max = high === null ? 0xffffffff : timeBound(fact, high, now);
  const unknown = keepUnknown ? 0 : 1;
  for (let row = 0; row < count; row++) {
    const value = values[row];
    const isUnknown = +(value === 0);
    const fails = (isUnknown & unknown) | ((1 ^ isUnknown) & (+(value < min) | +(value > max)));
    failed[row] = (failed[row] & others) | (fails << index);
  }
}

function markChoice(columns: PoolColumns, condition: Of<'choice'>, failed: Int32Array, index: number): void {
  if (!isChoiceFact(condition.fact)) return;
  const codes = columns.choices[condition.fact];
  const dictionary = columns.dictionaries[condition.fact];
  const fails = new Uint8Array(dictionary.words.length).fill(condition.not ? 0 : 1);
  for (const value of condition.values) {
    const code = dictionary.find(value);
    if (code >= 0) fails[code] = condition.not ? 1 : 0;
  }
  const count = columns.count;
  const others = ~(1 << index);
  for (let row = 0; row < count; row++) failed[row] = (failed[row] & others) | (fails[codes[row]] << index);
}

function markMember(columns: PoolColumns, condition: Of<'member'>, failed: Int32Array, index: number): void {
  const sets = condition.values.flatMap((source) => columns.members.get(source) ?? []);
  const count = columns.count;
  const others = ~(1 << index);
  for (let row = 0; row < count; row++) {
    const byte = row >> 3;
    const mask = 1 << (row & 7);
    let found = false;
    for (const bits of sets) if (byte < bits.length && (bits[byte] & mask) !== 0) found = true;
    failed[row] = (failed[row] & others) | (+(found === condition.not) << index);
  }
}

/** Up to as many letters-to-find, a native scan for each is quicker than one walk over all names for all of them. */
const MAX_SCANS = 4;
const KEPT_HITS = 8;

/**
 * Rows whose name matches, by what is looked for. Names never change and rows are only added, so a result stays good and is
 * extended by the rows that came since. At most KEPT_HITS results of one byte a row are kept.
 */
class TextHits {
  private kept: { key: string; hit: Uint8Array; count: number }[] = [];

  constructor(private readonly columns: PoolColumns) {}

  of(condition: Of<'text'>): Uint8Array {
    const { columns } = this;
    const key = JSON.stringify([condition.mode, condition.values]);
    let entry = this.kept.find((other) => other.key === key) ?? { key, hit: new Uint8Array(columns.count), count: 0 };
    if (entry.hit.length < columns.count) {
      const wider = new Uint8Array(Math.ceil(columns.count * 1.25));
      wider.set(entry.hit);
      entry = { ...entry, hit: wider };
    }
    if (entry.count < columns.count) {
      findMatches(columns, condition, entry.hit, entry.count);
      entry.count = columns.count;
    }
    this.kept = [entry, ...this.kept.filter((other) => other.key !== key)].slice(0, KEPT_HITS);
    return entry.hit;
  }
}

/** Sets `hit` for the matching rows from `first` on. */
function findMatches(columns: PoolColumns, condition: Of<'text'>, hit: Uint8Array, first: number): void {
  const needles = condition.values
    .map((value) => Buffer.from(value.toLowerCase(), 'utf8'))
    .filter((needle) => needle.length > 0);
  if (condition.mode === 'contains' && needles.length <= MAX_SCANS) {
    for (const needle of needles) scanForNeedle(columns, needle, hit, first);
  } else if (needles.length > 0) matchRows(columns, needles, condition.mode, hit, first);
}

/**
 * Compares row by row, inside the label before the ending; all needles in one walk over the bytes, told apart by their
 * first byte.
 */
function matchRows(columns: PoolColumns, needles: Buffer[], mode: TextMode, hit: Uint8Array, first: number): void {
  const { nameBytes, nameStart, labelLength, count } = columns;
  const byFirst = Array.from({ length: 256 }, (_, byte) => needles.filter((needle) => needle[0] === byte));
  const starts = Uint8Array.from(byFirst, (list) => list.length);
  for (let row = first; row < count; row++) {
    const start = nameStart[row];
    const end = start + labelLength[row];
    const last = mode === 'contains' || mode === 'ends' ? end : start + 1;
    for (let at = start; at < last; at++) {
      if (starts[nameBytes[at]] === 0) continue;
      if (matchesAt(nameBytes, at, end, byFirst[nameBytes[at]], mode)) {
        hit[row] = 1;
        break;
      }
    }
  }
}

/** Whether one of the needles stands at `at`, within the label that ends at `end`. */
function matchesAt(bytes: Uint8Array, at: number, end: number, needles: Buffer[], mode: TextMode): boolean {
  for (let n = 0; n < needles.length; n++) {
    const needle = needles[n];
    const stop = at + needle.length;
    if (stop > end || (stop < end && (mode === 'is' || mode === 'ends'))) continue;
    let same = 1;
    while (same < needle.length && bytes[at + same] === needle[same]) same++;
    if (same === needle.length) return true;
  }
  return false;
}

/** One scan over the names from row `first` on; a find counts when it lies wholly inside a label. */
function scanForNeedle(columns: PoolColumns, needle: Buffer, hit: Uint8Array, first: number): void {
  const { nameStart, labelLength, count } = columns;
  const end = nameStart[count];
  const bytes = Buffer.from(columns.nameBytes.buffer, columns.nameBytes.byteOffset, end);
  for (
    let at = bytes.indexOf(needle, nameStart[first]), row = first;
    at >= 0 && at < end;
    at = bytes.indexOf(needle, at)
  ) {
    row = rowAt(nameStart, count, at, row);
    if (at + needle.length <= nameStart[row] + labelLength[row]) {
      hit[row] = 1;
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

export interface ConditionCounts {
  /** Rows that pass all conditions before it and fail it. */
  removes: number;
  /** Rows that fail it and nothing else: relax it and they come back. */
  alone: number;
  /** Rows left after it and all before it. */
  remaining: number;
}

/** Up to as many conditions, the rows are counted by their whole mask; 2^12 counters stay in the cache. */
const MASK_BITS = 12;

/** Counts what each condition does, and gathers the rows that pass them all, in row order. */
export function countFailures(
  count: number,
  conditionCount: number,
  failed: Int32Array,
): { rows: Uint32Array; perCondition: ConditionCounts[] } {
  const removes = new Uint32Array(32);
  const alone = new Uint32Array(32);
  const passing = new Uint32Array(count);
  let total = 0;
  const tally = (mask: number, rows: number) => {
    const lowest = 31 - Math.clz32(mask & -mask);
    removes[lowest] += rows;
    if ((mask & (mask - 1)) === 0) alone[lowest] += rows;
  };
  if (conditionCount <= MASK_BITS) {
    const byMask = new Uint32Array(1 << conditionCount);
    for (let row = 0; row < count; row++) {
      const mask = failed[row];
      byMask[mask]++;
      passing[total] = row;
      total += +(mask === 0);
    }
    for (let mask = 1; mask < byMask.length; mask++) if (byMask[mask] > 0) tally(mask, byMask[mask]);
  } else {
    for (let row = 0; row < count; row++) {
      if (failed[row] === 0) passing[total++] = row;
      else tally(failed[row], 1);
    }
  }
  let remaining = count;
  const perCondition = Array.from({ length: conditionCount }, (_, index) => {
    remaining -= removes[index];
    return { removes: removes[index], alone: alone[index], remaining };
  });
  return { rows: passing.slice(0, total), perCondition };
}
