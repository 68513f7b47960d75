import { alignedCells, alignedColumns } from '../../core/formats/sheets/aligned';
import { flattened, namedRows } from '../../core/formats/sheets/json';
import { JsonItems } from '../../core/formats/sheets/json-items';
import { textKind } from '../../core/formats/sheets/text';
import { ZoneReader } from '../../core/zones/zone-reader';
import { JobError } from '../runner/context';
import { byteChunks, lookAtFile, textChunks } from './text-file';

/** So much of a document tells which of its arrays is the list. */
const LOOKED_AT_CHARS = 16 << 20;
const LOOKED_AT_ITEMS = 200;
/** Lines that tell where columns begin. */
const LOOKED_AT_LINES = 2000;

/** The rows of a file that is too large to be held, a part at a time: a document of JSON, a zone, a text aligned by spaces. null: it is none of these. */
export async function rowsOfLarge(path: string): Promise<AsyncIterable<string[]> | null> {
  const { sample } = await lookAtFile(path);
  switch (textKind(sample.slice(0, sample.lastIndexOf('\n') + 1) || sample, false)) {
    case 'json':
      return await jsonRows(path);
    case 'zone':
      return zoneRows(path);
    case 'aligned':
      return alignedRows(path, sample);
    default:
      return null;
  }
}

/** Rows of the array that has the most names among those of the document's start; its columns are those of its first objects. */
async function jsonRows(path: string): Promise<AsyncIterable<string[]> | null> {
  const arrays = new Map<string, { count: number; first: unknown[] }>();
  await eachItem(path, (at, item) => {
    const array = arrays.get(at) ?? { count: 0, first: [] };
    arrays.set(at, array);
    if (array.count++ < LOOKED_AT_ITEMS) array.first.push(parsed(item));
  }, LOOKED_AT_CHARS); // biome-ignore format: what is done with each
  let best: { at: string; columns: string[]; named: number } | null = null;
  for (const [at, { count, first }] of arrays) {
    const rows = first.map(flattened);
    const columns = [...new Set(rows.flatMap((row) => [...row.keys()]))];
    const cells = rows.map((row) => columns.map((column) => row.get(column) ?? ''));
    const named = (namedRows({ name: at, rows: cells }) * count) / Math.max(1, first.length);
    if (named > 0 && (!best || named > best.named)) best = { at, columns, named };
  }
  return best && arrayRows(path, best);
}

async function* arrayRows(path: string, { at, columns }: { at: string; columns: string[] }): AsyncGenerator<string[]> {
  // arrays of arrays have places, texts have none: no header
  if (!columns.every((column) => column === '' || /^\d+$/.test(column))) yield columns;
  let rows: string[][] = [];
  const items = new JsonItems((found, item) => {
    if (found !== at) return;
    const cells = flattened(parsed(item));
    rows.push(columns.map((column) => cells.get(column) ?? ''));
  });
  for await (const chunk of textChunks(path, await lookAtFile(path))) {
    cut(items, chunk);
    yield* rows;
    rows = [];
  }
}

async function eachItem(path: string, take: (at: string, item: string) => void, most: number): Promise<void> {
  const items = new JsonItems(take);
  let chars = 0;
  for await (const chunk of textChunks(path, await lookAtFile(path))) {
    cut(items, chunk);
    chars += chunk.length;
    if (chars >= most) return;
  }
}

function cut(items: JsonItems, chunk: string): void {
  try {
    items.write(chunk);
  } catch (error) {
    throw new JobError(`The JSON cannot be read: ${(error as Error).message}.`);
  }
}

function parsed(item: string): unknown {
  try {
    return JSON.parse(item);
  } catch {
    return item;
  }
}

async function* zoneRows(path: string): AsyncGenerator<string[]> {
  let rows: string[][] = [];
  let last = '';
  const decoder = new TextDecoder();
  const reader = new ZoneReader({
    delegation: (owner, length) => {
      const name = decoder.decode(owner.subarray(0, length));
      // one name has several servers, one after the other
      if (name !== last && name.includes('.')) rows.push([name]);
      last = name;
    },
    other: () => undefined,
    problem: () => undefined,
  });
  for await (const chunk of byteChunks(path)) {
    reader.write(chunk);
    yield* rows;
    rows = [];
  }
  reader.end();
  yield* rows;
}

async function* alignedRows(path: string, sample: string): AsyncGenerator<string[]> {
  const lines = sample.split(/\r\n|\n|\r/).slice(0, -1);
  const starts = alignedColumns(lines.slice(0, LOOKED_AT_LINES)) ?? [0];
  let rest = '';
  for await (const chunk of textChunks(path, await lookAtFile(path))) {
    const parts = (rest + chunk).split(/\r\n|\n|\r/);
    rest = parts.pop() ?? '';
    for (const line of parts) if (isRow(line)) yield alignedCells(line, starts);
  }
  if (isRow(rest)) yield alignedCells(rest, starts);
}
const isRow = (line: string) => line.trim() !== '' && !/^[-=+\s|]+$/.test(line);
