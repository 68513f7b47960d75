/** 32-bit hash of bytes: FNV-1a with a final mix, so that its high bits are as good as its low ones. */
export function hashBytes(bytes: Uint8Array, start: number, end: number, seed = 0x811c9dc5): number {
  let hash = seed | 0;
  for (let at = start; at < end; at++) hash = Math.imul(hash ^ bytes[at], 16777619);
  return mix(hash);
}

/** Two 32-bit hashes of bytes, four at a time: the rounds of MurmurHash3_x86_32 (public domain), and a sum of products beside it. */
export class WordHash {
  high = 0;
  low = 0;

  /** Takes the bytes from `start` up to but not including `end`. */
  of(view: DataView, start: number, end: number): void {
    let high = 0x811c9dc5 | 0;
    let low = (end - start) | 0;
    let at = start;
    for (; at + 4 <= end; at += 4) {
      const word = view.getUint32(at, true);
      high = round(high, word);
      low = Math.imul((low ^ word) + ((low << 13) | (low >>> 19)), 0x9e3779b1);
    }
    let rest = 0;
    for (; at < end; at++) rest = (rest << 8) | view.getUint8(at);
    this.high = mix(round(high, rest));
    this.low = mix(Math.imul((low ^ rest) + ((low << 13) | (low >>> 19)), 0x9e3779b1));
  }
}

function round(hash: number, word: number): number {
  const mixed = Math.imul(word, 0xcc9e2d51);
  const turned = hash ^ Math.imul((mixed << 15) | (mixed >>> 17), 0x1b873593);
  return (Math.imul((turned << 13) | (turned >>> 19), 5) + 0xe6546b64) | 0;
}

/** The finish of MurmurHash3 (public domain). */
export function mix(hash: number): number {
  let mixed = hash ^ (hash >>> 16);
  mixed = Math.imul(mixed, 0x85ebca6b);
  mixed ^= mixed >>> 13;
  mixed = Math.imul(mixed, 0xc2b2ae35);
  return (mixed ^ (mixed >>> 16)) >>> 0;
}

/**
 * Numbers names given as bytes, from 0 on. The names lie one after another in one buffer; places in the table hold a name's
 * number plus one, 0 for a free place.
 */
export class NameTable {
  count = 0;
  private bytes = new Uint8Array(1 << 16);
  private ends = new Uint32Array(1 << 12);
  private hashes = new Uint32Array(1 << 12);
  private places = new Uint32Array(1 << 13);

  /** Number of a name; a new one gets the next. */
  add(bytes: Uint8Array, start: number, end: number): number {
    const hash = hashBytes(bytes, start, end);
    if (this.count * 2 > this.places.length) this.widen();
    const { places } = this;
    const mask = places.length - 1;
    let place = hash & mask;
    for (;;) {
      const taken = places[place];
      if (taken === 0) break;
      if (this.hashes[taken - 1] === hash && this.isSame(taken - 1, bytes, start, end)) return taken - 1;
      place = (place + 1) & mask;
    }
    const number = this.count++;
    places[place] = number + 1;
    this.append(number, hash, bytes, start, end);
    return number;
  }

  /** A name, as Latin-1. */
  text(number: number): string {
    const start = this.startOf(number);
    return String.fromCharCode(...this.bytes.subarray(start, this.ends[number]));
  }

  private startOf(number: number): number {
    return number === 0 ? 0 : this.ends[number - 1];
  }

  private isSame(number: number, bytes: Uint8Array, start: number, end: number): boolean {
    const from = this.startOf(number);
    if (this.ends[number] - from !== end - start) return false;
    for (let i = 0; i < end - start; i++) if (this.bytes[from + i] !== bytes[start + i]) return false;
    return true;
  }

  private append(number: number, hash: number, bytes: Uint8Array, start: number, end: number): void {
    if (number === this.ends.length) {
      this.ends = widened(this.ends, this.ends.length * 2);
      this.hashes = widened(this.hashes, this.hashes.length * 2);
    }
    const from = this.startOf(number);
    const to = from + end - start;
    if (to > this.bytes.length) {
      const wider = new Uint8Array(Math.max(to, this.bytes.length * 2));
      wider.set(this.bytes);
      this.bytes = wider;
    }
    for (let i = start; i < end; i++) this.bytes[from + i - start] = bytes[i];
    this.ends[number] = to;
    this.hashes[number] = hash;
  }

  private widen(): void {
    const places = new Uint32Array(this.places.length * 2);
    const mask = places.length - 1;
    for (let number = 0; number < this.count; number++) {
      let place = this.hashes[number] & mask;
      while (places[place] !== 0) place = (place + 1) & mask;
      places[place] = number + 1;
    }
    this.places = places;
  }
}

/**
 * Numbers over 0 by 64-bit hashes, two words a hash. What is asked for lies in one place of 16 bytes, because a table of millions
 * is in no cache: hash, hash, number, and one word of nothing.
 */
export class HashTable {
  count = 0;
  private slots = new Uint32Array(1 << 14);

  /** @returns 0 when nothing was put. */
  get(a: number, b: number): number {
    return this.slots[this.placeOf(a, b) + 2];
  }

  /** @param value over 0; put once for each hash. */
  put(a: number, b: number, value: number): void {
    if (this.count * 8 >= this.slots.length) this.widen();
    const place = this.placeOf(a, b);
    if (this.slots[place + 2] === 0) this.count++;
    this.slots[place] = a;
    this.slots[place + 1] = b;
    this.slots[place + 2] = value;
  }

  private placeOf(a: number, b: number): number {
    const { slots } = this;
    const mask = slots.length - 1;
    let place = (a << 2) & mask;
    while (slots[place + 2] !== 0 && (slots[place] !== a || slots[place + 1] !== b)) place = (place + 4) & mask;
    return place;
  }

  private widen(): void {
    const { slots } = this;
    this.slots = new Uint32Array(slots.length * 2);
    for (let from = 0; from < slots.length; from += 4) {
      if (slots[from + 2] === 0) continue;
      const place = this.placeOf(slots[from], slots[from + 1]);
      for (let i = 0; i < 3; i++) this.slots[place + i] = slots[from + i];
    }
  }
}

/**
 * A set of pairs of 32-bit numbers, of which (0, 0) is none: 8 bytes a place, three quarters of them used at most, grown by half
 * so that the old and the new together stay small beside what they hold.
 */
export class PairSet {
  count = 0;
  private pairs = new Uint32Array(1 << 13);

  /** @returns whether the pair is new. @throws RangeError for (0, 0). */
  add(a: number, b: number): boolean {
    if (a === 0 && b === 0) throw new RangeError('the pair of zeros is no member');
    if (this.count * 8 >= this.pairs.length * 3) this.widen();
    const place = this.placeOf(a, b);
    if (this.pairs[place] === a && this.pairs[place + 1] === b) return false;
    this.pairs[place] = a;
    this.pairs[place + 1] = b;
    this.count++;
    return true;
  }

  private placeOf(a: number, b: number): number {
    const { pairs } = this;
    const { length } = pairs;
    // the hash's share of the table: no remainder is to be taken, and the table may have any size
    let place = 2 * Math.floor((mix(Math.imul(a, 0x9e3779b1) ^ b) / 4294967296) * (length >> 1));
    while ((pairs[place] !== a || pairs[place + 1] !== b) && (pairs[place] !== 0 || pairs[place + 1] !== 0)) {
      place += 2;
      if (place === length) place = 0;
    }
    return place;
  }

  private widen(): void {
    const { pairs } = this;
    this.pairs = new Uint32Array(2 * Math.ceil(pairs.length * 0.75));
    for (let from = 0; from < pairs.length; from += 2) {
      if (pairs[from] === 0 && pairs[from + 1] === 0) continue;
      const place = this.placeOf(pairs[from], pairs[from + 1]);
      this.pairs[place] = pairs[from];
      this.pairs[place + 1] = pairs[from + 1];
    }
  }
}

/** The same numbers in a longer array. */
export function widened(array: Uint32Array<ArrayBuffer>, length: number): Uint32Array<ArrayBuffer> {
  const wider = new Uint32Array(length);
  wider.set(array);
  return wider;
}
