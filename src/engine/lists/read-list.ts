import { z } from 'zod';
import { type CsvProblem, CsvReader, type CsvRow } from '../../core/formats/csv';
import { CsvByteReader } from '../../core/formats/csv-bytes';
import { DATE_ORDERS, type DateOrder, orderOf } from '../../core/formats/dates';
import { JsonLinesReader } from '../../core/formats/json-lines';
import { emptyBatch, type ListBatch, ListBatchBuilder } from '../../core/formats/list-batch';
import { EXCLUDED, fieldsOf, ListByteReader } from '../../core/formats/list-bytes';
import { type ListPreview, previewList } from '../../core/formats/list-columns';
import { LIST_FIELDS, LIST_FORMATS, type ListField } from '../../core/formats/list-fields';
import { type ListFigure, statedFigures } from '../../core/formats/list-figures';
import { ListRowReader } from '../../core/formats/list-row';
import { packRow, packRows, packTable } from '../../core/formats/raw-rows';
import { type ColumnTally, tallied } from '../../core/formats/tally';
import { type Told, ToldSchema } from '../../core/formats/told';
import type { Reject } from '../../store/sources/sources';
import { asTextFile } from '../files/plain-table';
import { lookAtFile, textChunks, utf8Chunks } from '../files/text-file';

export const ListParams = z.object({
  path: z.string(),
  format: z.enum(LIST_FORMATS).default('table'),
  delimiter: z.string().length(1).default(','),
  hasHeader: z.boolean().default(false),
  /** Rows before the first that counts; absent: they are looked for. */
  headRows: z.number().int().min(0).optional(),
  /** Which of two numbers comes first where dates are written in numbers, told by a person. */
  order: z.enum(DATE_ORDERS).nullable().default(null),
  /** What times that are left count from, ms since 1970 UTC. */
  now: z.number().nullable().default(null),
  /** Which sheet, array or file of it is the list; null: the likeliest. */
  sheet: z.string().nullable().default(null),
  columns: z.array(z.enum(LIST_FIELDS)),
  /** How the columns are written; absent: it is looked for. */
  told: z.array(ToldSchema).optional(),
  /** At which place of SCORES a score stands, by its name. */
  scores: z.record(z.string(), z.number().int().min(0)).default({}),
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

/**
 * A part of a list, read and ready to be written. rows = batch.count + rejects + excluded. Parts are cut from a window of rows
 * that was sorted as a whole, so that each writes to a small stretch of the index of names.
 */
export interface ListPart {
  rows: number;
  /** Rows of the window, in the last of its parts; else 0. */
  windowRows: number;
  batch: ListBatch;
  rejects: Reject[];
  excluded: number;
  blocks: RawBlock[];
  /** What became of the cells of the window, in the last of its parts. */
  tally: ColumnTally[];
  /** Share of the file read so far, 0 to 1. */
  readShare: number;
}

/** Rows that are sorted together: half as many as were read before, so that writing begins at once and the next window is read by the time that this one is written. */
const MOST_WINDOW_ROWS = 1 << 18;
const windowRows = (before: number) => Math.min(MOST_WINDOW_ROWS, Math.max(PART_ROWS, before >> 1));
/** Rows a transaction: it holds the database's only write lock, so a fortieth of a second's worth. */
const PART_ROWS = 4_000;
const BLOCK_ROWS = 400;
const SAMPLE_CHARS = 120;

export type ListItem = CsvRow | CsvProblem;
type ReadAs = Pick<ListParams, 'format' | 'delimiter' | 'keys'> & { headRows: number; sheet?: string | null };

/**
 * Reads a list from its file, in parts, each handed on when the one before was taken. The same file and `skip` give the same parts.
 *
 * @param skip rows that were written before, passed over; it ends a window.
 * @param emit resolves when the part is taken; false: stop reading.
 * @throws JobError on a file that cannot be read.
 */
export async function readList(
  params: ListParams,
  skip: number,
  emit: (part: ListPart) => Promise<boolean> | boolean,
): Promise<void> {
  const path = await asTextFile(params.path, params.sheet);
  const kind = await lookAtFile(path);
  const shape = shapeBy(params, kind.sample);
  let toSkip = skip;
  let readShare = 0;
  const packer = new PartPacker(params, shape.told, skip);
  const isNew = () => {
    if (toSkip === 0) return true;
    toSkip--;
    return false;
  };
  const reader = packingReader(params, shape.headRows, packer, isNew);
  const flush = async (): Promise<boolean> => {
    for (const part of packer.take()) if (!(await emit({ ...part, readShare }))) return false;
    return true;
  };
  for await (const chunk of utf8Chunks(path, kind, (share) => {
    readShare = share;
  })) {
    reader.write(chunk);
    packer.endBlock();
    if (!(await flush())) return;
  }
  reader.end();
  packer.endWindow();
  readShare = 1;
  await flush();
}

/** How the rows of a list are read by what is known of it, and by the start of its file for the rest. */
function shapeBy(
  { columns, delimiter, hasHeader, headRows, order, told, now }: ReadingParams,
  sample: string,
): ListPreview {
  return previewList(sample, { columns, delimiter, hasHeader, headRows, told, ...(order && { order }) }, now);
}

type ReadingParams = Pick<ListParams, 'columns' | 'delimiter' | 'hasHeader' | 'headRows' | 'order' | 'told' | 'now'>;

/**
 * What a list's columns and titles are, looked for in its start; where that does not tell whether days or months come first, in all of it.
 *
 * @throws JobError on a file that cannot be read.
 */
export async function settleReading(params: ListParams): Promise<{ headRows: number; told: Told[] }> {
  const path = await asTextFile(params.path, params.sheet);
  const { headRows, told, untold } = shapeBy(params, (await lookAtFile(path)).sample);
  if (untold.length === 0) return { headRows, told };
  const values: string[][] = untold.map(() => []);
  let order: DateOrder | null = null;
  for await (const item of eachListItem(params.path, { ...params, headRows })) {
    if ('reason' in item) continue;
    for (const [n, column] of untold.entries()) values[n].push(item.fields[column] ?? '');
    if (values[0].length < ORDER_ROWS) continue;
    order = toldBy(values);
    if (order !== null) break;
    for (const column of values) column.length = 0;
  }
  order ??= toldBy(values);
  return { headRows, told: order === null ? told : told.map((one) => ({ ...one, order: one.order ?? order })) };
}

/** Rows that are looked through at a time for a day that is no month. */
const ORDER_ROWS = 10_000;

function toldBy(columns: readonly string[][]): DateOrder | null {
  for (const values of columns) {
    const { order } = orderOf(values);
    if (order !== null) return order;
  }
  return null;
}

/** Hands the rows of a file to the packer, without its header and those that are not new. */
function packingReader(params: ListParams, headRows: number, packer: PartPacker, isNew: () => boolean) {
  const { format, delimiter, keys, columns } = params;
  if (format === 'json-lines') {
    const decoder = new TextDecoder();
    const take = (item: ListItem) => isNew() && packer.add(item);
    const lines = new JsonLinesReader(take, take, keys);
    return {
      write: (chunk: Uint8Array) => lines.write(decoder.decode(chunk, { stream: true })),
      end: () => {
        lines.write(decoder.decode());
        lines.end();
      },
    };
  }
  const table: CsvByteReader = new CsvByteReader(
    {
      row: () => isNew() && packer.addFrom(table),
      problem: (line, reason, sample) => isNew() && packer.add({ line, reason, sample }),
    },
    { delimiter, headRows, width: columns.length },
  );
  return table;
}

/** A reader of the rows of a file, without its header. */
function readerOf({ format, delimiter, headRows, keys }: ReadAs, take: (item: ListItem) => void) {
  if (format === 'json-lines') return new JsonLinesReader(take, take, keys);
  let pending = headRows;
  const onItem = (item: ListItem) => {
    if (pending > 0) pending--;
    else take(item);
  };
  return new CsvReader(onItem, onItem, { delimiter, maxRowChars: 64 * 1024 });
}

/** The rows of a file one by one, and what could not be read of it. @throws JobError on a file that cannot be read. */
export async function* eachListItem(given: string, as: ReadAs): AsyncGenerator<ListItem> {
  const path = await asTextFile(given, as.sheet);
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

type PackedPart = Omit<ListPart, 'readShare'>;

/** Packs rows as they come, so that nothing of them is kept but what is packed, and cuts windows that are full into parts. */
class PartPacker {
  private readonly columns: ListField[];
  private readonly rowReader: ListRowReader;
  private readonly byteReader: ListByteReader;
  private readonly excluded: Set<string>;
  private done: PackedPart[] = [];
  private size: number;
  private readonly scores: ListParams['scores'];
  private readonly stated: ListFigure[];
  private builder: ListBatchBuilder;
  private rejects: Reject[] = [];
  private blocks: RawBlock[] = [];
  private excludedRows = 0;
  private raw = '';
  private rawRows = 0;
  private firstLine = 0;
  /** Of a table: the bytes that the block's rows stand in, from where to where. */
  private table: CsvByteReader | null = null;
  private blockStart = 0;
  private blockStop = 0;
  /** Of the window that is being packed. */
  private rows = 0;

  /** @param told how the columns are written. @param before rows that were read before. */
  constructor(
    { columns, excludedEndings, now, scores }: ListParams,
    told: readonly Told[],
    private before: number,
  ) {
    this.columns = columns;
    this.rowReader = new ListRowReader(columns, told, now);
    this.excluded = new Set(excludedEndings);
    this.byteReader = new ListByteReader(columns, (ending) => isExcluded(ending, this.excluded), told, now, scores);
    this.scores = scores;
    this.stated = statedFigures(columns, told, scores);
    this.size = windowRows(before);
    this.builder = this.newBuilder();
  }

  private newBuilder(): ListBatchBuilder {
    return new ListBatchBuilder(this.size, this.stated, this.scores);
  }

  /** Takes the row at hand of a table; its block must end before the table's bytes change. */
  addFrom(table: CsvByteReader): void {
    this.makeRoom();
    const left = this.byteReader.take(table, this.builder);
    this.excludedRows += this.byteReader.excluded;
    if (left === null) {
      if (this.rawRows === 0) {
        this.firstLine = table.line;
        this.table = table;
        this.blockStart = table.rowStart;
      }
      this.blockStop = table.rowStop;
      this.endRow();
    } else if (left !== EXCLUDED) this.reject(table.line, left, fieldsOf(table, this.columns.length));
  }

  add(item: ListItem): void {
    this.makeRoom();
    if ('reason' in item) {
      this.rejects.push(item);
      return;
    }
    const rows = this.rowReader.readAll(item.fields);
    if (typeof rows === 'string') {
      this.reject(item.line, rows, item.fields);
      return;
    }
    const kept = rows.filter(({ ending }) => !isExcluded(ending, this.excluded));
    this.excludedRows += rows.length - kept.length;
    if (kept.length === 0) return;
    for (const row of kept) this.builder.add(row, item.line);
    if (this.rawRows === 0) this.firstLine = item.line;
    this.raw += packRow(item.line, item.fields);
    this.endRow();
  }

  private makeRoom(): void {
    if (this.builder.isFull || this.rows >= this.size) this.endWindow();
    this.rows++;
  }

  private reject(line: number, reason: string, fields: string[]): void {
    this.rejects.push({ line, reason, sample: fields.join(' · ').slice(0, SAMPLE_CHARS) });
  }

  private endRow(): void {
    if (++this.rawRows >= BLOCK_ROWS) this.endBlock();
  }

  endWindow(): void {
    if (this.rows === 0) return;
    this.endBlock();
    const batches = this.builder.take(PART_ROWS);
    // a window in which every row was set aside is a part all the same
    if (batches.length === 0) batches.push(emptyBatch(0, 0));
    const blocksEach = Math.ceil(this.blocks.length / batches.length);
    for (const [part, batch] of batches.entries()) {
      const isFirst = part === 0;
      const rejects = isFirst ? this.rejects : [];
      const excluded = isFirst ? this.excludedRows : 0;
      this.done.push({
        rows: batch.count + rejects.length + excluded,
        windowRows: part === batches.length - 1 ? this.rows : 0,
        batch,
        rejects,
        excluded,
        blocks: this.blocks.slice(part * blocksEach, (part + 1) * blocksEach),
        tally: part === batches.length - 1 ? tallied(this.rowReader.tally.take(), this.byteReader.tally.take()) : [],
      });
    }
    this.before += this.rows;
    const size = windowRows(this.before);
    if (size !== this.size) {
      this.size = size;
      this.builder = this.newBuilder();
    }
    this.rejects = [];
    this.blocks = [];
    this.rows = this.excludedRows = 0;
  }

  /** Parts that have ended since the last time. */
  take(): PackedPart[] {
    const { done } = this;
    this.done = [];
    return done;
  }

  endBlock(): void {
    if (this.rawRows === 0) return;
    const { table, blockStart, blockStop } = this;
    const packed = table ? packTable(table.bytes.subarray(blockStart, blockStop)) : packRows(this.raw);
    this.blocks.push({ firstLine: this.firstLine, packed });
    this.raw = '';
    this.rawRows = 0;
  }
}

/** `co.uk` is excluded by `co.uk` and by `uk`. */
export function isExcluded(ending: string, excluded: Set<string>): boolean {
  return excluded.size > 0 && (excluded.has(ending) || excluded.has(ending.slice(ending.lastIndexOf('.') + 1)));
}
