import type { ListField } from '../../core/formats/list-fields';
import { ListRowReader } from '../../core/formats/list-row';
import { unpackRows } from '../../core/formats/raw-rows';
import type { Told } from '../../core/formats/told';
import type { Store } from '../base/database';
import { first, knex, run, the } from '../base/query';

/** Keeps rows of a list as they stood. @param packed by core/formats/raw-rows. */
export function putRawRows(store: Store, sourceId: number, firstLine: number, packed: Uint8Array): void {
  run(
    store,
    knex('raw_rows')
      .insert({ source_id: sourceId, first_line: firstLine, rows: packed })
      .onConflict(['source_id', 'first_line'])
      .merge(),
  );
}

/** Blocks that were unpacked lately: rows that are asked for together lie together. */
const MOST_UNPACKED = 128;
const unpacked = new WeakMap<Store, Map<string, Map<number, string[]>>>();

/** How a list was read. */
export interface ListReading {
  columns: readonly ListField[];
  delimiter: string;
  told: readonly Told[];
  /** What times that are left counted from. */
  now: number | null;
}

/** What a line of a list said of a name, by the columns it was read with; null when the line is not kept. */
export function saidOnLine(
  store: Store,
  sourceId: number,
  line: number,
  name: string,
  { columns, delimiter, told, now }: ListReading,
): Record<string, unknown> | null {
  const firstLine = first(
    store,
    knex('raw_rows')
      .where('source_id', sourceId)
      .where('first_line', '<=', line)
      .orderBy('first_line', 'desc')
      .limit(1)
      .pluck('first_line'),
  );
  const fields = firstLine === undefined ? null : blockOf(store, sourceId, firstLine, delimiter).get(line);
  const rows = fields && new ListRowReader(columns, told, now).readAll(fields);
  if (!rows || typeof rows === 'string') return null;
  const { domain: _, ending: __, ...said } = rows.find(({ domain }) => domain === name) ?? rows[0];
  return Object.fromEntries(
    Object.entries(said).filter(([, value]) => value !== null && !(Array.isArray(value) && value.length === 0)),
  );
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
    const packed = the(store, knex('raw_rows').where({ source_id: sourceId, first_line: firstLine }).pluck('rows'));
    block = unpackRows(packed, firstLine, delimiter);
    if (blocks.size >= MOST_UNPACKED) blocks.delete(blocks.keys().next().value as string);
    blocks.set(key, block);
  }
  return block;
}
