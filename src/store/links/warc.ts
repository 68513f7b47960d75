import type { Store } from '../base/database';
import { all, first, knex, run } from '../base/query';
import type { Row } from '../base/schema';

/** A file of captures, and how far it was read. */
export interface WarcFile {
  id: number;
  path: string;
  /** Bytes, and when it was written last: another file under the same name is read anew. */
  size: number;
  modifiedAt: number;
  /** Where the next record begins. */
  readTo: number;
  captures: number;
  /** Why it was not read to its end; null: it was, or is not yet. */
  problem: string | null;
}

/** A capture in a file. */
export interface WarcCapture {
  domain: string;
  at: number;
  url: string;
  status: number;
  offset: number;
  /** Sum of what was answered; '': not stated. */
  digest: string;
}

/** A capture that found what another holds already. */
export interface WarcRevisit extends Omit<WarcCapture, 'offset' | 'status'> {
  /** What its own head says; null: nothing, or that nothing has changed. */
  status: number | null;
  /** The one that holds it, where it is named; else the one before it with the same sum. */
  refersTo: { url: string; at: number } | null;
}

const FILE = { id: 'id', path: 'path', size: 'size', modifiedAt: 'modified_at', readTo: 'read_to', captures: 'captures', problem: 'problem' }; // biome-ignore format: one line

export function warcFiles(store: Store): WarcFile[] {
  return all(store, knex('warc_files').select(FILE).orderBy('path'));
}

/** The file at a path as it is now; where another stood there, what was known of that is forgotten. Call inside a write transaction. */
export function warcFileAt(store: Store, path: string, size: number, modifiedAt: number): WarcFile {
  const known = first(store, knex('warc_files').select(FILE).where('path', path));
  // one that grows is read on
  if (known && known.size <= size && (known.size < size || known.modifiedAt === modifiedAt)) {
    run(store, knex('warc_files').where('id', known.id).update({ size, modified_at: modifiedAt }));
    return { ...known, size, modifiedAt };
  }
  if (known) {
    run(store, knex('warc_captures').where('file_id', known.id).delete());
    run(store, knex('warc_files').where('id', known.id).delete());
  }
  run(
    store,
    knex('warc_files').insert({ path, size, modified_at: modifiedAt, read_to: 0, captures: 0, problem: null }),
  );
  const made = first(store, knex('warc_files').select(FILE).where('path', path));
  if (!made) throw new Error('the file was not kept');
  return made;
}

/**
 * Keeps captures of a file, in their order, and how far it was read. Call inside a write transaction.
 *
 * @returns how many were kept; the others are revisits of what is in no file that was read.
 */
export function putWarcCaptures(
  store: Store,
  file: Pick<WarcFile, 'id' | 'readTo' | 'problem'>,
  captures: readonly (WarcCapture | WarcRevisit)[],
): number {
  let kept = 0;
  for (const capture of captures) {
    const { domain, at, url, digest } = capture;
    const held = 'offset' in capture ? { ...capture, fileId: file.id } : heldBy(store, capture);
    if (held === null) continue;
    kept++;
    const { status, offset, fileId } = held;
    run(
      store,
      knex('warc_captures')
        .insert({ domain, at, url, status, offset, file_id: fileId, digest })
        .onConflict(['domain', 'at', 'url'])
        .ignore(),
    );
  }
  run(
    store,
    knex('warc_files')
      .where('id', file.id)
      .update({ read_to: file.readTo, problem: file.problem })
      .increment('captures', kept),
  );
  return kept;
}

/** Where what a revisit found is held; null: in no file that was read. */
export function heldBy(store: Store, { domain, at, url, digest, status, refersTo }: WarcRevisit) {
  const what = { status: 'status', offset: 'offset', fileId: 'file_id' };
  const named = () =>
    refersTo && first(store, knex('warc_captures').select(what).where({ domain, at: refersTo.at, url: refersTo.url || url })); // biome-ignore format: one line
  // SQLite would walk back over all captures of the domain otherwise
  const alike = () =>
    first(
      store,
      knex
        .select(what)
        .from<Row<'warc_captures'>>(knex.raw('warc_captures INDEXED BY warc_captures_digest'))
        .where({ domain, digest })
        .whereRaw("digest <> ''")
        .where('at', '<=', at)
        .orderBy('at', 'desc')
        .limit(1),
    );
  const found = named() ?? (digest === '' ? undefined : alike());
  return found === undefined ? null : { ...found, status: status ?? found.status };
}

/** Captures of a domain, in the order of time. */
export function warcCapturesOf(store: Store, domain: string): (WarcCapture & { path: string })[] {
  return all(
    store,
    knex('warc_captures as c')
      .join('warc_files as f', 'f.id', 'c.file_id')
      .select({
        domain: 'c.domain',
        at: 'c.at',
        url: 'c.url',
        status: 'c.status',
        offset: 'c.offset',
        digest: 'c.digest',
        path: 'f.path',
      })
      .where('c.domain', domain)
      .orderBy([{ column: 'c.at' }, { column: 'c.url' }]),
  );
}
