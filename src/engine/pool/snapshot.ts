import { existsSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import { z } from 'zod';
import type { PoolColumns } from '../../core/pool/columns';
import { fromSnapshot, paddedBytes, type SnapshotHeader, takeSnapshot } from '../../core/pool/snapshot';
import { type Store, write } from '../../store/base/database';
import { greatestId } from '../../store/domains/domains';
import { changedIds, pricing, readStamp, sourceStates, splitWords, stampPool } from '../../store/pool/pool-changes';

const MAGIC = 'JLPOOL01';
/** Magic, length of the header, sum over everything behind it. */
const PREFIX_BYTES = 16;

/** Why it is not used, where it is not what was written. */
export const DAMAGED_SNAPSHOT = 'the snapshot is damaged';

const Header = z.looseObject({
  format: z.number(),
  stamp: z.number(),
  maxId: z.number(),
  settings: z.string(),
  /** Older ones say nothing of it. */
  words: z.string().optional(),
  sources: z.record(z.string(), z.string()),
});
type Described = SnapshotHeader & z.infer<typeof Header>;

export interface LoadedSnapshot {
  columns: PoolColumns;
  /** Domains with a larger id are new since. */
  maxId: number;
  /** Sources that named more or less since. */
  isMembershipOld: boolean;
  /** Names were split by other words. */
  areSplitsOld: boolean;
}

function paths(folder: string) {
  return { kept: join(folder, 'pool.snapshot'), next: join(folder, 'pool.snapshot.new') };
}

/**
 * Writes the index down, so that the next start need not read the whole database. It is good only together with the stamp in the
 * database, which also forgets the changed rows that the snapshot holds.
 *
 * @param isStill whether nothing has changed since it was begun; asked again before it counts.
 * @returns false when something changed meanwhile: the old snapshot stays.
 */
export async function writeSnapshot(store: Store, columns: PoolColumns, isStill: () => boolean): Promise<boolean> {
  const { kept, next } = paths(store.folder);
  const changed = changedIds(store).length;
  const stamp = readStamp(store) + 1;
  const maxId = greatestId(store);
  const { header, arrays } = takeSnapshot(columns);
  const described = {
    ...header,
    stamp,
    maxId,
    settings: pricing(store),
    words: splitWords(store),
    sources: sourceStates(store),
  };
  const text = Buffer.from(JSON.stringify(described));
  const head = Buffer.alloc(paddedBytes(text.length), 32);
  text.copy(head);
  let sum = crc32(head);
  const file = await open(next, 'w');
  try {
    let at = PREFIX_BYTES;
    await file.write(head, 0, head.length, at);
    at += head.length;
    for (const array of arrays) {
      const bytes = new Uint8Array(array.buffer, array.byteOffset, array.byteLength);
      for (let from = 0; from < bytes.length; from += PART_BYTES) {
        const part = bytes.subarray(from, from + PART_BYTES);
        sum = crc32(part, sum);
        await file.write(part, 0, part.length, at);
        at += part.length;
        if (!isStill()) return false;
      }
      const gap = Buffer.alloc(paddedBytes(bytes.length) - bytes.length);
      sum = crc32(gap, sum);
      await file.write(gap, 0, gap.length, at);
      at += gap.length;
    }
    const prefix = Buffer.alloc(PREFIX_BYTES);
    prefix.write(MAGIC, 'latin1');
    prefix.writeUInt32LE(head.length, 8);
    prefix.writeUInt32LE(sum, 12);
    await file.write(prefix, 0, PREFIX_BYTES, 0);
    await file.sync();
  } finally {
    await file.close();
  }
  const isTaken = write(store, () => {
    if (!isStill() || changedIds(store).length !== changed || greatestId(store) !== maxId) return false;
    stampPool(store, stamp);
    return true;
  });
  if (isTaken) renameSync(next, kept);
  else rmSync(next, { force: true });
  return isTaken;
}

const PART_BYTES = 8 << 20;

/** @returns the index as it was written down; a reason in words when there is none that can be used. */
export function readSnapshot(store: Store): LoadedSnapshot | string {
  const { kept, next } = paths(store.folder);
  let reason = 'there is no snapshot';
  // between its stamp and its renaming the product may have been ended
  for (const path of [kept, next]) {
    if (!existsSync(path)) continue;
    try {
      return readFile(store, path);
    } catch (error) {
      reason = (error as Error).message;
    }
  }
  return reason;
}

function readFile(store: Store, path: string): LoadedSnapshot {
  const read = readFileSync(path);
  // a small file may lie anywhere in a shared buffer; columns must begin at multiples of eight
  const bytes = read.byteOffset % 8 === 0 ? read : Buffer.from(new Uint8Array(read).buffer);
  if (bytes.length < PREFIX_BYTES || bytes.toString('latin1', 0, 8) !== MAGIC) throw new Error(DAMAGED_SNAPSHOT);
  const headBytes = bytes.readUInt32LE(8);
  const head = bytes.subarray(PREFIX_BYTES, PREFIX_BYTES + headBytes);
  if (crc32(bytes.subarray(PREFIX_BYTES)) !== bytes.readUInt32LE(12)) throw new Error(DAMAGED_SNAPSHOT);
  const described = Header.parse(JSON.parse(head.toString('utf8'))) as Described;
  if (described.stamp !== readStamp(store)) throw new Error('the snapshot is of another state of the database');
  if (described.settings !== pricing(store)) throw new Error('prices were made with other rates');
  const columns = fromSnapshot(described, bytes.subarray(PREFIX_BYTES + headBytes));
  const now = sourceStates(store);
  const isMembershipOld = JSON.stringify(now) !== JSON.stringify(described.sources);
  const areSplitsOld = described.words !== splitWords(store);
  return { columns, maxId: described.maxId, isMembershipOld, areSplitsOld };
}
