import { type ChoiceFact, isChoiceFact, isNumberFact, isTimeFact, type PoolColumns } from './columns';
import type { Sort } from './conditions';
import { countsBackwards } from './facts';

/** Keys at or above this are unknown values: they come last in either direction. */
const UNKNOWN = 0xffffffff;

/**
 * A 32-bit key for each of `rows`, so that ascending keys are the wanted order, unknown last.
 * Floats are mapped by their bits (sign flipped for positive, all flipped for negative), which keeps their order.
 */
function sortKeys(columns: PoolColumns, rows: Uint32Array, sort: Sort): Uint32Array {
  const keys = new Uint32Array(rows.length);
  const { fact, descending } = sort;
  if (isNumberFact(fact)) {
    const bits = new Uint32Array(columns.numbers[fact].buffer);
    for (let i = 0; i < rows.length; i++) {
      const raw = bits[rows[i]];
      const isNan = (raw & 0x7fffffff) > 0x7f800000;
      const ascending = raw >>> 31 ? ~raw >>> 0 : (raw | 0x80000000) >>> 0;
      keys[i] = isNan ? UNKNOWN : descending ? ~ascending >>> 0 : ascending;
    }
  } else if (isTimeFact(fact)) {
    const values = columns.times[fact];
    const flip = descending !== countsBackwards(fact);
    for (let i = 0; i < rows.length; i++) {
      const value = values[rows[i]];
      keys[i] = value === 0 ? UNKNOWN : flip ? ~value >>> 0 : value;
    }
  } else if (isChoiceFact(fact)) {
    const places = placesOf(columns, fact);
    const codes = columns.choices[fact];
    for (let i = 0; i < rows.length; i++) {
      const code = codes[rows[i]];
      keys[i] = code === 0 ? UNKNOWN : descending ? 0xffff - places[code] : places[code];
    }
  }
  return keys;
}

/** Place of each code in the order people expect: as declared for closed lists (phases), by alphabet else. */
function placesOf(columns: PoolColumns, fact: ChoiceFact): Uint16Array {
  const { words } = columns.dictionaries[fact];
  const order = words.map((_, code) => code).sort((a, b) => (words[a] < words[b] ? -1 : 1));
  const places = new Uint16Array(words.length);
  order.forEach((code, place) => {
    places[code] = place;
  });
  return places;
}

function compareNames(columns: PoolColumns, a: number, b: number): number {
  const { nameBytes, nameStart } = columns;
  const lengthA = nameStart[a + 1] - nameStart[a];
  const lengthB = nameStart[b + 1] - nameStart[b];
  const shared = Math.min(lengthA, lengthB);
  for (let i = 0; i < shared; i++) {
    const difference = nameBytes[nameStart[a] + i] - nameBytes[nameStart[b] + i];
    if (difference !== 0) return difference;
  }
  return lengthA - lengthB;
}

/**
 * Sorts rows by a fact; ties by row number, which is the order of arrival.
 *
 * @param rows in ascending row order, as countFailures gives them. Not changed.
 * @param top how many of the first rows are wanted; the result has at least as many, or all.
 */
export function sortRows(columns: PoolColumns, rows: Uint32Array, sort: Sort, top: number): Uint32Array {
  if (sort.fact === 'name') {
    const direction = sort.descending ? -1 : 1;
    return rows.slice().sort((a, b) => direction * compareNames(columns, a, b) || a - b);
  }
  const keys = sortKeys(columns, rows, sort);
  const picked = top < rows.length / 8 ? firstByKey(keys, top) : null;
  const count = picked ? picked.length : rows.length;
  // key and position packed into 64 bits: the native sort of integers needs no comparator and keeps ties in order
  const packed = new BigUint64Array(count);
  const halves = new Uint32Array(packed.buffer);
  for (let i = 0; i < count; i++) {
    const at = picked ? picked[i] : i;
    halves[2 * i] = at;
    halves[2 * i + 1] = keys[at];
  }
  packed.sort();
  const sorted = new Uint32Array(count);
  for (let i = 0; i < count; i++) sorted[i] = rows[halves[2 * i]];
  return sorted;
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
