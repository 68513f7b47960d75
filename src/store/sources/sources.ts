import type { SOURCE_KINDS } from '../../core/formats/source-kinds';
import { type Store, statement, write } from '../base/database';

export type SourceKind = (typeof SOURCE_KINDS)[number];

export interface SourceCounts {
  rows_read: number;
  rows_taken: number;
  rows_repeated: number;
  rows_excluded: number;
  rows_set_aside: number;
  domains_new: number;
}

export interface SourceRow extends SourceCounts {
  id: number;
  kind: SourceKind;
  name: string;
  detail: Record<string, unknown>;
  created_at: number;
  undone_at: number | null;
  /** What undoing it did. */
  undone: { left: number; named: number; shortlisted: number } | null;
}

export function addSource(store: Store, kind: SourceKind, name: string, detail: object): number {
  return write(store, () =>
    Number(
      statement(store.raw, 'INSERT INTO sources (kind, name, detail, created_at) VALUES (?, ?, ?, ?)').run(
        kind,
        name,
        JSON.stringify(detail),
        store.now(),
      ).lastInsertRowid,
    ),
  );
}

/** Adds to what is kept of a source. */
export function keepDetail(store: Store, id: number, detail: object): void {
  write(store, () =>
    statement(store.raw, 'UPDATE sources SET detail = json_patch(detail, ?) WHERE id = ?').run(
      JSON.stringify(detail),
      id,
    ),
  );
}

type PackedSource = Omit<SourceRow, 'detail' | 'undone'> & { detail: string; undone: string | null };

export function listSources(store: Store): SourceRow[] {
  return (statement(store.raw, 'SELECT * FROM sources ORDER BY id DESC').all() as PackedSource[]).map(unpack);
}

export function readSource(store: Store, id: number): SourceRow | null {
  const row = statement(store.raw, 'SELECT * FROM sources WHERE id = ?').get(id) as PackedSource | undefined;
  return row ? unpack(row) : null;
}

/** A source that is known to be there. @throws when it is not. */
export function sourceOf(store: Store, id: number): SourceRow {
  const source = readSource(store, id);
  if (!source) throw new Error(`source ${id} is gone`);
  return source;
}

function unpack(row: PackedSource): SourceRow {
  return { ...row, detail: JSON.parse(row.detail), undone: row.undone ? JSON.parse(row.undone) : null };
}

/** Adds to a source's counts. Call inside the transaction that writes what is counted. */
export function countRows(store: Store, sourceId: number, counts: Partial<SourceCounts>): void {
  statement(
    store.raw,
    `UPDATE sources SET rows_read = rows_read + ?, rows_taken = rows_taken + ?, rows_repeated = rows_repeated + ?,
     rows_excluded = rows_excluded + ?, rows_set_aside = rows_set_aside + ?, domains_new = domains_new + ? WHERE id = ?`,
  ).run(
    counts.rows_read ?? 0,
    counts.rows_taken ?? 0,
    counts.rows_repeated ?? 0,
    counts.rows_excluded ?? 0,
    counts.rows_set_aside ?? 0,
    counts.domains_new ?? 0,
    sourceId,
  );
}

export interface Reject {
  line: number;
  reason: string;
  sample: string;
}

/** @returns false when the line was set aside before. */
export function putReject(store: Store, sourceId: number, reject: Reject): boolean {
  return (
    statement(store.raw, 'INSERT OR IGNORE INTO rejects VALUES (?, ?, ?, ?)').run(
      sourceId,
      reject.line,
      reject.reason,
      reject.sample,
    ).changes > 0
  );
}

export function* eachReject(store: Store, sourceId: number, limit = -1): Generator<Reject> {
  const rows = store.raw.prepare('SELECT line, reason, sample FROM rejects WHERE source_id = ? ORDER BY line LIMIT ?');
  for (const row of rows.iterate(sourceId, limit)) yield row as Reject;
}

/** Domains of a source by phase. */
export function phasesOfSource(store: Store, sourceId: number): { phase: string; domains: number }[] {
  return store.raw
    .prepare(
      `SELECT d.phase, count(*) AS domains FROM sightings s JOIN domains d ON d.id = s.domain_id
       WHERE s.source_id = ? GROUP BY d.phase ORDER BY domains DESC`,
    )
    .all(sourceId) as { phase: string; domains: number }[];
}
