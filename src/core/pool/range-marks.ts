import { floatsBetween, wholesBetween } from './between';
import { BLOCK } from './bits';
import type { PoolColumns } from './columns';
import type { ChoiceCondition, RangeCondition } from './conditions';
import {
  countsBackwards,
  type FactName,
  isChoiceFact,
  isNumberFact,
  isTimeFact,
  type TimeFact,
  timeBound,
} from './facts';

/** Rows that pass something: bit r & 31 of word r >> 5 for row r. Bits beyond the last row are 0. */
export type RowBits = Uint32Array;

export function fill(bits: RowBits, from: number, to: number, passes: boolean): void {
  bits.fill(passes ? 0xffffffff : 0, from, to);
}

export function markRange(
  columns: PoolColumns,
  condition: RangeCondition,
  now: number,
  bits: RowBits,
  from: number,
  to: number,
): void {
  const { fact, keepUnknown } = condition;
  if (isTimeFact(fact)) {
    const backwards = countsBackwards(fact);
    const low = backwards ? condition.max : condition.min;
    const high = backwards ? condition.min : condition.max;
    const first = low === null ? 1 : timeBound(fact, low, now);
    markTimes(
      columns,
      fact,
      first,
      high === null ? 0xffffffff : timeBound(fact, high, now),
      keepUnknown,
      bits,
      from,
      to,
    );
    return;
  }
  const values = columns.numbers[fact];
  if (values.length === 0) {
    fill(bits, from, to, keepUnknown);
    return;
  }
  // the column is 32 bits wide, so the bounds are rounded the same way the values were
  const min = condition.min === null ? Number.NEGATIVE_INFINITY : Math.fround(condition.min);
  const max = condition.max === null ? Number.POSITIVE_INFINITY : Math.fround(condition.max);
  floatsBetween(values, min, max, keepUnknown, bits, from, to);
}

/** Times from `first` to `last`, seconds since 1970, both included. */
export function markTimes(
  columns: PoolColumns,
  fact: TimeFact,
  first: number,
  last: number,
  keepUnknown: boolean,
  bits: RowBits,
  from: number,
  to: number,
): void {
  const values = columns.times[fact];
  if (values.length === 0) {
    fill(bits, from, to, keepUnknown);
    return;
  }
  wholesBetween(values, first, last, keepUnknown, bits, from, to);
}

export function markChoice(
  columns: PoolColumns,
  condition: ChoiceCondition,
  bits: RowBits,
  from: number,
  to: number,
): void {
  const codes = columns.choices[condition.fact];
  const { keepUnknown } = condition;
  if (codes.length === 0) {
    fill(bits, from, to, keepUnknown);
    return;
  }
  const dictionary = columns.dictionaries[condition.fact];
  const passes = new Uint8Array(dictionary.words.length).fill(condition.not ? 1 : 0);
  for (const value of condition.values) {
    for (const code of dictionary.findAll(value)) passes[code] = condition.not ? 0 : 1;
  }
  passes[0] = keepUnknown ? 1 : 0;
  for (let block = from, row = from * BLOCK; block < to; block++) {
    let word = 0;
    for (let bit = 0; bit < BLOCK; bit++, row++) word |= passes[codes[row]] << bit;
    bits[block] = word;
  }
}

export function markUnknown(columns: PoolColumns, fact: FactName, bits: RowBits, from: number, to: number): void {
  const values: ArrayLike<number> = isNumberFact(fact)
    ? columns.numbers[fact]
    : isTimeFact(fact)
      ? columns.times[fact]
      : isChoiceFact(fact)
        ? columns.choices[fact]
        : [];
  if (values.length === 0) {
    fill(bits, from, to, isNumberFact(fact) || isTimeFact(fact) || isChoiceFact(fact));
    return;
  }
  if (isNumberFact(fact)) {
    const numbers = columns.numbers[fact];
    for (let block = from, row = from * BLOCK; block < to; block++) {
      let word = 0;
      for (let bit = 0; bit < BLOCK; bit++, row++) {
        const value = numbers[row];
        // biome-ignore lint/suspicious/noSelfCompare: only NaN differs from itself, and this has no branch
        word |= +(value !== value) << bit;
      }
      bits[block] = word;
    }
  } else {
    for (let block = from, row = from * BLOCK; block < to; block++) {
      let word = 0;
      for (let bit = 0; bit < BLOCK; bit++, row++) word |= +(values[row] === 0) << bit;
      bits[block] = word;
    }
  }
}
