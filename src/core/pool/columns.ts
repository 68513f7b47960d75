import { LIST_PHASES, type ListBatch } from '../formats/list-batch';
import { LISTING_KINDS } from '../formats/list-fields';
import { CPC, LIST_FIGURES } from '../formats/list-figures';
import { type Splitter, wordsAt } from '../names/word-split';
import { BLOCK, bitsIn, hasBit } from './bits';
import { ChangedRows } from './changed-rows';
import { Dictionary } from './dictionary';
import {
  CHOICE_FACTS,
  type ChoiceFact,
  type FactName,
  isChoiceFact,
  isNumberFact,
  isTimeFact,
  MEMBER_FACTS,
  type MemberFact,
  NUMBER_FACTS,
  type NumberFact,
  type PoolRow,
  TIME_FACTS,
  type TimeFact,
} from './facts';
import { FurtherOffers } from './further-offers';

/** Facts that `put` takes from a row; the index makes the others. */
const GIVEN_NUMBERS = NUMBER_FACTS.filter((fact) => fact !== 'words' && fact !== 'trustShare') as Exclude<
  NumberFact,
  'words' | 'trustShare'
>[];
const GIVEN_CHOICES = CHOICE_FACTS.filter((fact) => fact !== 'nameSubject') as Exclude<ChoiceFact, 'nameSubject'>[];

/**
 * The pool as columns: row r of every array is the same domain. Names lie one after another in `nameBytes` (ASCII,
 * A-labels); row r is `nameStart[r] … nameStart[r + 1] - 1`, and its label before the ending is `labelLength[r]` long.
 * A row is never removed or moved, so a row number stays good; names are written once, other values in place. A column exists from
 * its first known value on; until then it has no length.
 */
export class PoolColumns {
  count = 0;
  /** Grows with every change; a result made from an older version is stale. */
  version = 0;
  ids: Uint32Array;
  nameBytes: Uint8Array;
  nameStart: Uint32Array;
  labelLength: Uint8Array;
  /** Where words begin in the label, two halves of 32 bits a row; both 0: not split yet. */
  splits: Uint32Array;
  readonly numbers: Record<NumberFact, Float32Array>;
  readonly times: Record<TimeFact, Uint32Array>;
  readonly choices: Record<ChoiceFact, Uint16Array>;
  readonly dictionaries: Record<ChoiceFact, Dictionary>;
  /** Rows that belong to a set of a fact, one bit each in blocks of 32. */
  readonly members: Record<MemberFact, Map<number, Uint32Array>>;
  /** Open offers beside the one that a row has. */
  readonly further = new FurtherOffers();
  /** Least and greatest value a number or time ever had. */
  readonly extents: Partial<Record<FactName, [low: number, high: number]>> = {};
  /** Rows before this one have been split into words. */
  splitCount = 0;
  /** Rows before this one have the subject that their name tells; it is looked for when it is first asked about. */
  subjectCount = 0;
  /** How many rows have been split in all: what is made from words is stale when it has grown. */
  splitRows = 0;
  /** Which rows changed when. */
  readonly changed = new ChangedRows();
  /** Row by domain id, -1 where the id is not in the pool. */
  private rowById: Int32Array;
  private capacity: number;

  constructor(capacity = 1024) {
    this.capacity = BLOCK * Math.ceil(Math.max(16, capacity) / BLOCK);
    this.ids = new Uint32Array(this.capacity);
    this.nameBytes = new Uint8Array(this.capacity * 20);
    this.nameStart = new Uint32Array(this.capacity + 1);
    this.labelLength = new Uint8Array(this.capacity);
    this.splits = new Uint32Array(2 * this.capacity);
    this.rowById = new Int32Array(this.capacity).fill(-1);
    this.numbers = record(NUMBER_FACTS, () => new Float32Array(0));
    this.times = record(TIME_FACTS, () => new Uint32Array(0));
    this.choices = record(CHOICE_FACTS, () => new Uint16Array(0));
    this.dictionaries = record(CHOICE_FACTS, () => new Dictionary());
    this.members = record(MEMBER_FACTS, () => new Map());
  }

  /** Row of a domain id, or -1. */
  rowOf(id: number): number {
    return id < this.rowById.length ? this.rowById[id] : -1;
  }

  /** Blocks of 32 rows. */
  get blocks(): number {
    return Math.ceil(this.count / BLOCK);
  }

  /** Adds a domain or replaces its values. Its name cannot change. */
  put(row: PoolRow): void {
    let at = this.rowOf(row.id);
    if (at < 0) {
      const bytes = new Uint8Array(row.name.length);
      for (let i = 0; i < bytes.length; i++) bytes[i] = row.name.charCodeAt(i);
      at = this.append(row.id, bytes, 0, bytes.length, row.ending.length);
    }
    for (const fact of GIVEN_NUMBERS) this.setNumber(fact, at, row[fact]);
    const { strength, trust } = row;
    this.setNumber('trustShare', at, strength === null || trust === null || strength === 0 ? null : trust / strength);
    for (const fact of TIME_FACTS) this.setTime(fact, at, row[fact]);
    for (const fact of GIVEN_CHOICES) this.setChoice(fact, at, row[fact]);
    this.further.put(at, row.further ?? []);
    this.touch(at);
  }

  private setNumber(fact: NumberFact, at: number, value: number | null): void {
    if (value === null) {
      if (this.numbers[fact].length > 0) this.numbers[fact][at] = Number.NaN;
      return;
    }
    const column = this.numberColumn(fact);
    column[at] = value;
    this.widen(fact, column[at]);
  }

  private setTime(fact: TimeFact, at: number, value: number | null): void {
    if (!value) {
      if (this.times[fact].length > 0) this.times[fact][at] = 0;
      return;
    }
    this.timeColumn(fact)[at] = value;
    this.widen(fact, value);
  }

  private setChoice(fact: ChoiceFact, at: number, value: string | null): void {
    if (value === null) {
      if (this.choices[fact].length > 0) this.choices[fact][at] = 0;
      return;
    }
    this.choiceColumn(fact)[at] = this.dictionaries[fact].codeOf(value);
  }

  /** The column of a fact, made when it gets its first value. */
  private numberColumn(fact: NumberFact): Float32Array {
    if (this.numbers[fact].length === 0) this.numbers[fact] = new Float32Array(this.capacity).fill(Number.NaN);
    return this.numbers[fact];
  }

  private timeColumn(fact: TimeFact): Uint32Array {
    if (this.times[fact].length === 0) this.times[fact] = new Uint32Array(this.capacity);
    return this.times[fact];
  }

  private choiceColumn(fact: ChoiceFact): Uint16Array {
    if (this.choices[fact].length === 0) this.choices[fact] = new Uint16Array(this.capacity);
    return this.choices[fact];
  }

  private widen(fact: FactName, value: number): void {
    const extent = this.extents[fact];
    if (!extent) this.extents[fact] = [value, value];
    else if (value < extent[0]) extent[0] = value;
    else if (value > extent[1]) extent[1] = value;
  }

  /** A mark of the person, ahead of the row being read again. */
  judge(id: number, judged: string): void {
    const row = this.rowOf(id);
    if (row < 0) return;
    this.setChoice('judged', row, judged);
    this.touch(row);
  }

  private touch(row: number): void {
    this.touchRows(row, row + 1);
  }

  /** Rows from `first` up to but not including `stop` have changed. */
  private touchRows(first: number, stop: number): void {
    this.version++;
    this.changed.touch(first, stop);
  }

  /**
   * Adds the rows of a list that are new to the database, straight from the batch they were written from, a column at a time.
   *
   * @param rateOf what one unit of a currency costs in the user's; NaN: not known.
   * @param at when they were named, seconds since 1970.
   * @param venue where the list's offers stand, unless a row says otherwise.
   */
  putBatch(
    batch: ListBatch,
    ids: Uint32Array,
    isNew: Uint8Array,
    rateOf: (currency: string | null) => number,
    at: number,
    venue: string | null = null,
  ): void {
    const wordOf = (code: number) => (code === 0 ? null : batch.words[code - 1]);
    const first = this.count;
    /** Rows of the batch that are new here, in order: the first of them becomes row `first`. */
    const taken = new Uint32Array(batch.count);
    let count = 0;
    for (let r = 0; r < batch.count; r++) {
      if (isNew[r] === 0 || this.rowOf(ids[r]) >= 0) continue;
      const start = r === 0 ? 0 : batch.nameEnd[r - 1];
      this.append(ids[r], batch.nameBytes, start, batch.nameEnd[r], wordOf(batch.ending[r])?.length ?? 0);
      taken[count++] = r;
    }
    const rows = taken.subarray(0, count);
    const { listing } = batch;
    const rates = [null, ...batch.words].map(rateOf);
    const prices = new Float64Array(batch.count);
    for (const r of rows) prices[r] = Math.round(batch.priceMinor[r] * rates[batch.currency[r]]) / 100;
    const isOffered = (r: number) => listing[r] > 0;
    this.fillNumbers('length', first, rows, (r) => batch.length[r]);
    this.fillNumbers('hyphens', first, rows, (r) => batch.hyphens[r]);
    this.fillNumbers('digits', first, rows, (r) => batch.digits[r]);
    this.fillNumbers('price', first, rows, (r) => prices[r]);
    this.fillNumbers('bids', first, rows, (r) => batch.bids[r]);
    this.fillStated(batch, first, rows, rates);
    this.fillTimes('age', first, rows, (r) => secondsOf(batch.registeredAt[r]));
    this.fillTimes('closing', first, rows, (r) => secondsOf(batch.closingAt[r]));
    this.fillTimes('drop', first, rows, (r) => secondsOf(batch.dropAt[r]));
    for (const fact of ['added', 'named'] as const) this.fillTimes(fact, first, rows, () => at);
    this.fillTimes('offerRead', first, rows, (r) => (isOffered(r) ? at : 0));
    this.fillChoices('ending', first, rows, this.codesOf('ending', [null, ...batch.words]), (r) => batch.ending[r]);
    this.fillChoices('phase', first, rows, this.codesOf('phase', ['unknown', ...LIST_PHASES]), (r) => batch.phase[r]);
    this.fillChoices('judged', first, rows, this.codesOf('judged', ['not-yet']), () => 0);
    this.fillChoices('listing', first, rows, this.codesOf('listing', [null, ...LISTING_KINDS]), (r) => listing[r]);
    const venues = this.codesOf('venue', [null, venue, ...batch.words]);
    this.fillChoices('venue', first, rows, venues, (r) => (isOffered(r) ? batch.venue[r] + 1 : 0));
    this.touchRows(first, this.count);
  }

  /** What the list states in figures; the price of a click in the user's currency, in whole units. */
  private fillStated({ figures, cpcCurrency }: ListBatch, first: number, rows: Uint32Array, rates: number[]): void {
    for (const [n, column] of figures.entries()) {
      if (column.length === 0) continue;
      const figureOf =
        n === CPC ? (r: number) => Math.round(column[r] * rates[cpcCurrency[r]]) / 100 : (r: number) => column[r];
      this.fillNumbers(LIST_FIGURES[n], first, rows, figureOf);
    }
  }

  /** Fills in a fact of the rows from `first` on. A column that does not exist is made for the first value that is known. */
  private fillNumbers(fact: NumberFact, first: number, rows: Uint32Array, value: (r: number) => number): void {
    if (this.numbers[fact].length === 0 && rows.every((r) => Number.isNaN(value(r)))) return;
    const column = this.numberColumn(fact);
    let low = Number.POSITIVE_INFINITY;
    let high = Number.NEGATIVE_INFINITY;
    for (let n = 0; n < rows.length; n++) {
      column[first + n] = value(rows[n]);
      const given = column[first + n];
      if (given < low) low = given;
      if (given > high) high = given;
    }
    if (low > high) return;
    this.widen(fact, low);
    this.widen(fact, high);
  }

  private fillTimes(fact: TimeFact, first: number, rows: Uint32Array, value: (r: number) => number): void {
    if (this.times[fact].length === 0 && rows.every((r) => value(r) === 0)) return;
    const column = this.timeColumn(fact);
    let low = Number.POSITIVE_INFINITY;
    let high = 0;
    for (let n = 0; n < rows.length; n++) {
      const given = value(rows[n]);
      column[first + n] = given;
      if (given > 0 && given < low) low = given;
      if (given > high) high = given;
    }
    if (high === 0) return;
    this.widen(fact, low);
    this.widen(fact, high);
  }

  /** Codes of words, each looked up when a row first has it: a word that no row has gets no code. */
  private codesOf(fact: ChoiceFact, words: readonly (string | null)[]): (place: number) => number {
    const codes = new Int32Array(words.length).fill(-1);
    const dictionary = this.dictionaries[fact];
    return (place) => {
      if (codes[place] < 0) codes[place] = dictionary.codeOf(words[place]);
      return codes[place];
    };
  }

  private fillChoices(
    fact: ChoiceFact,
    first: number,
    rows: Uint32Array,
    codeOf: (place: number) => number,
    place: (r: number) => number,
  ): void {
    if (this.choices[fact].length === 0 && rows.every((r) => codeOf(place(r)) === 0)) return;
    const column = this.choiceColumn(fact);
    for (let n = 0; n < rows.length; n++) column[first + n] = codeOf(place(rows[n]));
  }

  /** The same columns without some rows. Rows keep their order and get other numbers. */
  without(ids: Iterable<number>): PoolColumns {
    const isOut = new Uint8Array(this.count);
    for (const id of ids) {
      const row = this.rowOf(id);
      if (row >= 0) isOut[row] = 1;
    }
    const rows = new Uint32Array(this.count);
    let count = 0;
    for (let row = 0; row < this.count; row++) if (isOut[row] === 0) rows[count++] = row;
    const kept = new PoolColumns(count);
    for (let at = 0; at < count; at++) {
      const row = rows[at];
      kept.append(this.ids[row], this.nameBytes, this.nameStart[row], this.nameStart[row + 1], 0);
      kept.labelLength[at] = this.labelLength[row];
      kept.splits[2 * at] = this.splits[2 * row];
      kept.splits[2 * at + 1] = this.splits[2 * row + 1];
      if (row < this.splitCount) kept.splitCount = at + 1;
    }
    const gather = <T extends Float32Array | Uint32Array | Uint16Array>(from: T): T => {
      if (from.length === 0) return from;
      const to = new (from.constructor as new (length: number) => T)(kept.capacity);
      for (let at = 0; at < count; at++) to[at] = from[rows[at]];
      return to;
    };
    for (const fact of NUMBER_FACTS) kept.numbers[fact] = gather(this.numbers[fact]);
    for (const fact of TIME_FACTS) kept.times[fact] = gather(this.times[fact]);
    for (const fact of CHOICE_FACTS) {
      kept.choices[fact] = gather(this.choices[fact]);
      for (const word of this.dictionaries[fact].words.slice(1)) kept.dictionaries[fact].codeOf(word);
    }
    for (const fact of MEMBER_FACTS)
      for (const [set, bits] of this.members[fact]) {
        const fresh = new Uint32Array(kept.capacity / BLOCK);
        let isNamed = false;
        for (let at = 0; at < count; at++) {
          if (!hasBit(bits, rows[at])) continue;
          fresh[at >> 5] |= 1 << (at & 31);
          isNamed = true;
        }
        if (isNamed) kept.members[fact].set(set, fresh);
      }
    for (let at = 0; at < count; at++) kept.further.put(at, this.further.of(rows[at]));
    Object.assign(kept.extents, structuredClone(this.extents));
    kept.splitRows = this.splitRows;
    kept.version = this.version + 1;
    return kept;
  }

  /** Empties a set of a fact: a source that names nothing any more, a tag that is gone. */
  dropSet(fact: MemberFact, set: number): void {
    this.members[fact].delete(set);
    this.version++;
    this.changed.touchAll();
  }

  /** Puts domains into a set, or takes them out. Ids outside the pool are passed over. */
  setMembers(fact: MemberFact, set: number, ids: Iterable<number>, isIn = true): void {
    let bits: Uint32Array | undefined;
    for (const id of ids) {
      const row = this.rowOf(id);
      if (row < 0) continue;
      bits ??= this.membersOf(fact, set);
      if (isIn) bits[row >> 5] |= 1 << (row & 31);
      else bits[row >> 5] &= ~(1 << (row & 31));
      this.version++;
      this.changed.touchSets(row);
    }
  }

  private membersOf(fact: MemberFact, set: number): Uint32Array {
    let bits = this.members[fact].get(set);
    if (!bits || bits.length * BLOCK < this.capacity) {
      const wider = new Uint32Array(this.capacity / BLOCK);
      if (bits) wider.set(bits);
      bits = wider;
      this.members[fact].set(set, bits);
    }
    return bits;
  }

  /** Latest time a source named a domain. */
  noteNamed(id: number, at: number): void {
    const row = this.rowOf(id);
    if (row < 0 || at <= (this.times.named[row] ?? 0)) return;
    this.setTime('named', row, at);
    this.touch(row);
  }

  isMember(fact: MemberFact, set: number, row: number): boolean {
    const bits = this.members[fact].get(set);
    return bits !== undefined && hasBit(bits, row);
  }

  nameOf(row: number): string {
    return asciiText(this.nameBytes, this.nameStart[row], this.nameStart[row + 1]);
  }

  labelOf(row: number): string {
    return asciiText(this.nameBytes, this.nameStart[row], this.nameStart[row] + this.labelLength[row]);
  }

  isSplit(row: number): boolean {
    return (this.splits[2 * row] | this.splits[2 * row + 1]) !== 0;
  }

  /** Splits the name of a row into words, once. */
  splitRow(row: number, splitter: Splitter): void {
    if (this.isSplit(row)) return;
    const start = this.nameStart[row];
    splitter.starts(this.nameBytes, start, start + this.labelLength[row], this.splits, 2 * row);
    this.setNumber('words', row, bitsIn(this.splits[2 * row]) + bitsIn(this.splits[2 * row + 1]));
    this.splitRows++;
  }

  /**
   * Looks for what names tell by their words, from the first that was not looked at yet, at most `limit` of them.
   *
   * @param subjectOf title of the subject that words tell; null: none that shows.
   * @returns whether any are left.
   */
  readSubjects(splitter: Splitter, subjectOf: (words: readonly string[]) => string | null, limit: number): boolean {
    const stop = Math.min(this.count, this.subjectCount + limit);
    for (let row = this.subjectCount; row < stop; row++) {
      this.splitRow(row, splitter);
      this.setChoice('nameSubject', row, subjectOf(this.wordsOf(row)));
    }
    this.subjectCount = stop;
    return stop < this.count;
  }

  /** The words of a name, once it has been split. */
  wordsOf(row: number): string[] {
    const label = this.labelOf(row);
    return wordsAt(label, this.splits[2 * row], this.splits[2 * row + 1]).words;
  }

  /** Names are to be split anew. */
  forgetSplits(): void {
    this.subjectCount = 0;
    this.splits.fill(0);
    this.splitCount = 0;
    this.splitRows++;
    this.version++;
  }

  /** Labels of about so many rows, spread evenly. */
  sampleLabels(most: number): string[] {
    const step = Math.max(1, Math.ceil(this.count / most));
    const labels: string[] = [];
    for (let row = 0; row < this.count; row += step) {
      const start = this.nameStart[row];
      labels.push(String.fromCharCode(...this.nameBytes.subarray(start, start + this.labelLength[row])));
    }
    return labels;
  }

  /** Splits names that have not been split yet, at most `limit` of them. @returns whether any are left. */
  splitSome(splitter: Splitter, limit: number): boolean {
    const stop = Math.min(this.count, this.splitCount + limit);
    for (let row = this.splitCount; row < stop; row++) this.splitRow(row, splitter);
    this.splitCount = stop;
    return stop < this.count;
  }

  /** Takes in an array of a snapshot, before anything else is done. @throws RangeError for one that has no place here. */
  restore(key: string, array: Uint8Array | Uint16Array | Uint32Array | Float32Array): void {
    const { capacity } = this;
    if (key === 'ids' || key === 'labelLength' || key === 'nameStart' || key === 'splits') this[key].set(array);
    else if (key === 'nameBytes') {
      this.nameBytes = new Uint8Array(Math.ceil(array.length * 1.1) + 1024);
      this.nameBytes.set(array);
    } else if (key.startsWith('source ')) {
      const bits = new Uint32Array(capacity / BLOCK);
      bits.set(array);
      this.members.source.set(Number(key.slice(7)), bits);
    } else if (isNumberFact(key as FactName) && array instanceof Float32Array) {
      const column = new Float32Array(capacity).fill(Number.NaN, array.length);
      column.set(array);
      this.numbers[key as NumberFact] = column;
    } else if (isTimeFact(key as FactName) && array instanceof Uint32Array) {
      this.times[key as TimeFact] = widened(array, capacity);
    } else if (isChoiceFact(key as FactName) && array instanceof Uint16Array) {
      this.choices[key as ChoiceFact] = widened(array, capacity);
    } else throw new RangeError(`nothing is called "${key}"`);
  }

  /** All arrays are in their places. */
  restored(count: number, version: number): void {
    this.count = count;
    this.version = version + 1;
    let greatest = 0;
    for (let row = 0; row < count; row++) if (this.ids[row] > greatest) greatest = this.ids[row];
    this.rowById = new Int32Array(Math.ceil((greatest + 1) * 1.1)).fill(-1);
    for (let row = 0; row < count; row++) this.rowById[this.ids[row]] = row;
  }

  /** A row for the name that stands in `bytes` from `from` up to but not including `to`. */
  private append(id: number, bytes: Uint8Array, from: number, to: number, endingLength: number): number {
    if (this.count === this.capacity) this.grow();
    const at = this.count++;
    const start = this.nameStart[at];
    const end = start + to - from;
    if (end > this.nameBytes.length) this.nameBytes = widened(this.nameBytes, Math.max(end, this.nameBytes.length * 2));
    for (let i = from; i < to; i++) this.nameBytes[start + i - from] = bytes[i];
    this.nameStart[at + 1] = end;
    this.labelLength[at] = to - from - endingLength - 1;
    this.ids[at] = id;
    if (id >= this.rowById.length) {
      const wider = new Int32Array(Math.max(id + 1, this.rowById.length * 2)).fill(-1);
      wider.set(this.rowById);
      this.rowById = wider;
    }
    this.rowById[id] = at;
    return at;
  }

  private grow(): void {
    const before = this.capacity;
    this.capacity *= 2;
    const { capacity } = this;
    this.ids = widened(this.ids, capacity);
    this.nameStart = widened(this.nameStart, capacity + 1);
    this.labelLength = widened(this.labelLength, capacity);
    this.splits = widened(this.splits, 2 * capacity);
    for (const fact of NUMBER_FACTS)
      if (this.numbers[fact].length > 0)
        this.numbers[fact] = widened(this.numbers[fact], capacity).fill(Number.NaN, before);
    for (const fact of TIME_FACTS)
      if (this.times[fact].length > 0) this.times[fact] = widened(this.times[fact], capacity);
    for (const fact of CHOICE_FACTS)
      if (this.choices[fact].length > 0) this.choices[fact] = widened(this.choices[fact], capacity);
  }
}

function record<K extends string, V>(keys: readonly K[], make: () => V): Record<K, V> {
  return Object.fromEntries(keys.map((key) => [key, make()])) as Record<K, V>;
}

function widened<T extends Uint8Array | Uint16Array | Uint32Array | Float32Array>(array: T, length: number): T {
  const wider = new (array.constructor as new (length: number) => T)(length);
  wider.set(array);
  return wider;
}

/** ms since 1970 as seconds; 0: not known. */
function secondsOf(ms: number): number {
  return ms >= 1000 ? Math.floor(ms / 1000) : 0;
}

function asciiText(bytes: Uint8Array, start: number, end: number): string {
  let text = '';
  for (let at = start; at < end; at++) text += String.fromCharCode(bytes[at]);
  return text;
}
