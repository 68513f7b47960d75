import type { PoolColumns } from './columns';
import type { Sort } from './conditions';
import type { FurtherOffer } from './offer';
import type { RowBits } from './range-marks';
import { isByOffers, mergeRows, sortRows } from './sort';

/** Rows in an order, as they were at a moment. */
interface Level {
  rows: Uint32Array;
  /** What `columns.changed.count` was then: rows that changed since do not stand here any more. */
  changes: number;
}

/** The whole pool in an order. */
interface KeptOrder {
  key: string;
  /** All rows as they were at first, then those that changed until later; null until the order has been asked for twice. */
  levels: { base: Level; later: Level } | null;
}

/** So many orders are kept: 12 MB each at 3,000,000 rows. */
const MOST_KEPT = 6;
/** So many rows that changed since are sorted for each question; more are merged into those that changed later. */
const MOST_UNSORTED = 20_000;
/** When those are this part of the pool, they are merged into the whole. */
const LATER_PART = 8;
/** Where this part of the pool has changed since, the order is made anew as quickly. */
const ANEW_PART = 4;
/** An order is of use where at least this part of the pool passes; fewer rows are sorted as quickly. */
const PASSING_PART = 16;
/** What it costs to sort a row, in rows of an order that are looked at. */
const SORTING_COSTS = 4;

/**
 * Orders of the whole pool, kept from question to question: what passes is read off from the front until there is enough, instead of
 * sorting millions of rows for each place of a handle. Rows that changed since stand in an order of their own, which grows until it is
 * worth merging the two (as log-structured merge trees do: O'Neil and others 1996); the last few are sorted when somebody asks.
 */
export class KeptOrders {
  private kept: KeptOrder[] = [];

  /** @param mostUnsorted rows that changed since and are sorted for each question. */
  constructor(
    private readonly columns: PoolColumns,
    private readonly mostUnsorted = MOST_UNSORTED,
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
    // rows that are sorted by an offer which they do not show stand elsewhere
    const elsewhere = sorts.some(isByOffers) ? others : NOWHERE_ELSE;
    const wanted = Math.min(top, total);
    const front = ({ rows, changes }: Level) => {
      const found = new Uint32Array(Math.min(wanted, rows.length));
      let many = 0;
      for (let at = 0; at < rows.length && many < wanted; at++) {
        const row = rows[at];
        if (!passes(bits, row) || columns.changed.isSince(changes, row)) continue;
        if (elsewhere.size > 0 && elsewhere.has(row)) continue;
        found[many++] = row;
      }
      return found.subarray(0, many);
    };
    const apart = union(kept.unsorted, elsewhere.keys()).filter((row) => passes(bits, row));
    const parts = [front(kept.base), front(kept.later), sortRows(columns, apart, sorts, wanted, elsewhere)];
    return parts
      .reduce((merged, part) => (part.length === 0 ? merged : mergeRows(columns, sorts, merged, part, elsewhere)))
      .subarray(0, wanted);
  }

  /** An order, with the rows that changed since it was mended last; null: it is asked for the first time, and may not be again. */
  private orderOf(sorts: Sort[]): { base: Level; later: Level; unsorted: Uint32Array } | null {
    const { columns } = this;
    const { count, changed } = columns;
    const key = JSON.stringify(sorts);
    const known = this.kept.find((entry) => entry.key === key);
    const entry: KeptOrder = known ?? { key, levels: null };
    this.kept = [entry, ...this.kept.filter((other) => other !== entry)].slice(0, MOST_KEPT);
    if (!known) return null;
    const { levels } = entry;
    const unsorted = levels && changed.rowsSince(levels.later.changes, count, Math.floor(count / ANEW_PART));
    const changes = changed.count;
    if (!levels || !unsorted) {
      entry.levels = {
        base: { rows: sortRows(columns, allRows(count), sorts, count), changes },
        later: nothing(changes),
      };
      return { ...entry.levels, unsorted: NO_ROWS };
    }
    if (unsorted.length <= this.mostUnsorted) return { ...levels, unsorted };
    const still = ({ rows, changes: since }: Level) => rows.filter((row) => !changed.isSince(since, row));
    const sorted = sortRows(columns, unsorted, sorts, unsorted.length);
    const later = mergeRows(columns, sorts, still(levels.later), sorted);
    if (later.length * LATER_PART < count) entry.levels = { base: levels.base, later: { rows: later, changes } };
    else {
      const base = mergeRows(columns, sorts, still(levels.base), later);
      entry.levels = { base: { rows: base, changes }, later: nothing(changes) };
    }
    return { ...entry.levels, unsorted: NO_ROWS };
  }
}

const nothing = (changes: number): Level => ({ rows: NO_ROWS, changes });
const NO_ROWS = new Uint32Array(0);
const NOWHERE_ELSE: ReadonlyMap<number, FurtherOffer> = new Map();

const passes = (bits: RowBits, row: number) => ((bits[row >> 5] >>> (row & 31)) & 1) === 1;

/** Facts whose values come with the splitting of names, a row at a time. */
const isMadeLater = ({ fact }: Sort) => fact === 'words' || fact === 'nameSubject';

/** Ascending, each once. */
function union(ascending: Uint32Array, others: Iterable<number>): Uint32Array {
  const all = new Set(others);
  if (all.size === 0) return ascending;
  for (const row of ascending) all.add(row);
  return Uint32Array.from(all).sort();
}

function allRows(count: number): Uint32Array {
  const rows = new Uint32Array(count);
  for (let row = 0; row < count; row++) rows[row] = row;
  return rows;
}
