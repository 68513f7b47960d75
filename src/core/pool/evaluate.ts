import { isChoiceFact, isNumberFact, isTimeFact, type PoolColumns } from './columns';
import { type Condition, MAX_CONDITIONS, type TextMode } from './conditions';
import { countsBackwards, timeBound } from './facts';

/**
 * Marks, for each row, which conditions it fails: bit k of `failed[row]` for condition k.
 *
 * @param failed at least `columns.count` long; overwritten.
 * @param nowSeconds what "years ago" and "hours from now" count from.
 * @throws RangeError for more than MAX_CONDITIONS conditions.
 */
export function markFailures(
  columns: PoolColumns,
  conditions: Condition[],
  nowSeconds: number,
  failed: Uint32Array,
): void {
  if (conditions.length > MAX_CONDITIONS) throw new RangeError(`at most ${MAX_CONDITIONS} conditions`);
  failed.fill(0, 0, columns.count);
  conditions.forEach((condition, index) => {
    const bit = 1 << index;
    switch (condition.type) {
      case 'range':
        markRange(columns, condition, nowSeconds, failed, bit);
        break;
      case 'choice':
        markChoice(columns, condition, failed, bit);
        break;
      case 'text':
        markText(columns, condition, failed, bit);
        break;
      case 'member':
        markMember(columns, condition, failed, bit);
        break;
    }
  });
}

type Of<T extends Condition['type']> = Extract<Condition, { type: T }>;

function markRange(columns: PoolColumns, condition: Of<'range'>, now: number, failed: Uint32Array, bit: number): void {
  const { fact, keepUnknown } = condition;
  const count = columns.count;
  if (isNumberFact(fact)) {
    const values = columns.numbers[fact];
    // the column is 32 bits wide, so the bounds are rounded the same way the values were
    const min = condition.min === null ? Number.NEGATIVE_INFINITY : Math.fround(condition.min);
    const max = condition.max === null ? Number.POSITIVE_INFINITY : Math.fround(condition.max);
    if (keepUnknown) {
      for (let row = 0; row < count; row++) if (values[row] < min || values[row] > max) failed[row] |= bit;
    } else {
      for (let row = 0; row < count; row++) if (!(values[row] >= min && values[row] <= max)) failed[row] |= bit;
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
  for (let row = 0; row < count; row++) {
    const value = values[row];
    if (value === 0 ? !keepUnknown : value < min || value > max) failed[row] |= bit;
  }
}

function markChoice(columns: PoolColumns, condition: Of<'choice'>, failed: Uint32Array, bit: number): void {
  if (!isChoiceFact(condition.fact)) return;
  const codes = columns.choices[condition.fact];
  const dictionary = columns.dictionaries[condition.fact];
  const passes = new Uint8Array(dictionary.words.length).fill(condition.not ? 1 : 0);
  for (const value of condition.values) {
    const code = dictionary.find(value);
    if (code >= 0) passes[code] = condition.not ? 0 : 1;
  }
  const count = columns.count;
  for (let row = 0; row < count; row++) if (passes[codes[row]] === 0) failed[row] |= bit;
}

function markMember(columns: PoolColumns, condition: Of<'member'>, failed: Uint32Array, bit: number): void {
  const sets = condition.values.flatMap((source) => columns.members.get(source) ?? []);
  const count = columns.count;
  for (let row = 0; row < count; row++) {
    const byte = row >> 3;
    const mask = 1 << (row & 7);
    let found = false;
    for (const bits of sets) if (byte < bits.length && (bits[byte] & mask) !== 0) found = true;
    if (found === condition.not) failed[row] |= bit;
  }
}

function markText(columns: PoolColumns, condition: Of<'text'>, failed: Uint32Array, bit: number): void {
  const count = columns.count;
  const hit = new Uint8Array(count);
  for (const value of condition.values) {
    const needle = Buffer.from(value.toLowerCase(), 'utf8');
    if (needle.length > 0) markNeedle(columns, needle, condition.mode, hit);
  }
  const failOn = condition.not ? 1 : 0;
  for (let row = 0; row < count; row++) if (hit[row] === failOn) failed[row] |= bit;
}

function markNeedle(columns: PoolColumns, needle: Buffer, mode: TextMode, hit: Uint8Array): void {
  const { nameStart, labelLength, count } = columns;
  const end = nameStart[count];
  const bytes = Buffer.from(columns.nameBytes.buffer, columns.nameBytes.byteOffset, end);
  if (mode !== 'contains') {
    for (let row = 0; row < count; row++) {
      const label = labelLength[row];
      if (label < needle.length || (mode === 'is' && label !== needle.length)) continue;
      const from = mode === 'ends' ? nameStart[row] + label - needle.length : nameStart[row];
      let same = 0;
      while (same < needle.length && bytes[from + same] === needle[same]) same++;
      if (same === needle.length) hit[row] = 1;
    }
    return;
  }
  // one scan over all names; a find is kept when it lies wholly inside a label
  for (let at = bytes.indexOf(needle, 0), row = 0; at >= 0 && at < end; at = bytes.indexOf(needle, at)) {
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
  /** Rows that fail it, whatever the others say. */
  fails: number;
  /** Rows that pass all conditions before it and fail it. */
  removes: number;
  /** Rows that fail it and nothing else: relax it and they come back. */
  alone: number;
  /** Rows left after it and all before it. */
  remaining: number;
}

/** Counts what each condition does, and gathers the rows that pass them all, in row order. */
export function countFailures(
  count: number,
  conditionCount: number,
  failed: Uint32Array,
): { rows: Uint32Array; perCondition: ConditionCounts[] } {
  const fails = new Uint32Array(32);
  const removes = new Uint32Array(32);
  const alone = new Uint32Array(32);
  let total = 0;
  for (let row = 0; row < count; row++) if (failed[row] === 0) total++;
  const rows = new Uint32Array(total);
  let at = 0;
  for (let row = 0; row < count; row++) {
    const mask = failed[row];
    if (mask === 0) {
      rows[at++] = row;
      continue;
    }
    const lowest = 31 - Math.clz32(mask & -mask);
    removes[lowest]++;
    const others = mask & (mask - 1);
    fails[lowest]++;
    if (others === 0) alone[lowest]++;
    else for (let rest = others; rest !== 0; rest &= rest - 1) fails[31 - Math.clz32(rest & -rest)]++;
  }
  let remaining = count;
  const perCondition = Array.from({ length: conditionCount }, (_, index) => {
    remaining -= removes[index];
    return { fails: fails[index], removes: removes[index], alone: alone[index], remaining };
  });
  return { rows, perCondition };
}
