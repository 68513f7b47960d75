/** Rows are looked at in blocks of 32, one bit each in a word. */
export const BLOCK = 32;

export function hasBit(bits: Uint32Array, row: number): boolean {
  return row >> 5 < bits.length && ((bits[row >> 5] >>> (row & 31)) & 1) === 1;
}

/** Bits set in a word of 32 (Warren, Hacker's Delight, 5-1). */
export function bitsIn(word: number): number {
  let x = word - ((word >>> 1) & 0x55555555);
  x = (x & 0x33333333) + ((x >>> 2) & 0x33333333);
  return Math.imul((x + (x >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}
