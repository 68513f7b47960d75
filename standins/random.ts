/** Deterministic random numbers (mulberry32). The same seed gives the same world on every machine. */
export class Random {
  private state: number;

  constructor(seed: number | string) {
    this.state = typeof seed === 'number' ? seed >>> 0 : hash(seed);
  }

  /** 0 to 1, 1 excluded. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  /** A whole number from `low` to `high`, both included. */
  whole(low: number, high: number): number {
    return low + Math.floor(this.next() * (high - low + 1));
  }

  chance(share: number): boolean {
    return this.next() < share;
  }

  pick<T>(items: readonly T[]): T {
    return items[Math.floor(this.next() * items.length)];
  }

  /** Heavy-tailed count from 1: most are small, a few are large. */
  tail(most: number): number {
    return Math.min(most, Math.floor(1 / (1 - this.next()) ** 0.8));
  }
}

/** FNV-1a. */
export function hash(text: string): number {
  let value = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) value = Math.imul(value ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return value;
}
