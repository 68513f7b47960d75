import type { WATCH_KINDS } from '../../core/formats/source-kinds';
import { type Store, statement, write } from '../base/database';

export type WatchKind = (typeof WATCH_KINDS)[number];

/** Something that is looked at again and again. Times in ms since 1970 UTC. */
export interface Watch {
  id: number;
  kind: WatchKind;
  /** Path of the folder, or address. */
  target: string;
  name: string;
  /** How its files are imported. */
  options: { excludedEndings: string[]; checkAfter: boolean };
  /** Of a venue: its source. */
  sourceId: number | null;
  everyMs: number;
  isOn: boolean;
  nextAt: number;
  lastAt: number | null;
  /** What the last look brought, in words. */
  outcome: string | null;
  etag: string | null;
  modified: string | null;
  hash: string | null;
}

interface WatchRow {
  id: number;
  kind: WatchKind;
  target: string;
  name: string;
  options: string;
  source_id: number | null;
  every_ms: number;
  is_on: number;
  next_at: number;
  last_at: number | null;
  outcome: string | null;
  etag: string | null;
  modified: string | null;
  hash: string | null;
}

function unpack(row: WatchRow): Watch {
  return {
    id: row.id,
    kind: row.kind,
    target: row.target,
    name: row.name,
    options: JSON.parse(row.options),
    sourceId: row.source_id,
    everyMs: row.every_ms,
    isOn: row.is_on === 1,
    nextAt: row.next_at,
    lastAt: row.last_at,
    outcome: row.outcome,
    etag: row.etag,
    modified: row.modified,
    hash: row.hash,
  };
}

export type NewWatch = Pick<Watch, 'kind' | 'target' | 'name' | 'options' | 'sourceId' | 'everyMs'>;

/** @param firstAt when it is looked at first. */
export function addWatch(store: Store, watch: NewWatch, firstAt: number): number {
  return write(store, () =>
    Number(
      statement(
        store.raw,
        `INSERT INTO watches (kind, target, name, options, source_id, every_ms, next_at, created_at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
      ).run(
        watch.kind,
        watch.target,
        watch.name,
        JSON.stringify(watch.options),
        watch.sourceId,
        watch.everyMs,
        firstAt,
        store.now(),
      ).lastInsertRowid,
    ),
  );
}

export function readWatch(store: Store, id: number): Watch | null {
  const row = statement(store.raw, 'SELECT * FROM watches WHERE id = ?').get(id) as WatchRow | undefined;
  return row ? unpack(row) : null;
}

export function listWatches(store: Store): Watch[] {
  return (statement(store.raw, 'SELECT * FROM watches ORDER BY id').all() as WatchRow[]).map(unpack);
}

export function watchOfSource(store: Store, sourceId: number): Watch | null {
  const row = statement(store.raw, 'SELECT * FROM watches WHERE source_id = ?').get(sourceId) as WatchRow | undefined;
  return row ? unpack(row) : null;
}

export function dueWatches(store: Store, at: number): Watch[] {
  return (
    statement(store.raw, 'SELECT * FROM watches WHERE is_on = 1 AND next_at <= ? ORDER BY next_at').all(
      at,
    ) as WatchRow[]
  ).map(unpack);
}

/** @returns false when there is no such watch. */
export function changeWatch(
  store: Store,
  id: number,
  change: { isOn?: boolean; everyMs?: number; nextAt?: number },
): boolean {
  return write(store, () => {
    const watch = readWatch(store, id);
    if (!watch) return false;
    const { isOn, everyMs, nextAt } = { ...watch, ...change };
    statement(store.raw, 'UPDATE watches SET is_on = ?, every_ms = ?, next_at = ? WHERE id = ?').run(
      isOn ? 1 : 0,
      everyMs,
      nextAt,
      id,
    );
    return true;
  });
}

/** Forgets a watch; what it brought in stays. @returns false when there is no such watch. */
export function dropWatch(store: Store, id: number): boolean {
  return write(store, () => {
    statement(store.raw, 'DELETE FROM watched_files WHERE watch_id = ?').run(id);
    return statement(store.raw, 'DELETE FROM watches WHERE id = ?').run(id).changes > 0;
  });
}

/** Notes what a look brought, and what the server said of its copy. */
export function noteLook(
  store: Store,
  id: number,
  look: { outcome: string; etag?: string | null; modified?: string | null; hash?: string | null },
): void {
  write(store, () => {
    const watch = readWatch(store, id);
    if (!watch) return;
    const { etag, modified, hash } = { ...watch, ...look };
    statement(
      store.raw,
      'UPDATE watches SET last_at = ?, outcome = ?, etag = ?, modified = ?, hash = ? WHERE id = ?',
    ).run(store.now(), look.outcome, etag, modified, hash, id);
  });
}

export interface WatchedFile {
  name: string;
  bytes: number;
  modifiedAt: number;
  hash: string;
}

export function watchedFiles(store: Store, watchId: number): Map<string, WatchedFile> {
  const rows = statement(
    store.raw,
    'SELECT name, bytes, modified_at AS modifiedAt, hash FROM watched_files WHERE watch_id = ?',
  ).all(watchId) as WatchedFile[];
  return new Map(rows.map((row) => [row.name, row]));
}

/** Call inside the transaction that makes the file's source. @param sourceId null: its content was taken before. */
export function putWatchedFile(store: Store, watchId: number, file: WatchedFile, sourceId: number | null): void {
  statement(store.raw, 'INSERT OR REPLACE INTO watched_files VALUES (?, ?, ?, ?, ?, ?)').run(
    watchId,
    file.name,
    file.bytes,
    file.modifiedAt,
    file.hash,
    sourceId,
  );
}
