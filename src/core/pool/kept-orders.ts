import type { PoolColumns } from './columns';
import type { Sort } from './conditions';
import type { FurtherOffer } from './offer';
import type { RowBits } from './range-marks';
import { isByOffers, mergeRows, sortRows } from './sort';

/** The whole pool in an order, as it was at a moment. */
interface KeptOrder {
  key: string;
  /** Null until it has been asked for twice. */
  rows: Uint32Array | null;
  /** What `columns.changed.count` was then. */
  changes: number;
}

/** So many orders are kept: 12 MB each at 3,000,000 rows. */
const MOST_KEPT = 6;
/** Rows that changed since are sorted by themselves for each question, up to so many or this part of the pool; then the order is mended. */
const LEAST_CHANGED = 10_000;
const CHANGED_PART = 128;
/** An order that was mended for more than this part of the pool is made anew as quickly. */
const MENDED_PART = 4;
/** An order is of use where at least this part of the pool passes; fewer rows are sorted as quickly. */
const PASSING_PART = 16;
/** What it costs to sort a row, in rows of an order that are looked at. */
const SORTING_COSTS = 4;

/**
 * Orders of the whole pool, kept from question to question: what passes is read off from the front until there is enough, instead of
 * sorting millions of rows for each place of a handle. Rows that changed since are sorted by themselves and laid between.
 */
export class KeptOrders {
  private kept: KeptOrder[] = [];

  constructor(
    private readonly columns: PoolColumns,
    private readonly leastChanged = LEAST_CHANGED,
  ) {}

  /**
   * The first of the rows that pass.
   *
   * @param total how many pass.
   * @param top how many are wanted.
   * @param others offers by which rows are sorted instead of those that they show.
   * @returns as many as wanted, or all; null where sorting them is as quick.
   */
  first(
    bits: RowBits,
    total: number,
    sorts: Sort[],
    top: number,
    others: ReadonlyMap<number, FurtherOffer>,
  ): Uint32Array | null {
    const { columns } = this;
    const isQuicker = top * columns.count < SORTING_COSTS * total * total && total * PASSING_PART > columns.count;
    if (!isQuicker || sorts.length === 0 || sorts.some(isMadeLater)) return null;
    const kept = this.orderOf(sorts);
    if (!kept) return null;
    const { order, changes, changed } = kept;
    // rows that are sorted by an offer which they do not show stand elsewhere
    const elsewhere = sorts.some(isByOffers) ? others : NOWHERE_ELSE;
    const apart = [...changed, ...elsewhere.keys()].filter((row) => passes(bits, row));
    const found = new Uint32Array(Math.min(top, total));
    let many = 0;
    for (let at = 0; at < order.length && many < found.length; at++) {
      const row = order[at];
      if (!passes(bits, row) || columns.changed.isSince(changes, row)) continue;
      if (elsewhere.size > 0 && elsewhere.has(row)) continue;
      found[many++] = row;
    }
    const inOrder = found.subarray(0, many);
    if (apart.length === 0) return inOrder;
    const apartRows = Uint32Array.from(new Set(apart)).sort();
    const between = sortRows(columns, apartRows, sorts, top, elsewhere);
    return mergeRows(columns, sorts, inOrder, between, elsewhere).subarray(0, found.length);
  }

  /** An order with what changed since; null: it is asked for the first time, and may not be again. */
  private orderOf(sorts: Sort[]): { order: Uint32Array; changes: number; changed: Uint32Array } | null {
    const { columns } = this;
    const { count, changed } = columns;
    const key = JSON.stringify(sorts);
    const known = this.kept.find((entry) => entry.key === key);
    const entry: KeptOrder = known ?? { key, rows: null, changes: 0 };
    this.kept = [entry, ...this.kept.filter((other) => other !== entry)].slice(0, MOST_KEPT);
    if (!known) return null;
    const changedRows = entry.rows && changed.rowsSince(entry.changes, count, Math.floor(count / MENDED_PART));
    if (!entry.rows || !changedRows) entry.rows = sortRows(columns, allRows(count), sorts, count);
    else if (changedRows.length <= Math.max(this.leastChanged, count / CHANGED_PART))
      return { order: entry.rows, changes: entry.changes, changed: changedRows };
    else {
      const rest = entry.rows.filter((row) => !changed.isSince(entry.changes, row));
      entry.rows = mergeRows(columns, sorts, rest, sortRows(columns, changedRows, sorts, changedRows.length));
    }
    entry.changes = changed.count;
    return { order: entry.rows, changes: entry.changes, changed: NO_ROWS };
  }
}

const NO_ROWS = new Uint32Array(0);
const NOWHERE_ELSE: ReadonlyMap<number, FurtherOffer> = new Map();

const passes = (bits: RowBits, row: number) => ((bits[row >> 5] >>> (row & 31)) & 1) === 1;

/** Facts whose values come with the splitting of names, a row at a time. */
const isMadeLater = ({ fact }: Sort) => fact === 'words' || fact === 'nameSubject';

function allRows(count: number): Uint32Array {
  const rows = new Uint32Array(count);
  for (let row = 0; row < count; row++) rows[row] = row;
  return rows;
}
