import { inflateRawSync } from 'node:zlib';
import { readListRow } from '../core/formats/list-columns';
import type { ListField } from '../core/formats/list-fields';
import { findRow } from '../core/formats/raw-rows';
import { type Store, statement } from './database';

/** Keeps rows of a list as they stood. @param packed core/formats/raw-rows, deflated. */
export function putRawRows(store: Store, sourceId: number, firstLine: number, packed: Uint8Array): void {
  statement(store.raw, 'INSERT OR REPLACE INTO raw_rows VALUES (?, ?, ?)').run(sourceId, firstLine, packed);
}

/** What a line of a list said, by the columns it was read with; null when the line is not kept. */
export function saidOnLine(
  store: Store,
  sourceId: number,
  line: number,
  columns: readonly ListField[],
): Record<string, unknown> | null {
  const packed = statement(
    store.raw,
    'SELECT rows FROM raw_rows WHERE source_id = ? AND first_line <= ? ORDER BY first_line DESC LIMIT 1',
  )
    .pluck()
    .get(sourceId, line) as Buffer | undefined;
  const fields = packed ? findRow(inflateRawSync(packed).toString('utf8'), line) : null;
  const row = fields && readListRow(fields, columns);
  if (!row || typeof row === 'string') return null;
  const { domain: _, ending: __, ...said } = row;
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== null));
}
