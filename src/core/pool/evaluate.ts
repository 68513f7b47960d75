import { RE2JS } from 're2js';
import { registrableDomain } from '../names/domain';
import { wordsThatHold } from '../names/keyword';
import { numberForms } from '../names/number-forms';
import type { Splitter } from '../names/word-split';
import { BLOCK, type PoolColumns } from './columns';
import {
  type ChoiceCondition,
  type Condition,
  MAX_PATTERN,
  type RangeCondition,
  type TextCondition,
  type TextMode,
} from './conditions';
import {
  countsBackwards,
  type FactName,
  isChoiceFact,
  isNumberFact,
  isTimeFact,
  type TimeFact,
  timeBound,
} from './facts';
import { floatsBetween, wholesBetween } from './lanes';
import { Needles, scanForNeedle, shortestOf, wordAround } from './needles';

/** What a condition is read with beside the pool itself. */
export interface Circumstances {
  /** Seconds since 1970 that "years ago" and "hours from now" count from. */
  nowSeconds: number;
  /** When the visit before this one ended, seconds since 1970. */
  lastVisit: number;
  splitter: Splitter;
  /** Values of a kept list. */
  valuesOf(list: number): string[];
  /** Title of the subject that words of a name tell; null: none that shows. */
  subjectOf(words: readonly string[]): string | null;
}

/** Rows that pass something: bit r & 31 of word r >> 5 for row r. Bits beyond the last row are 0. */
export type RowBits = Uint32Array;

interface Kept {
  bits: RowBits;
  /** What `columns.changes` was when they were right. */
  changes: number;
  count: number;
  usedAt: number;
}

const MAX_KEPT = 40;
/** Rows that a pattern is tried on before others get a turn. */
const PATTERN_ROWS = 4000;

/**
 * Which rows each condition lets through, kept from question to question: while a handle is dragged all conditions but one stay the
 * same, and of those only the blocks in which a row changed are looked at again.
 */
export class Passes {
  private readonly kept = new Map<string, Kept>();
  private readonly text: TextHits;
  private clock = 0;

  constructor(private readonly columns: PoolColumns) {
    this.text = new TextHits(columns);
  }

  /** Rows that pass a condition; good until the next change of the pool. Not to be written to. */
  of(condition: Condition, given: Circumstances): RowBits {
    if (condition.type === 'text') return this.text.of(condition, given);
    const { off: _, ...asked } = condition;
    if (condition.fact === 'nameSubject')
      this.columns.readSubjects(given.splitter, given.subjectOf, Number.POSITIVE_INFINITY);
    const moment = isTimeFact(condition.fact)
      ? [Math.floor(given.nowSeconds / 60), given.lastVisit]
      : condition.fact === 'words' || condition.fact === 'nameSubject'
        ? [this.columns.splitRows]
        : [];
    return this.keep(JSON.stringify([asked, moment]), (bits, from, to) =>
      evaluate(this.columns, condition, given, bits, from, to),
    );
  }

  /** Rows whose value of a fact is not known. */
  unknown(fact: FactName): RowBits {
    return this.keep(`unknown ${fact}`, (bits, from, to) => markUnknown(this.columns, fact, bits, from, to));
  }

  /** Rows that have an open offer. */
  offered(): RowBits {
    return this.keep('offered', (bits, from, to) => {
      markUnknown(this.columns, 'listing', bits, from, to);
      for (let block = from; block < to; block++) bits[block] = ~bits[block];
    });
  }

  /** Prepares what takes long, a part at a time; others get a turn in between. */
  async prepare(condition: Condition, given: Circumstances): Promise<void> {
    if (condition.type === 'text' && condition.mode === 'pattern') await this.text.prepare(condition, given);
    if (condition.type === 'choice' && condition.fact === 'nameSubject')
      while (this.columns.readSubjects(given.splitter, given.subjectOf, PATTERN_ROWS))
        await new Promise((resolve) => setImmediate(resolve));
  }

  private keep(key: string, make: (bits: RowBits, from: number, to: number) => void): RowBits {
    const { columns } = this;
    const { blocks, count, changes } = columns;
    let entry = this.kept.get(key);
    if (!entry) {
      entry = { bits: new Uint32Array(blocks), changes: -1, count: 0, usedAt: 0 };
      this.kept.set(key, entry);
      this.forgetOldest();
    } else if (entry.bits.length < blocks) {
      const wider = new Uint32Array(Math.ceil(blocks * 1.25));
      wider.set(entry.bits);
      entry.bits = wider;
    }
    entry.usedAt = ++this.clock;
    if (entry.changes === changes && entry.count === count) return entry.bits;
    const changed = entry.changes < 0 ? null : columns.changedSince(entry.changes);
    if (changed === null) make(entry.bits, 0, blocks);
    else for (const block of new Set(changed)) make(entry.bits, block, block + 1);
    trim(entry.bits, count);
    entry.changes = changes;
    entry.count = count;
    return entry.bits;
  }

  private forgetOldest(): void {
    if (this.kept.size <= MAX_KEPT) return;
    let oldest = '';
    let least = Number.POSITIVE_INFINITY;
    for (const [key, { usedAt }] of this.kept) if (usedAt > 0 && usedAt < least) [oldest, least] = [key, usedAt];
    this.kept.delete(oldest);
  }
}

/** Clears the bits behind the last row. */
function trim(bits: RowBits, count: number): void {
  const block = count >> 5;
  if (block < bits.length) bits[block] &= (1 << (count & 31)) - 1;
}

function evaluate(
  columns: PoolColumns,
  condition: Exclude<Condition, TextCondition>,
  given: Circumstances,
  bits: RowBits,
  from: number,
  to: number,
): void {
  switch (condition.type) {
    case 'range':
      markRange(columns, condition, given.nowSeconds, bits, from, to);
      return;
    case 'choice':
      markChoice(columns, condition, bits, from, to);
      return;
    case 'member': {
      const sets = condition.values.flatMap((set) => columns.members[condition.fact].get(set) ?? []);
      const flip = condition.not ? -1 : 0;
      for (let block = from; block < to; block++) {
        let any = 0;
        for (const set of sets) any |= set[block] ?? 0;
        bits[block] = any ^ flip;
      }
      return;
    }
    case 'visit': {
      const bound = Math.max(1, given.lastVisit + 1);
      markTimes(columns, condition.fact, bound, 0xffffffff, false, bits, from, to);
      if (condition.not) for (let block = from; block < to; block++) bits[block] = ~bits[block];
    }
  }
}

function fill(bits: RowBits, from: number, to: number, passes: boolean): void {
  bits.fill(passes ? 0xffffffff : 0, from, to);
}

function markRange(
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
function markTimes(
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

function markChoice(columns: PoolColumns, condition: ChoiceCondition, bits: RowBits, from: number, to: number): void {
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

function markUnknown(columns: PoolColumns, fact: FactName, bits: RowBits, from: number, to: number): void {
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

/** Up to as many letters-to-find, a native scan for each is quicker than one walk over all names for all of them. */
const MAX_SCANS = 4;
const KEPT_HITS = 16;

interface Hits {
  key: string;
  /** Rows that match, before "not". */
  hits: RowBits;
  /** The opposite, made when asked for. */
  misses: RowBits | null;
  count: number;
}

/**
 * Rows whose name matches, by what is looked for. Names never change and rows are only added, so a result stays good and is
 * extended by the rows that came since.
 */
class TextHits {
  private kept: Hits[] = [];

  constructor(private readonly columns: PoolColumns) {}

  of(condition: TextCondition, given: Circumstances): RowBits {
    const entry = this.entry(condition, given);
    if (entry.count < this.columns.count) {
      findMatches(
        this.columns,
        condition,
        valuesOf(condition, given),
        given.splitter,
        entry.hits,
        entry.count,
        this.columns.count,
      );
      entry.count = this.columns.count;
      entry.misses = null;
    }
    if (!condition.not) return entry.hits;
    if (!entry.misses) {
      entry.misses = entry.hits.map((word) => ~word);
      trimAll(entry.misses, entry.count);
    }
    return entry.misses;
  }

  /** Tries a pattern on some thousand rows at a time, until all are done. */
  async prepare(condition: TextCondition, given: Circumstances): Promise<void> {
    const values = valuesOf(condition, given);
    for (;;) {
      const entry = this.entry(condition, given);
      const { count } = this.columns;
      if (entry.count >= count) return;
      const stop = Math.min(count, entry.count + PATTERN_ROWS);
      findMatches(this.columns, condition, values, given.splitter, entry.hits, entry.count, stop);
      entry.count = stop;
      entry.misses = null;
      await new Promise((resolve) => setImmediate(resolve));
    }
  }

  private entry(condition: TextCondition, given: Circumstances): Hits {
    const { columns } = this;
    const key = JSON.stringify([condition.mode, valuesOf(condition, given)]);
    let entry = this.kept.find((other) => other.key === key);
    if (!entry) entry = { key, hits: new Uint32Array(columns.blocks), misses: null, count: 0 };
    if (entry.hits.length < columns.blocks) {
      const wider = new Uint32Array(Math.ceil(columns.blocks * 1.25));
      wider.set(entry.hits);
      entry.hits = wider;
      entry.misses = null;
    }
    const found = entry;
    this.kept = [found, ...this.kept.filter((other) => other !== found)].slice(0, KEPT_HITS);
    return found;
  }
}

function trimAll(bits: RowBits, count: number): void {
  trim(bits, count);
  bits.fill(0, (count >> 5) + 1);
}

export function valuesOf(condition: TextCondition, given: Pick<Circumstances, 'valuesOf'>): string[] {
  return condition.list ? given.valuesOf(condition.list) : condition.values;
}

/** Sets the bits of matching rows from `first` up to `stop`. Everything but a pattern does all rows there are. */
function findMatches(
  columns: PoolColumns,
  condition: TextCondition,
  values: string[],
  splitter: Splitter,
  hits: RowBits,
  first: number,
  stop: number,
): void {
  const { mode } = condition;
  if (values.length === 0) return;
  if (mode === 'pattern') markPatterns(columns, values, hits, first, stop);
  else if (mode === 'starts') new Needles(values).markAnchored(columns, hits, first, mode);
  else if (mode === 'is') markNames(columns, values, hits, first);
  else if (mode === 'ends') new Needles(values.flatMap(endForms), true).markAnchored(columns, hits, first, mode);
  else markWithin(columns, mode, values, splitter, hits, first);
}

/** What a name may end with where letters are asked for: a word also in its other number. */
export const endForms = (value: string): string[] => numberForms(value.toLowerCase());

/** Whole labels; a value with a dot in it is a whole domain, however it was pasted: as an address, with www, with a path. */
function markNames(columns: PoolColumns, values: readonly string[], hits: RowBits, first: number): void {
  const labels: string[] = [];
  const names = new Set<string>();
  for (const value of values) {
    if (!value.includes('.')) labels.push(value);
    else names.add(registrableDomain(value)?.name ?? value.toLowerCase());
  }
  if (labels.length > 0) new Needles(labels).markAnchored(columns, hits, first, 'is');
  if (names.size === 0) return;
  const found = new Uint32Array(hits.length);
  new Needles([...names].map(labelOf)).markAnchored(columns, found, first, 'is');
  for (let block = first >> 5; block < found.length; block++)
    for (let word = found[block]; word !== 0; word &= word - 1) {
      const bit = word & -word;
      if (names.has(columns.nameOf((block << 5) + 31 - Math.clz32(bit)))) hits[block] |= bit;
    }
}

/** What stands before the TLD of a name as it was pasted. */
export function labelOf(value: string): string {
  const domain = registrableDomain(value);
  return domain ? domain.name.slice(0, -domain.ending.length - 1) : value.toLowerCase().split('.')[0];
}

/** Letters anywhere in the label, or words of its split. */
function markWithin(
  columns: PoolColumns,
  mode: TextMode,
  values: string[],
  splitter: Splitter,
  hits: RowBits,
  first: number,
): void {
  const lower = values.map((value) => value.toLowerCase());
  const words = new Set(mode === 'wordish' ? lower.flatMap(wordsThatHold) : lower);
  const sought = mode === 'contains' ? [...words] : shortestOf([...words]);
  const accept =
    mode === 'contains'
      ? undefined
      : (row: number, start: number, end: number) => {
          columns.splitRow(row, splitter);
          const word = wordAround(columns, row, start, end);
          return word !== null && words.has(word);
        };
  if (sought.length <= MAX_SCANS) for (const needle of sought) scanForNeedle(columns, needle, hits, first, accept);
  else new Needles(sought).mark(columns, hits, first, accept);
}

/** Patterns in RE2 syntax, in linear time; one that is no pattern matches nothing. */
function markPatterns(columns: PoolColumns, patterns: string[], hits: RowBits, first: number, stop: number): void {
  for (const pattern of patterns) {
    if (patternProblem(pattern)) continue;
    const compiled = RE2JS.compile(pattern, RE2JS.CASE_INSENSITIVE);
    for (let row = first; row < stop; row++) if (compiled.test(columns.labelOf(row))) hits[row >> 5] |= 1 << (row & 31);
  }
}

/** What is wrong with a pattern, in words; null: nothing. */
export function patternProblem(pattern: string): string | null {
  if (pattern.length > MAX_PATTERN) return `a pattern has at most ${MAX_PATTERN} characters`;
  try {
    RE2JS.compile(pattern, RE2JS.CASE_INSENSITIVE);
    return null;
  } catch (error) {
    return (error as Error).message.replace(/^error parsing regexp: /, '').slice(0, 120);
  }
}
