import { RE2JS } from 're2js';
import { registrableDomain } from '../names/domain';
import { wordsThatHold } from '../names/keyword';
import { numberForms } from '../names/number-forms';
import type { Splitter } from '../names/word-split';
import type { PoolColumns } from './columns';
import type { TextCondition, TextMode } from './conditions';
import { Needles, scanForNeedle, shortestOf, wordAround } from './needles';
import { patternProblem } from './pattern-problem';
import type { RowBits } from './range-marks';

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

/** Rows that a pattern is tried on before others get a turn. */
export const PATTERN_ROWS = 4000;

/** Clears the bits behind the last row. */
export function trim(bits: RowBits, count: number): void {
  const block = count >> 5;
  if (block < bits.length) bits[block] &= (1 << (count & 31)) - 1;
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
export class TextHits {
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
