import type { PoolColumns } from './columns';
import type { Sort } from './conditions';
import { type ChoiceFact, countsBackwards, factSpec, isChoiceFact, isNumberFact, isTimeFact } from './facts';
import { type FurtherOffer, OFFER_FACTS, type OfferFact } from './offer';

/** Keys at or above this are unknown values: they come last in either direction. */
const UNKNOWN = 0xffffffff;
/** Rows that are sorted by another offer than the one they show. */
type Others = ReadonlyMap<number, FurtherOffer>;
const NO_OTHERS: Others = new Map();

/**
 * A 32-bit key for each of `rows`, so that ascending keys are the wanted order, unknown last.
 * Floats are mapped by their bits (sign flipped for positive, all flipped for negative), which keeps their order. Names give their first
 * four letters only.
 */
function sortKeys(columns: PoolColumns, rows: Uint32Array, sort: Sort, others: Others): Uint32Array {
  const keys = keysOf(columns, rows, sort);
  if (others.size === 0 || !isByOffers(sort)) return keys;
  for (let i = 0; i < rows.length; i++) {
    const offer = others.get(rows[i]);
    if (offer) keys[i] = keyOfOffer(columns, offer, sort);
  }
  return keys;
}

/** Whether rows stand by an offer, which may be another than the one they show. */
export const isByOffers = ({ fact }: Sort) => (OFFER_FACTS as readonly string[]).includes(fact);

/** The key of an offer that a row does not show; as those of rows. */
function keyOfOffer(columns: PoolColumns, offer: FurtherOffer, { fact, descending }: Sort): number {
  const value = offer[fact as OfferFact];
  if (value === null) return UNKNOWN;
  if (typeof value === 'number' && isTimeFact(fact)) return descending !== countsBackwards(fact) ? ~value >>> 0 : value;
  if (typeof value === 'number') return floatKey(new Uint32Array(Float32Array.of(value).buffer)[0], descending);
  if (!isChoiceFact(fact)) return UNKNOWN;
  const places = placesOf(columns, fact);
  const code = columns.dictionaries[fact].find(value);
  if (code <= 0) return UNKNOWN;
  return descending ? 0xffff - places[code] : places[code];
}

function floatKey(raw: number, descending: boolean): number {
  const ascending = raw >>> 31 ? ~raw >>> 0 : (raw | 0x80000000) >>> 0;
  return descending ? ~ascending >>> 0 : ascending;
}

function keysOf(columns: PoolColumns, rows: Uint32Array, sort: Sort): Uint32Array {
  const keys = new Uint32Array(rows.length);
  const { fact, descending } = sort;
  if (isNumberFact(fact)) {
    const column = columns.numbers[fact];
    if (column.length === 0) return keys.fill(UNKNOWN);
    const bits = new Uint32Array(column.buffer);
    for (let i = 0; i < rows.length; i++) {
      const raw = bits[rows[i]];
      const isNan = (raw & 0x7fffffff) > 0x7f800000;
      keys[i] = isNan ? UNKNOWN : floatKey(raw, descending);
    }
  } else if (isTimeFact(fact)) {
    const values = columns.times[fact];
    if (values.length === 0) return keys.fill(UNKNOWN);
    const flip = descending !== countsBackwards(fact);
    for (let i = 0; i < rows.length; i++) {
      const value = values[rows[i]];
      keys[i] = value === 0 ? UNKNOWN : flip ? ~value >>> 0 : value;
    }
  } else if (isChoiceFact(fact)) {
    const places = placesOf(columns, fact);
    const codes = columns.choices[fact];
    if (codes.length === 0) return keys.fill(UNKNOWN);
    for (let i = 0; i < rows.length; i++) {
      const code = codes[rows[i]];
      keys[i] = code === 0 ? UNKNOWN : descending ? 0xffff - places[code] : places[code];
    }
  } else {
    for (let i = 0; i < rows.length; i++) {
      const key = namePart(columns, rows[i], 0);
      keys[i] = descending ? ~key >>> 0 : key;
    }
  }
  return keys;
}

/** Four letters of a name as a number, 0 behind its end. */
function namePart({ nameBytes, nameStart }: PoolColumns, row: number, from: number): number {
  const at = nameStart[row] + from;
  const end = nameStart[row + 1];
  let key = 0;
  for (let i = 0; i < 4; i++) key = (key << 8) | (at + i < end ? nameBytes[at + i] : 0);
  return key >>> 0;
}

/** Place of each code in the order people expect: as declared for closed lists (phases), by alphabet else. */
function placesOf(columns: PoolColumns, fact: ChoiceFact): Uint16Array {
  const { words } = columns.dictionaries[fact];
  const declared = factSpec(fact).choices;
  const rank = (word: string) => (declared ? declared.indexOf(word) : 0);
  const order = words
    .map((_, code) => code)
    .sort((a, b) => rank(words[a]) - rank(words[b]) || (words[a] < words[b] ? -1 : 1));
  const places = new Uint16Array(words.length);
  order.forEach((code, place) => {
    places[code] = place;
  });
  return places;
}

function compareNames({ nameBytes, nameStart }: PoolColumns, a: number, b: number): number {
  const lengthA = nameStart[a + 1] - nameStart[a];
  const lengthB = nameStart[b + 1] - nameStart[b];
  const shared = Math.min(lengthA, lengthB);
  for (let i = 0; i < shared; i++) {
    const difference = nameBytes[nameStart[a] + i] - nameBytes[nameStart[b] + i];
    if (difference !== 0) return difference;
  }
  return lengthA - lengthB;
}

/** A name is nobody else's, so what comes after it decides nothing. */
function deciding(sorts: Sort[]): Sort[] {
  const name = sorts.findIndex(({ fact }) => fact === 'name');
  return name < 0 ? sorts : sorts.slice(0, name + 1);
}

/**
 * Sorts rows by facts, the first deciding, the others where those before are equal; ties by row number, which is the order of arrival.
 * By a radix sort from the last fact to the first (LSD, two passes of 16 bits each), which keeps what is equal in its order.
 *
 * @param rows in ascending row order. Not changed.
 * @param others offers by which rows are sorted instead of those that they show.
 * @param top how many of the first rows are wanted; the result has at least as many, or all.
 */
export function sortRows(
  columns: PoolColumns,
  rows: Uint32Array,
  sorts: Sort[],
  top: number,
  others: Others = NO_OTHERS,
): Uint32Array {
  const used = deciding(sorts);
  if (used.length === 0) return rows;
  let order = rows;
  let firstKeys: Uint32Array | null = sortKeys(columns, rows, used[0], others);
  if (top < rows.length / 4) {
    const picked = firstByKey(firstKeys, top);
    if (picked.length < rows.length) {
      order = picked.map((at) => rows[at]);
      firstKeys = null;
    }
  }
  for (const sort of [...used].reverse()) {
    if (sort.fact === 'name') order = sortByName(columns, order, sort.descending);
    else {
      const isFirst = sort === used[0] && order === rows;
      order = radixSort(order, isFirst && firstKeys ? firstKeys : sortKeys(columns, order, sort, others));
    }
  }
  return order;
}

/**
 * Two lists of rows as one, in the same order.
 *
 * @param first in that order already, as is `second`; no row is in both.
 */
export function mergeRows(
  columns: PoolColumns,
  sorts: Sort[],
  first: Uint32Array,
  second: Uint32Array,
  others: Others = NO_OTHERS,
): Uint32Array {
  const tests = deciding(sorts).map((sort) => ({
    sort,
    ofFirst: sortKeys(columns, first, sort, others),
    ofSecond: sortKeys(columns, second, sort, others),
  }));
  const merged = new Uint32Array(first.length + second.length);
  let a = 0;
  let b = 0;
  for (let at = 0; at < merged.length; at++) {
    let order = a < first.length ? 0 : 1;
    if (b === second.length) order = -1;
    for (let n = 0; order === 0 && n < tests.length; n++) {
      const { sort, ofFirst, ofSecond } = tests[n];
      order = ofFirst[a] - ofSecond[b];
      if (order === 0 && sort.fact === 'name')
        order = (sort.descending ? -1 : 1) * compareNames(columns, first[a], second[b]);
    }
    if (order === 0) order = first[a] - second[b];
    merged[at] = order < 0 ? first[a++] : second[b++];
  }
  return merged;
}

/** By the first eight letters, then by comparing where those are the same. */
function sortByName(columns: PoolColumns, rows: Uint32Array, descending: boolean): Uint32Array {
  const flip = descending ? 0xffffffff : 0;
  const part = (order: Uint32Array, from: number) => order.map((row) => (namePart(columns, row, from) ^ flip) >>> 0);
  const order = radixSort(radixSort(rows, part(rows, 4)).slice(), null, (sorted) => part(sorted, 0));
  const same = (a: number, b: number) =>
    namePart(columns, a, 0) === namePart(columns, b, 0) && namePart(columns, a, 4) === namePart(columns, b, 4);
  const direction = descending ? -1 : 1;
  for (let at = 0; at < order.length; ) {
    let end = at + 1;
    while (end < order.length && same(order[at], order[end])) end++;
    if (end - at > 1) order.subarray(at, end).sort((a, b) => direction * compareNames(columns, a, b) || a - b);
    at = end;
  }
  return order;
}

/** Stable. @param keys of `rows` in their order; null: made by `keysOf`. */
function radixSort(
  rows: Uint32Array,
  keys: Uint32Array | null,
  keysOf: (rows: Uint32Array) => Uint32Array = () => new Uint32Array(0),
): Uint32Array {
  const { length } = rows;
  let fromKeys = keys ?? keysOf(rows);
  let fromRows = rows;
  if (length < 2000) {
    const order = Array.from({ length }, (_, i) => i).sort((a, b) => fromKeys[a] - fromKeys[b] || a - b);
    return Uint32Array.from(order, (i) => rows[i]);
  }
  for (const shift of [0, 16]) {
    const counts = new Uint32Array(65537);
    for (let i = 0; i < length; i++) counts[((fromKeys[i] >>> shift) & 0xffff) + 1]++;
    for (let c = 1; c < 65537; c++) counts[c] += counts[c - 1];
    const toKeys = new Uint32Array(length);
    const toRows = new Uint32Array(length);
    for (let i = 0; i < length; i++) {
      const place = counts[(fromKeys[i] >>> shift) & 0xffff]++;
      toKeys[place] = fromKeys[i];
      toRows[place] = fromRows[i];
    }
    fromKeys = toKeys;
    fromRows = toRows;
  }
  return fromRows;
}

/**
 * Positions of all keys that can be among the `top` lowest: a histogram of the upper 16 bits finds the cut, ties at the
 * cut included. May return more than `top`, never fewer.
 */
function firstByKey(keys: Uint32Array, top: number): Uint32Array {
  const histogram = new Uint32Array(65536);
  for (let i = 0; i < keys.length; i++) histogram[keys[i] >>> 16]++;
  let cut = 0;
  let seen = 0;
  while (cut < 65536 && seen < top) seen += histogram[cut++];
  const picked = new Uint32Array(seen);
  let at = 0;
  for (let i = 0; i < keys.length; i++) if (keys[i] >>> 16 < cut) picked[at++] = i;
  return picked;
}

/** How many of `rows` come before `row` in the wanted order. */
export function placeOfRow(
  columns: PoolColumns,
  rows: Uint32Array,
  sorts: Sort[],
  row: number,
  others: Others = NO_OTHERS,
): number {
  const used = deciding(sorts);
  const one = Uint32Array.of(row);
  const tests = used.map((sort) => ({
    sort,
    mine: sortKeys(columns, one, sort, others)[0],
    keys: sortKeys(columns, rows, sort, others),
  }));
  let before = 0;
  for (let i = 0; i < rows.length; i++) {
    let order = 0;
    for (const { sort, mine, keys } of tests) {
      order = keys[i] < mine ? -1 : keys[i] > mine ? 1 : 0;
      if (order === 0 && sort.fact === 'name') order = (sort.descending ? -1 : 1) * compareNames(columns, rows[i], row);
      if (order !== 0) break;
    }
    if (order < 0 || (order === 0 && rows[i] < row)) before++;
  }
  return before;
}
