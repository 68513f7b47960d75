import type { ListBatch } from '../core/formats/list-batch';
import { PoolColumns } from '../core/pool/columns';
import { PoolIndex } from '../core/pool/query';
import type { Store } from '../store/database';
import { eachMembership, eachPoolRow, membershipsOf, readPoolRow } from '../store/domains';

/** Holds the index over the pool and keeps it equal to the database. */
export class PoolHost {
  private columns = new PoolColumns();
  private index = new PoolIndex(this.columns);

  constructor(private readonly store: Store) {}

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
    for (const row of eachPoolRow(this.store)) columns.put(row);
    for (const [source, domain] of eachMembership(this.store)) columns.addMember(source, domain);
    columns.version = this.columns.version + 1;
    this.columns = columns;
    this.index = new PoolIndex(columns);
  }

  /** Takes over rows of a list: the new ones from the batch, the others as they are in the database now. */
  add(batch: ListBatch, ids: Uint32Array, isNew: Uint8Array, source: number): void {
    this.columns.putBatch(batch, ids, isNew);
    this.refresh(
      ids.filter((_, row) => isNew[row] === 0),
      source,
    );
    this.columns.addMembers(source, ids);
  }

  /** Takes over rows that were written. */
  refresh(ids: Iterable<number>, source: number | null): void {
    for (const id of ids) {
      const row = readPoolRow(this.store, id);
      if (!row) continue;
      const isNew = this.columns.rowOf(id) < 0;
      this.columns.put(row);
      if (source !== null) this.columns.addMember(source, id);
      else if (isNew) for (const named of membershipsOf(this.store, id)) this.columns.addMember(named, id);
    }
  }
}
