/** What happened to a name between two copies of a zone. */
export type ZoneChange = 'gone' | 'parked';

/** Set bits of a name's place: its newer delegation is to parking servers alone; it was told of. */
const PARKED = 1;
const TOLD = 2;
const USED = 4;

/**
 * Compares two copies of a zone without keeping either: of the newer, every name is kept as a 64-bit hash and one byte (9 bytes
 * a name and a third of empty places, so 10,000,000 names take some 170 MB); the older is then read past it.
 *
 * A name that is in the older copy and not in the newer is `gone`; one whose servers were not all parking servers before and
 * all are now is `parked`. Two names with one hash would hide a change of one of them; among 10,000,000 names the chance that
 * there is any such pair is 3 in a million. A change that is not there cannot be told.
 */
export class ZonePair {
  private high = new Uint32Array(1 << 16);
  private low = new Uint32Array(1 << 16);
  private marks = new Uint8Array(1 << 16);
  private mask = (1 << 16) - 1;
  private count = 0;

  /** A record of the newer copy. Read all of them before the older. */
  addNewer(name: Uint8Array, length: number, isParking: boolean): void {
    const place = this.placeOf(name, length);
    if (this.marks[place] === 0) {
      this.take(place);
      this.marks[place] = isParking ? USED | PARKED : USED;
    } else if (!isParking) this.marks[place] &= ~PARKED;
  }

  /** A record of the older copy. @returns what happened to its name, once for each name; null: nothing that is to be told now. */
  askOlder(name: Uint8Array, length: number, isParking: boolean): ZoneChange | null {
    const place = this.placeOf(name, length);
    const mark = this.marks[place];
    if (mark === 0) {
      this.take(place);
      this.marks[place] = USED | TOLD;
      return 'gone';
    }
    if ((mark & PARKED) === 0 || (mark & TOLD) !== 0 || isParking) return null;
    this.marks[place] |= TOLD;
    return 'parked';
  }

  private hashHigh = 0;
  private hashLow = 0;

  /** Place of a name, used or free. */
  private placeOf(name: Uint8Array, length: number): number {
    if (this.count * 3 > this.mask * 2) this.grow();
    let a = 0xdeadbeef | 0;
    let b = 0x41c6ce57;
    for (let i = 0; i < length; i++) {
      const code = name[i];
      a = Math.imul(a ^ code, 2654435761);
      b = Math.imul(b ^ code, 1597334677);
    }
    // the finish of cyrb53 (public domain)
    a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
    b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
    this.hashHigh = a >>> 0;
    this.hashLow = b >>> 0;
    return this.find(this.hashHigh, this.hashLow);
  }

  private find(a: number, b: number): number {
    const { high, low, marks, mask } = this;
    let place = b & mask;
    while (marks[place] !== 0 && (high[place] !== a || low[place] !== b)) place = (place + 1) & mask;
    return place;
  }

  private take(place: number): void {
    this.high[place] = this.hashHigh;
    this.low[place] = this.hashLow;
    this.count++;
  }

  private grow(): void {
    const { high, low, marks } = this;
    const size = (this.mask + 1) * 2;
    this.high = new Uint32Array(size);
    this.low = new Uint32Array(size);
    this.marks = new Uint8Array(size);
    this.mask = size - 1;
    for (let i = 0; i < marks.length; i++) {
      if (marks[i] === 0) continue;
      const place = this.find(high[i], low[i]);
      this.high[place] = high[i];
      this.low[place] = low[i];
      this.marks[place] = marks[i];
    }
  }
}

/** Tells parking servers by the domains they are in. */
export class ParkingServers {
  private readonly endings: string[];
  /** What was said of a server before, by a 53-bit hash of its name; few servers serve most names. */
  private readonly known = new Map<number, boolean>();

  constructor(domains: readonly string[]) {
    this.endings = domains.map((domain) => domain.toLowerCase().replace(/^\.+|\.+$/g, '')).filter(Boolean);
  }

  has(server: Uint8Array, length: number): boolean {
    if (this.endings.length === 0) return false;
    let a = 0x811c9dc5 | 0;
    let b = 0x41c6ce57;
    for (let i = 0; i < length; i++) {
      a = Math.imul(a ^ server[i], 16777619);
      b = Math.imul(b ^ server[i], 2654435761);
    }
    const key = (b >>> 11) * 4294967296 + (a >>> 0);
    let found = this.known.get(key);
    if (found === undefined) {
      const text = String.fromCharCode(...server.subarray(0, length));
      found = this.endings.some((ending) => text === ending || text.endsWith(`.${ending}`));
      if (this.known.size > 50_000) this.known.clear();
      this.known.set(key, found);
    }
    return found;
  }
}
