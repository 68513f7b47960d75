import { BLOCK } from './bits';
import { PoolColumns } from './columns';
import { CHOICE_FACTS, type FactName, MEMBER_FACTS, NUMBER_FACTS, TIME_FACTS } from './facts';
import type { FurtherOffer } from './offer';

/** Changes with the layout of what is written; another one is not read. */
export const SNAPSHOT_FORMAT = 2;

type Column = Uint8Array | Uint16Array | Uint32Array | Float32Array;
const TYPES = { Uint8Array, Uint16Array, Uint32Array, Float32Array };

/** What the columns are made of: a description, and arrays in its order. */
export interface Snapshot {
  header: SnapshotHeader;
  arrays: Column[];
}
export interface SnapshotHeader {
  format: number;
  /** All facts there are; a product with others has to read the database. */
  facts: string;
  count: number;
  version: number;
  splitCount: number;
  splitRows: number;
  arrays: { key: string; type: keyof typeof TYPES; length: number }[];
  dictionaries: Record<string, string[]>;
  extents: Partial<Record<FactName, [number, number]>>;
  /** Open offers beside those of the rows. */
  further: [row: number, offers: readonly FurtherOffer[]][];
}

const FACTS_TEXT = [...NUMBER_FACTS, ...TIME_FACTS, ...CHOICE_FACTS, ...MEMBER_FACTS].join(' ');

/** The arrays are views of the living columns: good until the next change. */
export function takeSnapshot(columns: PoolColumns): Snapshot {
  const { count } = columns;
  const rows = BLOCK * columns.blocks;
  const arrays: Column[] = [];
  const described: SnapshotHeader['arrays'] = [];
  const add = (key: string, array: Column) => {
    arrays.push(array);
    described.push({ key, type: array.constructor.name as keyof typeof TYPES, length: array.length });
  };
  add('ids', columns.ids.subarray(0, count));
  add('nameStart', columns.nameStart.subarray(0, count + 1));
  add('nameBytes', columns.nameBytes.subarray(0, columns.nameStart[count]));
  add('labelLength', columns.labelLength.subarray(0, count));
  add('splits', columns.splits.subarray(0, 2 * count));
  for (const fact of NUMBER_FACTS)
    if (columns.numbers[fact].length > 0) add(fact, columns.numbers[fact].subarray(0, rows));
  for (const fact of TIME_FACTS) if (columns.times[fact].length > 0) add(fact, columns.times[fact].subarray(0, rows));
  // what names tell is looked for again when somebody asks
  for (const fact of CHOICE_FACTS)
    if (columns.choices[fact].length > 0 && fact !== 'nameSubject') add(fact, columns.choices[fact].subarray(0, rows));
  for (const [set, bits] of columns.members.source) add(`source ${set}`, bits.subarray(0, columns.blocks));
  return {
    header: {
      format: SNAPSHOT_FORMAT,
      facts: FACTS_TEXT,
      count,
      version: columns.version,
      splitCount: columns.splitCount,
      splitRows: columns.splitRows,
      arrays: described,
      dictionaries: Object.fromEntries(CHOICE_FACTS.map((fact) => [fact, columns.dictionaries[fact].words])),
      extents: columns.extents,
      further: [...columns.further.entries()],
    },
    arrays,
  };
}

/** Bytes an array takes in a file: its own, and up to the next eight. */
export function paddedBytes(bytes: number): number {
  return Math.ceil(bytes / 8) * 8;
}

/**
 * Columns from what `takeSnapshot` gave. Sets other than sources are not in it.
 *
 * @param bytes the arrays one after another, each begun at a multiple of eight.
 * @throws RangeError when the description and the bytes do not fit each other or this product.
 */
export function fromSnapshot(header: SnapshotHeader, bytes: Uint8Array): PoolColumns {
  if (header.format !== SNAPSHOT_FORMAT || header.facts !== FACTS_TEXT)
    throw new RangeError('it is of another version');
  const { count } = header;
  // room to grow, so that the first new rows do not make everything move
  const columns = new PoolColumns(Math.ceil(count * 1.1) + 1024);
  let at = bytes.byteOffset;
  const end = bytes.byteOffset + bytes.byteLength;
  for (const { key, type, length } of header.arrays) {
    const size = length * TYPES[type].BYTES_PER_ELEMENT;
    if (at + size > end) throw new RangeError('it is cut short');
    columns.restore(key, new TYPES[type](bytes.buffer as ArrayBuffer, at, length));
    at += paddedBytes(size);
  }
  for (const fact of CHOICE_FACTS)
    for (const word of (header.dictionaries[fact] ?? []).slice(1)) columns.dictionaries[fact].codeOf(word);
  Object.assign(columns.extents, header.extents);
  for (const [row, offers] of header.further) columns.further.put(row, offers);
  columns.splitCount = header.splitCount;
  columns.splitRows = header.splitRows;
  columns.restored(count, header.version);
  return columns;
}
