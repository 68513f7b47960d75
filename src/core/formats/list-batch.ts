import { nameFacts } from '../names/domain';
import { LISTING_KINDS } from './list-fields';
import { LIST_FIGURES, type ListFigure, SCORES } from './list-figures';
import type { ListRow } from './list-row';

/** Phases a list can speak of; a batch holds their place here plus one, 0 for none. */
export const LIST_PHASES = ['free', 'pending-delete', 'redemption', 'auto-renew', 'active'] as const;

/**
 * Rows of a list packed for the way between threads, nearly in the order of their names, so that a b-tree takes them in along
 * its leaves; rows with one name stay in the order of the file. Row r of every array is the same row. Buffers can be transferred.
 */
export interface ListBatch {
  count: number;
  /** Names (A-labels) one after another; row r ends at `nameEnd[r]`. */
  nameBytes: Uint8Array;
  nameEnd: Uint32Array;
  line: Uint32Array;
  /** Place in `words` plus one, 0 for none. */
  ending: Uint16Array;
  venue: Uint16Array;
  currency: Uint16Array;
  words: string[];
  /** Of the label, in code points. */
  length: Uint8Array;
  hyphens: Uint8Array;
  digits: Uint8Array;
  /** Place in LIST_PHASES and LISTING_KINDS plus one, 0 for none. */
  phase: Uint8Array;
  listing: Uint8Array;
  /** ms since 1970 UTC; NaN: not said. */
  dropAt: Float64Array;
  registeredAt: Float64Array;
  closingAt: Float64Array;
  priceMinor: Float64Array;
  bids: Float64Array;
  /** Figures that the list states, each as long as the batch, by the order of LIST_FIGURES; NaN: not said. Without a column it is empty. */
  figures: Float64Array[];
  /** Of the price of a click: place in `words` plus one; empty without such a column. */
  cpcCurrency: Uint16Array;
}

/** A batch holds at most so many different words; a list with more different venues is cut into more batches. */
const MAX_WORDS = 60_000;
const FIRST_ROWS = 1 << 10;
const NAME_BYTES = 24;

/** Collects rows and packs them. */
export class ListBatchBuilder {
  private readonly words = new Map<string, number>();
  private batch: ListBatch;

  /**
   * @param capacity rows that it can hold.
   * @param stated figures that the list has columns of.
   * @param scores at which place of SCORES a score stands, by its name; those that have none are left out.
   */
  constructor(
    private readonly capacity: number,
    private readonly stated: readonly ListFigure[] = [],
    private readonly scores: Readonly<Record<string, number>> = {},
  ) {
    const rows = Math.min(capacity, FIRST_ROWS);
    this.batch = { ...emptyBatch(rows, rows * NAME_BYTES, stated), count: 0 };
  }

  get isFull(): boolean {
    return this.words.size >= MAX_WORDS || this.batch.count >= this.capacity;
  }

  /**
   * The batch with one row more, to be filled in: its last, `count - 1`. The name goes from `nameEnd` of the row before on; its own end and all values are to be set.
   *
   * @param nameLength bytes that the name has at most.
   */
  open(line: number, nameLength: number): ListBatch {
    if (this.batch.count === this.batch.line.length) this.grow();
    const { batch } = this;
    const r = batch.count++;
    const most = (r === 0 ? 0 : batch.nameEnd[r - 1]) + nameLength;
    if (most > batch.nameBytes.length) {
      const wider = new Uint8Array(2 * most);
      wider.set(batch.nameBytes);
      batch.nameBytes = wider;
    }
    batch.line[r] = line;
    return batch;
  }

  add(row: ListRow, line: number): void {
    const { domain } = row;
    const batch = this.open(line, domain.length);
    const r = batch.count - 1;
    let at = r === 0 ? 0 : batch.nameEnd[r - 1];
    for (let i = 0; i < domain.length; i++) batch.nameBytes[at++] = domain.charCodeAt(i);
    batch.nameEnd[r] = at;
    batch.ending[r] = this.codeOf(row.ending);
    batch.venue[r] = this.codeOf(row.venue);
    batch.currency[r] = this.codeOf(row.currency);
    const facts = nameFacts({ name: domain, ending: row.ending });
    batch.length[r] = facts.length;
    batch.hyphens[r] = facts.hyphens;
    batch.digits[r] = facts.digits;
    batch.phase[r] = row.phase === null ? 0 : LIST_PHASES.indexOf(row.phase) + 1;
    const listing = listingOf(row);
    batch.listing[r] = listing === null ? 0 : LISTING_KINDS.indexOf(listing) + 1;
    batch.dropAt[r] = row.dropAt ?? Number.NaN;
    batch.registeredAt[r] = row.registeredAt ?? Number.NaN;
    batch.closingAt[r] = row.closingAt ?? Number.NaN;
    batch.priceMinor[r] = row.priceMinor ?? Number.NaN;
    batch.bids[r] = row.bids ?? Number.NaN;
    if (this.stated.length === 0) return;
    const figures = statedBy(row, this.scores);
    for (const [n, column] of batch.figures.entries()) if (column.length > 0) column[r] = figures[n];
    if (batch.cpcCurrency.length > 0) batch.cpcCurrency[r] = this.codeOf(row.cpcCurrency);
  }

  private grow(): void {
    const { batch: from } = this;
    // a row with several names may be one more than fits
    const rows = Math.max(from.count + 1, Math.min(this.capacity, 2 * from.count));
    const to: ListBatch = { ...emptyBatch(rows, 0, this.stated), count: from.count, nameBytes: from.nameBytes };
    to.nameEnd.set(from.nameEnd);
    for (const field of ROW_FIELDS) to[field].set(from[field]);
    for (const [n, column] of from.figures.entries()) to.figures[n].set(column);
    to.cpcCurrency.set(from.cpcCurrency);
    this.batch = to;
  }

  /**
   * Hands out the rows in the order of their names and begins anew. Arrays of its own are kept for the next rows.
   *
   * @param partRows rows that a batch has at most, the last of them what is left.
   */
  take(partRows: number): ListBatch[] {
    const { batch: from } = this;
    const order = byName(from);
    const words = [...this.words.keys()];
    const parts: ListBatch[] = [];
    for (let start = 0; start < from.count; start += partRows)
      parts.push(gathered(from, order.subarray(start, start + partRows), words, this.stated));
    this.words.clear();
    from.count = 0;
    return parts;
  }

  /** Place of a word in the batch's words plus one; 0 for none. */
  codeOf(word: string | null): number {
    if (word === null) return 0;
    let code = this.words.get(word);
    if (code === undefined) {
      code = this.words.size + 1;
      this.words.set(word, code);
    }
    return code;
  }
}

const ROW_FIELDS = [
  'line', 'ending', 'venue', 'currency', 'length', 'hyphens', 'digits', 'phase', 'listing', 'dropAt', 'registeredAt',
  'closingAt', 'priceMinor', 'bids',
] as const; // biome-ignore format: a list

/** The figures that a row states, by the order of LIST_FIGURES. */
export function statedBy(row: ListRow, scores: Readonly<Record<string, number>>): number[] {
  const values = [row.referringDomains, row.backlinks, row.traffic, row.keywords, row.position, row.cpcMinor];
  const figures = LIST_FIGURES.map((_, n) => values[n] ?? Number.NaN);
  for (const { name, value } of row.scores) {
    const place = scores[name];
    const at = place === undefined ? -1 : LIST_FIGURES.indexOf(SCORES[place]);
    // of two columns with one name the first that says something
    if (at >= 0 && Number.isNaN(figures[at])) figures[at] = value;
  }
  return figures;
}

/** A batch of rows to be filled in. All of it lies in one buffer, so that handing it to another thread is handing over one. */
export function emptyBatch(rows: number, nameBytes: number, stated: readonly ListFigure[] = []): ListBatch {
  const hasClicks = stated.includes('listCpc');
  const bytesARow = BYTES_A_ROW + stated.length * 8 + (hasClicks ? 2 : 0);
  const buffer = new ArrayBuffer(rows * bytesARow + nameBytes);
  // the widest first: each begins at a multiple of its width
  let at = 0;
  const place = (width: number): [ArrayBuffer, number, number] => {
    const start = at;
    at += rows * width;
    return [buffer, start, rows];
  };
  return {
    count: rows,
    words: [],
    dropAt: new Float64Array(...place(8)),
    registeredAt: new Float64Array(...place(8)),
    closingAt: new Float64Array(...place(8)),
    priceMinor: new Float64Array(...place(8)),
    bids: new Float64Array(...place(8)),
    figures: LIST_FIGURES.map((figure) =>
      stated.includes(figure) ? new Float64Array(...place(8)) : new Float64Array(0),
    ),
    nameEnd: new Uint32Array(...place(4)),
    line: new Uint32Array(...place(4)),
    ending: new Uint16Array(...place(2)),
    venue: new Uint16Array(...place(2)),
    currency: new Uint16Array(...place(2)),
    cpcCurrency: hasClicks ? new Uint16Array(...place(2)) : new Uint16Array(0),
    length: new Uint8Array(...place(1)),
    hyphens: new Uint8Array(...place(1)),
    digits: new Uint8Array(...place(1)),
    phase: new Uint8Array(...place(1)),
    listing: new Uint8Array(...place(1)),
    nameBytes: new Uint8Array(buffer, at, nameBytes),
  };
}
/** Five columns of eight bytes, two of four, three of two, five of one; beside them those of what the list states. */
const BYTES_A_ROW = 5 * 8 + 2 * 4 + 3 * 2 + 5;

/**
 * Rows by the four bytes of their names after what all of them begin with, then by their place. That is not quite the order of
 * the names, and near enough, and takes a small part of the time of comparing names.
 */
function byName(batch: ListBatch): Uint32Array {
  const { count, nameBytes, nameEnd } = batch;
  let shared = count > 0 ? nameEnd[0] : 0;
  for (let row = 1; row < count && shared > 0; row++) {
    const start = nameEnd[row - 1];
    const most = Math.min(shared, nameEnd[row] - start);
    let same = 0;
    while (same < most && nameBytes[start + same] === nameBytes[same]) same++;
    shared = same;
  }
  const keys = new Uint32Array(count);
  for (let row = 0; row < count; row++) {
    const end = nameEnd[row];
    const at = startOf(batch, row) + shared;
    for (let i = 0; i < 4; i++) keys[row] = (keys[row] << 8) | (at + i < end ? nameBytes[at + i] : 0);
  }
  return inOrder(keys);
}

/** Places of keys in their order, equal ones as they stand: sorted by one byte after another, the last first (LSD radix sort). */
function inOrder(keys: Uint32Array): Uint32Array {
  const { length } = keys;
  let order = new Uint32Array(length);
  let other = new Uint32Array(length);
  for (let place = 0; place < length; place++) order[place] = place;
  for (let shift = 0; shift < 32; shift += 8) {
    const starts = new Uint32Array(257);
    for (let place = 0; place < length; place++) starts[((keys[place] >>> shift) & 255) + 1]++;
    for (let byte = 0; byte < 256; byte++) starts[byte + 1] += starts[byte];
    for (let i = 0; i < length; i++) other[starts[(keys[order[i]] >>> shift) & 255]++] = order[i];
    [order, other] = [other, order];
  }
  return order;
}

/** Some rows of a batch, in buffers of their own. */
function gathered(from: ListBatch, rows: Uint32Array, words: string[], stated: readonly ListFigure[]): ListBatch {
  const { nameBytes, nameEnd } = from;
  let bytes = 0;
  for (let r = 0; r < rows.length; r++) bytes += nameEnd[rows[r]] - startOf(from, rows[r]);
  const to: ListBatch = { ...emptyBatch(rows.length, bytes, stated), words };
  const { nameBytes: names, nameEnd: ends } = to;
  let at = 0;
  for (let r = 0; r < rows.length; r++) {
    const row = rows[r];
    const end = nameEnd[row];
    for (let i = row === 0 ? 0 : nameEnd[row - 1]; i < end; i++) names[at++] = nameBytes[i];
    ends[r] = at;
  }
  gatherWords(from.line, rows, to.line);
  for (const field of ['ending', 'venue', 'currency'] as const) gatherHalves(from[field], rows, to[field]);
  for (const field of ['length', 'hyphens', 'digits', 'phase', 'listing'] as const)
    gatherBytes(from[field], rows, to[field]);
  for (const field of ['dropAt', 'registeredAt', 'closingAt', 'priceMinor', 'bids'] as const)
    gatherFigures(from[field], rows, to[field]);
  for (const [n, column] of to.figures.entries()) if (column.length > 0) gatherFigures(from.figures[n], rows, column);
  if (to.cpcCurrency.length > 0) gatherHalves(from.cpcCurrency, rows, to.cpcCurrency);
  return to;
}

// one for each type: a loop that meets all of them takes three times as long
function gatherBytes(from: Uint8Array, rows: Uint32Array, to: Uint8Array): void {
  for (let r = 0; r < rows.length; r++) to[r] = from[rows[r]];
}
function gatherHalves(from: Uint16Array, rows: Uint32Array, to: Uint16Array): void {
  for (let r = 0; r < rows.length; r++) to[r] = from[rows[r]];
}
function gatherWords(from: Uint32Array, rows: Uint32Array, to: Uint32Array): void {
  for (let r = 0; r < rows.length; r++) to[r] = from[rows[r]];
}
function gatherFigures(from: Float64Array, rows: Uint32Array, to: Float64Array): void {
  for (let r = 0; r < rows.length; r++) to[r] = from[rows[r]];
}

function startOf({ nameEnd }: ListBatch, row: number): number {
  return row === 0 ? 0 : nameEnd[row - 1];
}

/** How a row offers its domain. A price or closing time without a kind is taken as the plainest listing; null: it is not offered. */
export function listingOf(row: Pick<ListRow, 'kind' | 'closingAt' | 'priceMinor'>): ListRow['kind'] {
  if (row.kind !== null) return row.kind;
  if (row.closingAt !== null) return 'auction';
  return row.priceMinor === null ? null : 'buy-now';
}

/** What a batch lies in, for handing it to another thread without a copy. */
export function batchBuffers(batch: ListBatch): ArrayBuffer[] {
  const buffers = Object.values(batch).flatMap((value) =>
    ArrayBuffer.isView(value) && value.byteLength > 0 ? [value.buffer] : [],
  );
  return [...new Set(buffers)] as ArrayBuffer[];
}
