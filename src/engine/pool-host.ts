import type { ListBatch } from '../core/formats/list-batch';
import { type Rates, rateOf } from '../core/listings/rates';
import { PoolColumns } from '../core/pool/columns';
import { PoolIndex } from '../core/pool/query';
import { readRates, type Store } from '../store/database';
import { eachMembership, eachPoolRow, membershipsOf, pricedAfter, readPoolRow } from '../store/domains';

const ROWS_AT_ONCE = 2000;

/** Holds the index over the pool and keeps it equal to the database. */
export class PoolHost {
  private columns = new PoolColumns();
  private index = new PoolIndex(this.columns);

  private rates: Rates;

  constructor(private readonly store: Store) {
    this.rates = readRates(store);
  }

  get size(): number {
    return this.columns.count;
  }

  get version(): number {
    return this.columns.version;
  }

  get questions(): PoolIndex {
    return this.index;
  }

  /** Reads the whole pool. The old index answers until the new one is ready. */
  rebuild(): void {
    const columns = new PoolColumns(1 << 16);
    for (const row of eachPoolRow(this.store, this.rates)) columns.put(row);
    for (const [source, domain] of eachMembership(this.store)) columns.addMember(source, domain);
    columns.version = this.columns.version + 1;
    this.columns = columns;
    this.index = new PoolIndex(columns);
  }

  /** Takes over rows of a list: the new ones from the batch, the others as they are in the database now. */
  add(batch: ListBatch, ids: Uint32Array, isNew: Uint8Array, source: number): void {
    this.columns.putBatch(batch, ids, isNew, (minor, currency) => {
      const rate = rateOf(currency, this.rates);
      return rate === null ? Number.NaN : Math.round(minor * rate) / 100;
    });
    this.refresh(
      ids.filter((_, row) => isNew[row] === 0),
      source,
    );
    this.columns.addMembers(source, ids);
  }

  /** Takes over rows that were written. */
  refresh(ids: Iterable<number>, source: number | null): void {
    for (const id of ids) {
      const row = readPoolRow(this.store, id, this.rates);
      if (!row) continue;
      const isNew = this.columns.rowOf(id) < 0;
      this.columns.put(row);
      if (source !== null) this.columns.addMember(source, id);
      else if (isNew) for (const named of membershipsOf(this.store, id)) this.columns.addMember(named, id);
    }
  }

  /** Takes out what is in the pool no more, and what a source named once it names nothing. */
  remove(ids: Uint32Array, source: number, isSourceGone: boolean): void {
    if (isSourceGone) this.columns.dropSource(source);
    if (ids.length === 0) return;
    this.columns = this.columns.without(ids);
    this.index = new PoolIndex(this.columns);
    void this.takeBack(ids);
  }

  /** What another source has named again since it left comes back, a part at a time. */
  private async takeBack(ids: Uint32Array): Promise<void> {
    for (let start = 0; start < ids.length; start += ROWS_AT_ONCE) {
      await new Promise((resolve) => setImmediate(resolve));
      if (!this.store.raw.open) return;
      this.refresh(ids.subarray(start, start + ROWS_AT_ONCE), null);
    }
  }

  /** Prices again after the rates were changed, a part at a time so that questions are answered in between. */
  async reprice(): Promise<void> {
    this.rates = readRates(this.store);
    let after = 0;
    for (;;) {
      const ids = pricedAfter(this.store, after, ROWS_AT_ONCE);
      if (ids.length === 0) return;
      this.refresh(ids, null);
      after = ids[ids.length - 1];
      await new Promise((resolve) => setImmediate(resolve));
    }
  }
}
