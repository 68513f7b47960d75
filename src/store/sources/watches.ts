import { z } from 'zod';
import type { WATCH_KINDS } from '../../core/formats/source-kinds';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, fromJson, knex, pick, run } from '../base/query';
import type { Row } from '../base/schema';

const WATCHED_FILES = columns('watched_files');

export type WatchKind = (typeof WATCH_KINDS)[number];

const Options = z.object({
  excludedEndings: z.array(z.string()),
  checkAfter: z.boolean(),
  /** Of a mail folder: what sender and subject have to hold; '': anything. */
  from: z.string().default(''),
  subject: z.string().default(''),
});

export type WatchOptions = z.infer<typeof Options>;

/** Something that is looked at again and again. Times in ms since 1970 UTC. */
export interface Watch {
  id: number;
  kind: WatchKind;
  /** Path of the folder, or address; of a mail folder `imaps://login@host:port/folder`. */
  target: string;
  name: string;
  /** How its files are imported. */
  options: WatchOptions;
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

function unpack(row: Row<'watches'>): Watch {
  return {
    id: row.id,
    kind: row.kind,
    target: row.target,
    name: row.name,
    options: fromJson(Options, row.options),
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

export type NewWatch = Pick<Watch, 'kind' | 'target' | 'name' | 'sourceId' | 'everyMs'> & {
  options: z.input<typeof Options>;
};

/** @param firstAt when it is looked at first. */
export function addWatch(store: Store, watch: NewWatch, firstAt: number): number {
  return write(store, () =>
    Number(
      run(
        store,
        knex('watches').insert({
          kind: watch.kind,
          target: watch.target,
          name: watch.name,
          options: JSON.stringify(watch.options),
          source_id: watch.sourceId,
          every_ms: watch.everyMs,
          next_at: firstAt,
          created_at: store.now(),
        }),
      ).lastInsertRowid,
    ),
  );
}

export function readWatch(store: Store, id: number): Watch | null {
  const row = first(store, knex('watches').select('*').where('id', id));
  return row ? unpack(row) : null;
}

export function listWatches(store: Store): Watch[] {
  return all(store, knex('watches').select('*').orderBy('id')).map(unpack);
}

export function watchOfSource(store: Store, sourceId: number): Watch | null {
  const row = first(store, knex('watches').select('*').where('source_id', sourceId));
  return row ? unpack(row) : null;
}

export function dueWatches(store: Store, at: number): Watch[] {
  return all(store, knex('watches').select('*').where('is_on', 1).where('next_at', '<=', at).orderBy('next_at')).map(
    unpack,
  );
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
    run(
      store,
      knex('watches')
        .where('id', id)
        .update({ is_on: isOn ? 1 : 0, every_ms: everyMs, next_at: nextAt }),
    );
    return true;
  });
}

/** Forgets a watch; what it brought in stays. @returns false when there is no such watch. */
export function dropWatch(store: Store, id: number): boolean {
  return write(store, () => {
    run(store, knex('watched_files').where('watch_id', id).delete());
    return run(store, knex('watches').where('id', id).delete()).changes > 0;
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
    run(
      store,
      knex('watches').where('id', id).update({ last_at: store.now(), outcome: look.outcome, etag, modified, hash }),
    );
  });
}

export interface WatchedFile {
  name: string;
  bytes: number;
  modifiedAt: number;
  hash: string;
}

export function watchedFiles(store: Store, watchId: number): Map<string, WatchedFile> {
  const rows = all(
    store,
    pick(knex('watched_files'), camel(WATCHED_FILES, 'name', 'bytes', 'modified_at', 'hash')).where(
      'watch_id',
      watchId,
    ),
  );
  return new Map(rows.map((row) => [row.name, row]));
}

/** Call inside the transaction that makes the file's source. @param sourceId null: its content was taken before. */
export function putWatchedFile(store: Store, watchId: number, file: WatchedFile, sourceId: number | null): void {
  run(
    store,
    knex('watched_files')
      .insert({
        watch_id: watchId,
        name: file.name,
        bytes: file.bytes,
        modified_at: file.modifiedAt,
        hash: file.hash,
        source_id: sourceId,
      })
      .onConflict(['watch_id', 'name'])
      .merge(),
  );
}
