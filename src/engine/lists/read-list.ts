import { deflateRawSync } from 'node:zlib';
import { z } from 'zod';
import { type CsvProblem, CsvReader, type CsvRow } from '../../core/formats/csv';
import { JsonLinesReader } from '../../core/formats/json-lines';
import { type ListBatch, ListBatchBuilder, MAX_BATCH_ROWS } from '../../core/formats/list-batch';
import { ListRowReader } from '../../core/formats/list-columns';
import { LIST_FIELDS, LIST_FORMATS } from '../../core/formats/list-fields';
import { packRow } from '../../core/formats/raw-rows';
import type { Reject } from '../../store/sources';
import { lookAtFile, textChunks } from '../text-file';
import { asTextFile } from '../workbook';

export const ListParams = z.object({
  path: z.string(),
  format: z.enum(LIST_FORMATS).default('table'),
  delimiter: z.string().length(1).default(','),
  hasHeader: z.boolean().default(false),
  columns: z.array(z.enum(LIST_FIELDS)),
  /** Of JSON Lines: the key of each column. */
  keys: z.array(z.string()).default([]),
  venue: z.string().nullable().default(null),
  excludedEndings: z.array(z.string()).default([]),
});
export type ListParams = z.infer<typeof ListParams>;

/** Rows of a file as they stood, packed, for looking at later. */
export interface RawBlock {
  firstLine: number;
  packed: Uint8Array;
}

/** A part of a list, read and ready to be written. rows = batch.count + rejects + excluded. */
export interface ListPart {
  rows: number;
  batch: ListBatch;
  rejects: Reject[];
  excluded: number;
  blocks: RawBlock[];
  /** Share of the file read so far, 0 to 1. */
  readShare: number;
}

/** Rows a transaction: it holds the database's only write lock, so a tenth of a second's worth. */
const PART_ROWS = 20_000;
const BLOCK_ROWS = 400;
const SAMPLE_CHARS = 120;

export type ListItem = CsvRow | CsvProblem;
type ReadAs = Pick<ListParams, 'format' | 'delimiter' | 'hasHeader' | 'keys'>;

/**
 * Reads a list from its file, in parts, each handed on when the one before was taken.
 *
 * @param skip rows that were written before, passed over.
 * @param emit resolves when the part is taken; false: stop reading.
 * @throws JobError on a file that cannot be read.
 */
export async function readList(
  params: ListParams,
  skip: number,
  emit: (part: ListPart) => Promise<boolean> | boolean,
): Promise<void> {
  const path = await asTextFile(params.path);
  const kind = await lookAtFile(path);
  const packer = new PartPacker(params);
  let items: ListItem[] = [];
  let toSkip = skip;
  let readShare = 0;
  const reader = readerOf(params, (item) => {
    if (toSkip > 0) toSkip--;
    else items.push(item);
  });
  const flush = async (least: number): Promise<boolean> => {
    let at = 0;
    while (items.length - at >= least && at < items.length) {
      const part = packer.pack(items.slice(at, at + PART_ROWS), readShare);
      at += part.rows;
      if (!(await emit(part))) return false;
    }
    items = items.slice(at);
    return true;
  };
  for await (const chunk of textChunks(path, kind, (share) => {
    readShare = share;
  })) {
    reader.write(chunk);
    if (!(await flush(PART_ROWS))) return;
  }
  reader.end();
  readShare = 1;
  await flush(1);
}

/** A reader of the rows of a file, without its header. */
function readerOf({ format, delimiter, hasHeader, keys }: ReadAs, take: (item: ListItem) => void) {
  if (format === 'json-lines') return new JsonLinesReader(take, take, keys);
  let headerPending = hasHeader;
  const onItem = (item: ListItem) => {
    if (headerPending) headerPending = false;
    else take(item);
  };
  return new CsvReader(onItem, onItem, { delimiter, maxRowChars: 64 * 1024 });
}

/** The rows of a file one by one, and what could not be read of it. @throws JobError on a file that cannot be read. */
export async function* eachListItem(given: string, as: ReadAs): AsyncGenerator<ListItem> {
  const path = await asTextFile(given);
  let items: ListItem[] = [];
  const reader = readerOf(as, (item) => items.push(item));
  for await (const chunk of textChunks(path, await lookAtFile(path))) {
    reader.write(chunk);
    yield* items;
    items = [];
  }
  reader.end();
  yield* items;
}

class PartPacker {
  private readonly rowReader: ListRowReader;
  private readonly excluded: Set<string>;

  constructor({ columns, excludedEndings }: ListParams) {
    this.rowReader = new ListRowReader(columns);
    this.excluded = new Set(excludedEndings);
  }

  /** Packs the items, or as many of them as a batch can hold. */
  pack(items: ListItem[], readShare: number): ListPart {
    const builder = new ListBatchBuilder(Math.min(MAX_BATCH_ROWS, items.length));
    const rejects: Reject[] = [];
    const blocks: RawBlock[] = [];
    let excluded = 0;
    let rows = 0;
    let raw = '';
    let rawRows = 0;
    let firstLine = 0;
    const endBlock = () => {
      if (rawRows > 0) blocks.push({ firstLine, packed: deflateRawSync(raw, { level: 1 }) });
      raw = '';
      rawRows = 0;
    };
    for (const item of items) {
      if (builder.isFull) break;
      rows++;
      if ('reason' in item) {
        rejects.push(item);
        continue;
      }
      const row = this.rowReader.read(item.fields);
      if (typeof row === 'string') {
        rejects.push({ line: item.line, reason: row, sample: item.fields.join(' · ').slice(0, SAMPLE_CHARS) });
        continue;
      }
      if (isExcluded(row.ending, this.excluded)) {
        excluded++;
        continue;
      }
      builder.add(row, item.line);
      if (rawRows === 0) firstLine = item.line;
      raw += packRow(item.line, item.fields);
      if (++rawRows >= BLOCK_ROWS) endBlock();
    }
    endBlock();
    return { rows, batch: builder.finish(), rejects, excluded, blocks, readShare };
  }
}

/** `co.uk` is excluded by `co.uk` and by `uk`. */
export function isExcluded(ending: string, excluded: Set<string>): boolean {
  return excluded.size > 0 && (excluded.has(ending) || excluded.has(ending.slice(ending.lastIndexOf('.') + 1)));
}
