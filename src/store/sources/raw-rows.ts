import { readListRow } from '../../core/formats/list-columns';
import type { ListField } from '../../core/formats/list-fields';
import { unpackRows } from '../../core/formats/raw-rows';
import { type Store, statement } from '../base/database';

/** Keeps rows of a list as they stood. @param packed by core/formats/raw-rows. */
export function putRawRows(store: Store, sourceId: number, firstLine: number, packed: Uint8Array): void {
  statement(store.raw, 'INSERT OR REPLACE INTO raw_rows VALUES (?, ?, ?)').run(sourceId, firstLine, packed);
}

/** Blocks that were unpacked lately: rows that are asked for together lie together. */
const MOST_UNPACKED = 128;
const unpacked = new WeakMap<Store, Map<string, Map<number, string[]>>>();

/** How a list was read. */
export interface ListReading {
  columns: readonly ListField[];
  delimiter: string;
}

/** What a line of a list said, by the columns it was read with; null when the line is not kept. */
export function saidOnLine(
  store: Store,
  sourceId: number,
  line: number,
  { columns, delimiter }: ListReading,
): Record<string, unknown> | null {
  const firstLine = statement(
    store.raw,
    'SELECT first_line FROM raw_rows WHERE source_id = ? AND first_line <= ? ORDER BY first_line DESC LIMIT 1',
  )
    .pluck()
    .get(sourceId, line) as number | undefined;
  const fields = firstLine === undefined ? null : blockOf(store, sourceId, firstLine, delimiter).get(line);
  const row = fields && readListRow(fields, columns);
  if (!row || typeof row === 'string') return null;
  const { domain: _, ending: __, ...said } = row;
  return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== null));
}

function blockOf(store: Store, sourceId: number, firstLine: number, delimiter: string): Map<number, string[]> {
  let blocks = unpacked.get(store);
  if (!blocks) {
    blocks = new Map();
    unpacked.set(store, blocks);
  }
  const key = `${sourceId} ${firstLine}`;
  let block = blocks.get(key);
  if (!block) {
    const packed = statement(store.raw, 'SELECT rows FROM raw_rows WHERE source_id = ? AND first_line = ?')
      .pluck()
      .get(sourceId, firstLine) as Buffer;
    block = unpackRows(packed, firstLine, delimiter);
    if (blocks.size >= MOST_UNPACKED) blocks.delete(blocks.keys().next().value as string);
    blocks.set(key, block);
  }
  return block;
}
