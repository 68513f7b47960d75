import { LIST_PHASES, type ListBatch } from '../formats/list-batch';
import { LISTING_KINDS } from '../formats/list-fields';
import { FACTS, type FactName, type PoolRow } from './facts';

/** Facts held as 32-bit floats, NaN unknown. */
export const NUMBER_FACTS = [
  'length',
  'hyphens',
  'digits',
  'backlinks',
  'referringDomains',
  'strength',
  'trust',
  'spamRisk',
  'readers',
  'price',
] as const satisfies FactName[];
/** Facts held as unsigned seconds, 0 unknown. */
export const TIME_FACTS = ['age', 'firstSeen', 'closing'] as const satisfies FactName[];
/** Facts held as codes of a dictionary, 0 unknown. */
export const CHOICE_FACTS = ['ending', 'phase', 'listing'] as const satisfies FactName[];

export type NumberFact = (typeof NUMBER_FACTS)[number];
export type TimeFact = (typeof TIME_FACTS)[number];
export type ChoiceFact = (typeof CHOICE_FACTS)[number];

export function isNumberFact(fact: FactName): fact is NumberFact {
  return FACTS[fact].kind === 'number';
}
export function isTimeFact(fact: FactName): fact is TimeFact {
  return FACTS[fact].kind === 'time';
}
export function isChoiceFact(fact: FactName): fact is ChoiceFact {
  return FACTS[fact].kind === 'choice';
}

/** Words by code; code 0 is "not known". */
export class Dictionary {
  readonly words: string[] = [''];
  private readonly codes = new Map<string, number>();

  codeOf(word: string | null): number {
    if (word === null) return 0;
    let code = this.codes.get(word);
    if (code === undefined) {
      code = this.words.length;
      if (code > 0xffff) throw new RangeError('a choice fact holds at most 65,535 different words');
      this.words.push(word);
      this.codes.set(word, code);
    }
    return code;
  }

  /** Code of a word, or -1 when no row has it. */
  find(word: string): number {
    return this.codes.get(word) ?? -1;
  }
}

/**
 * The pool as columns: row r of every array is the same domain. Names lie one after another in `nameBytes` (ASCII,
 * A-labels); row r is `nameStart[r] … nameStart[r + 1] - 1`, and its label before the ending is `labelLength[r]` long.
 * A row is never removed or moved, so a row number stays good; names are written once, other values in place.
 */
export class PoolColumns {
  count = 0;
  /** Grows with every change; a result made from an older version is stale. */
  version = 0;
  ids: Uint32Array;
  nameBytes: Uint8Array;
  nameStart: Uint32Array;
  labelLength: Uint8Array;
  readonly numbers: Record<NumberFact, Float32Array>;
  readonly times: Record<TimeFact, Uint32Array>;
  readonly choices: Record<ChoiceFact, Uint16Array>;
  readonly dictionaries: Record<ChoiceFact, Dictionary>;
  /** Rows named by a source, one bit each. */
  readonly members = new Map<number, Uint8Array>();
  /** Row by domain id, -1 where the id is not in the pool. */
  private rowById: Int32Array;
  private capacity: number;

  constructor(capacity = 1024) {
    this.capacity = Math.max(16, capacity);
    this.ids = new Uint32Array(this.capacity);
    this.nameBytes = new Uint8Array(this.capacity * 20);
    this.nameStart = new Uint32Array(this.capacity + 1);
    this.labelLength = new Uint8Array(this.capacity);
    this.rowById = new Int32Array(this.capacity).fill(-1);
    this.numbers = record(NUMBER_FACTS, () => new Float32Array(this.capacity));
    this.times = record(TIME_FACTS, () => new Uint32Array(this.capacity));
    this.choices = record(CHOICE_FACTS, () => new Uint16Array(this.capacity));
    this.dictionaries = record(CHOICE_FACTS, () => new Dictionary());
  }

  /** Row of a domain id, or -1. */
  rowOf(id: number): number {
    return id < this.rowById.length ? this.rowById[id] : -1;
  }

  /** Adds a domain or replaces its values. Its name cannot change. */
  put(row: PoolRow): void {
    let at = this.rowOf(row.id);
    if (at < 0) {
      const bytes = new Uint8Array(row.name.length);
      for (let i = 0; i < bytes.length; i++) bytes[i] = row.name.charCodeAt(i);
      at = this.append(row.id, bytes, row.ending.length);
    }
    for (const fact of NUMBER_FACTS) this.numbers[fact][at] = row[fact] ?? Number.NaN;
    for (const fact of TIME_FACTS) this.times[fact][at] = row[fact] ?? 0;
    for (const fact of CHOICE_FACTS) this.choices[fact][at] = this.dictionaries[fact].codeOf(row[fact]);
    this.version++;
  }

  /**
   * Adds the rows of a list that are new to the database, straight from the batch they were written from.
   *
   * @param priceOf what a price in minor units costs in the user's currency; NaN: not known.
   */
  putBatch(
    batch: ListBatch,
    ids: Uint32Array,
    isNew: Uint8Array,
    priceOf: (minor: number, currency: string | null) => number,
  ): void {
    const { numbers, times, choices, dictionaries } = this;
    const endings = Uint16Array.from(batch.words, (word) => dictionaries.ending.codeOf(word));
    const phases = [null, ...LIST_PHASES].map((phase) => dictionaries.phase.codeOf(phase ?? 'unknown'));
    const listings = [null, ...LISTING_KINDS].map((kind) => dictionaries.listing.codeOf(kind));
    const seconds = (ms: number) => (ms >= 1000 ? Math.floor(ms / 1000) : 0);
    let start = 0;
    for (let r = 0; r < batch.count; r++) {
      const end = batch.nameEnd[r];
      if (isNew[r] === 1 && this.rowOf(ids[r]) < 0) {
        const ending = batch.words[batch.ending[r] - 1];
        const at = this.append(ids[r], batch.nameBytes.subarray(start, end), ending.length);
        for (const fact of NUMBER_FACTS) numbers[fact][at] = Number.NaN;
        for (const fact of TIME_FACTS) times[fact][at] = 0;
        numbers.length[at] = batch.length[r];
        numbers.hyphens[at] = batch.hyphens[r];
        numbers.digits[at] = batch.digits[r];
        const currency = batch.currency[r] === 0 ? null : batch.words[batch.currency[r] - 1];
        numbers.price[at] = priceOf(batch.priceMinor[r], currency);
        times.age[at] = seconds(batch.registeredAt[r]);
        times.closing[at] = seconds(batch.closingAt[r]);
        choices.ending[at] = endings[batch.ending[r] - 1];
        choices.phase[at] = phases[batch.phase[r]];
        choices.listing[at] = listings[batch.listing[r]];
      }
      start = end;
    }
    this.version++;
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
      const [start, end] = [this.nameStart[rows[at]], this.nameStart[rows[at] + 1]];
      kept.append(this.ids[rows[at]], this.nameBytes.subarray(start, end), 0);
      kept.labelLength[at] = this.labelLength[rows[at]];
    }
    const gather = <T extends { [row: number]: number }>(from: T, to: T) => {
      for (let at = 0; at < count; at++) to[at] = from[rows[at]];
    };
    for (const fact of NUMBER_FACTS) gather(this.numbers[fact], kept.numbers[fact]);
    for (const fact of TIME_FACTS) gather(this.times[fact], kept.times[fact]);
    for (const fact of CHOICE_FACTS) {
      gather(this.choices[fact], kept.choices[fact]);
      for (const word of this.dictionaries[fact].words.slice(1)) kept.dictionaries[fact].codeOf(word);
    }
    for (const [source, bits] of this.members) {
      const fresh = new Uint8Array((kept.capacity + 7) >> 3);
      let isNamed = false;
      for (let at = 0; at < count; at++) {
        const row = rows[at];
        if (row >> 3 >= bits.length || (bits[row >> 3] & (1 << (row & 7))) === 0) continue;
        fresh[at >> 3] |= 1 << (at & 7);
        isNamed = true;
      }
      if (isNamed) kept.members.set(source, fresh);
    }
    kept.version = this.version + 1;
    return kept;
  }

  /** Forgets that a source named anything. */
  dropSource(source: number): void {
    this.members.delete(source);
    this.version++;
  }

  /** Notes that a source named these domains. */
  addMembers(source: number, ids: Iterable<number>): void {
    for (const id of ids) this.addMember(source, id);
  }

  /** Notes that a source named a domain. Ids outside the pool are ignored. */
  addMember(source: number, id: number): void {
    const row = this.rowOf(id);
    if (row < 0) return;
    let bits = this.members.get(source);
    const bytes = (this.capacity + 7) >> 3;
    if (!bits || bits.length < bytes) {
      const wider = new Uint8Array(bytes);
      if (bits) wider.set(bits);
      bits = wider;
      this.members.set(source, bits);
    }
    bits[row >> 3] |= 1 << (row & 7);
    this.version++;
  }

  nameOf(row: number): string {
    return asciiText(this.nameBytes, this.nameStart[row], this.nameStart[row + 1]);
  }

  private append(id: number, name: Uint8Array, endingLength: number): number {
    if (this.count === this.capacity) this.grow();
    const at = this.count++;
    const start = this.nameStart[at];
    const end = start + name.length;
    if (end > this.nameBytes.length) this.nameBytes = widened(this.nameBytes, Math.max(end, this.nameBytes.length * 2));
    this.nameBytes.set(name, start);
    this.nameStart[at + 1] = end;
    this.labelLength[at] = name.length - endingLength - 1;
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
    this.capacity *= 2;
    this.ids = widened(this.ids, this.capacity);
    this.nameStart = widened(this.nameStart, this.capacity + 1);
    this.labelLength = widened(this.labelLength, this.capacity);
    for (const fact of NUMBER_FACTS) this.numbers[fact] = widened(this.numbers[fact], this.capacity);
    for (const fact of TIME_FACTS) this.times[fact] = widened(this.times[fact], this.capacity);
    for (const fact of CHOICE_FACTS) this.choices[fact] = widened(this.choices[fact], this.capacity);
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

function asciiText(bytes: Uint8Array, start: number, end: number): string {
  let text = '';
  for (let at = start; at < end; at++) text += String.fromCharCode(bytes[at]);
  return text;
}
