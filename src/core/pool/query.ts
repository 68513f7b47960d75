import { isNumberFact, isTimeFact, type PoolColumns } from './columns';
import type { Condition, Sort } from './conditions';
import { type ConditionCounts, countFailures, FailureMarks } from './evaluate';
import { type FactName, timeValue } from './facts';
import { sortRows } from './sort';

export interface PoolQuery {
  conditions: Condition[];
  sort: Sort;
  offset: number;
  limit: number;
  /** Conditions (by index) over a number or time whose histogram is wanted, and bins each. */
  histograms: number[];
  /** Seconds since 1970 that "years ago" and "hours from now" count from. */
  nowSeconds: number;
}

export interface Histogram {
  condition: number;
  /** Edges of the bins in the fact's unit, bins + 1 of them, ascending. */
  edges: number[];
  /** Domains in each bin among those that pass every other condition. */
  counts: number[];
  unknown: number;
}

export interface PoolAnswer {
  /** Domains in the pool. */
  size: number;
  /** Domains that pass. */
  total: number;
  /** Domain ids of the asked-for window. */
  ids: number[];
  perCondition: ConditionCounts[];
  histograms: Histogram[];
  version: number;
}

const BINS = 40;

/** A sifted and sorted result, kept while the pool and the question stay the same, so that scrolling only slices. */
interface Kept {
  key: string;
  version: number;
  rows: Uint32Array;
  perCondition: ConditionCounts[];
  histograms: Histogram[];
  /** The first rows in order; complete when as long as rows. */
  sorted: Uint32Array;
}

/** Asks columns; keeps the last few results. One instance for one set of columns. */
export class PoolIndex {
  private kept: Kept[] = [];
  private readonly marks: FailureMarks;
  /** Room for the values of one histogram, used again and again. */
  private scratch = new Float64Array(0);

  constructor(
    readonly columns: PoolColumns,
    private readonly keepCount = 4,
  ) {
    this.marks = new FailureMarks(columns);
  }

  /** Answers a question. Times move with the clock, so a kept result is good for the same minute only. */
  query(query: PoolQuery): PoolAnswer {
    const entry = this.find(query);
    const wanted = query.offset + query.limit;
    if (entry.sorted.length < Math.min(wanted, entry.rows.length))
      entry.sorted = sortRows(this.columns, entry.rows, query.sort, wanted);
    const ids: number[] = [];
    for (const row of entry.sorted.subarray(query.offset, wanted)) ids.push(this.columns.ids[row]);
    return {
      size: this.columns.count,
      total: entry.rows.length,
      ids,
      perCondition: entry.perCondition,
      histograms: entry.histograms,
      version: entry.version,
    };
  }

  private find(query: PoolQuery): Kept {
    const { columns } = this;
    const { conditions, sort, histograms } = query;
    const key = JSON.stringify([conditions, sort, histograms, Math.floor(query.nowSeconds / 60)]);
    const found = this.kept.find((entry) => entry.key === key && entry.version === columns.version);
    if (found) return found;
    const failed = this.marks.mark(conditions, query.nowSeconds);
    if (this.scratch.length < columns.count) this.scratch = new Float64Array(Math.ceil(columns.count * 1.25));
    const { rows, perCondition } = countFailures(columns.count, conditions.length, failed);
    const entry: Kept = {
      key,
      version: columns.version,
      rows,
      perCondition,
      histograms: histograms.map((index) =>
        histogramOf(columns, conditions, index, failed, query.nowSeconds, this.scratch),
      ),
      sorted: new Uint32Array(0),
    };
    this.kept = [entry, ...this.kept.filter((other) => other.version === columns.version)].slice(0, this.keepCount);
    return entry;
  }
}

/** Counts the values of condition `index` over the rows that every other condition lets through. */
function histogramOf(
  columns: PoolColumns,
  conditions: Condition[],
  index: number,
  failed: Int32Array,
  now: number,
  packed: Float64Array,
): Histogram {
  const { fact } = conditions[index];
  const reaching = valuesReaching(columns, fact, ~(1 << index), failed, packed);
  const { values, count, unknown } = reaching;
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < count; i++) {
    const value = values[i];
    if (value < low) low = value;
    if (value > high) high = value;
  }
  if (count === 0) return { condition: index, edges: [], counts: [], unknown };
  const counts = new Array<number>(BINS).fill(0);
  const scale = high > low ? BINS / (high - low) : 0;
  for (let i = 0; i < count; i++) counts[Math.min(BINS - 1, Math.floor((values[i] - low) * scale))]++;
  const edges = Array.from({ length: BINS + 1 }, (_, bin) => low + ((high - low) * bin) / BINS);
  if (!isTimeFact(fact)) return { condition: index, edges, counts, unknown };
  const shown = edges.map((edge) => timeValue(fact, edge, now) ?? 0);
  return shown[0] <= shown[BINS]
    ? { condition: index, edges: shown, counts, unknown }
    : { condition: index, edges: shown.reverse(), counts: counts.reverse(), unknown };
}

/** Known values of a fact among the rows that fail nothing of `others`, at the start of `packed`; and how many are unknown. */
function valuesReaching(
  columns: PoolColumns,
  fact: FactName,
  others: number,
  failed: Int32Array,
  packed: Float64Array,
) {
  const rows = columns.count;
  let count = 0;
  let unknown = 0;
  if (isNumberFact(fact)) {
    const column = columns.numbers[fact];
    for (let row = 0; row < rows; row++) {
      if ((failed[row] & others) !== 0) continue;
      const value = column[row];
      if (Number.isNaN(value)) unknown++;
      else packed[count++] = value;
    }
  } else if (isTimeFact(fact)) {
    const column = columns.times[fact];
    for (let row = 0; row < rows; row++) {
      if ((failed[row] & others) !== 0) continue;
      if (column[row] === 0) unknown++;
      else packed[count++] = column[row];
    }
  } else throw new RangeError(`there is no histogram of ${fact}`);
  return { values: packed, count, unknown };
}
