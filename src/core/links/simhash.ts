/** Words that go into one feature. */
const SHINGLE = 3;
const BITS = 64;
const HALF = 32;

/**
 * A fingerprint of a text under which like texts differ in few bits (Charikar 2002; Manku, Jain and Sarma 2007): each run of three words
 * votes on 64 bits by its hash. As 16 hexadecimal digits; null for a text of fewer than eight words, which says nothing.
 */
export function simhash(text: string): string | null {
  const words = text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  if (words.length < 8) return null;
  const votes = new Int32Array(BITS);
  for (let i = 0; i + SHINGLE <= words.length; i++) {
    const shingle = `${words[i]} ${words[i + 1]} ${words[i + 2]}`;
    const low = hash(shingle, 0x811c9dc5);
    const high = hash(shingle, 0x41c6ce57);
    for (let bit = 0; bit < HALF; bit++) {
      votes[bit] += (low >>> bit) & 1 ? 1 : -1;
      votes[HALF + bit] += (high >>> bit) & 1 ? 1 : -1;
    }
  }
  let low = 0;
  let high = 0;
  for (let bit = 0; bit < HALF; bit++) {
    if (votes[bit] > 0) low |= 1 << bit;
    if (votes[HALF + bit] > 0) high |= 1 << bit;
  }
  return (high >>> 0).toString(16).padStart(8, '0') + (low >>> 0).toString(16).padStart(8, '0');
}

/** Bits in which two fingerprints differ, 0 to 64. */
export function hamming(a: string, b: string): number {
  return ones(parseHalf(a, 0) ^ parseHalf(b, 0)) + ones(parseHalf(a, 8) ^ parseHalf(b, 8));
}

const parseHalf = (text: string, at: number) => Number.parseInt(text.slice(at, at + 8), 16) | 0;

function ones(word: number): number {
  let rest = word >>> 0;
  let count = 0;
  for (; rest !== 0; rest &= rest - 1) count++;
  return count;
}

/** FNV-1a with the finish of MurmurHash3 (public domain). */
function hash(text: string, seed: number): number {
  let value = seed | 0;
  for (let i = 0; i < text.length; i++) value = Math.imul(value ^ text.charCodeAt(i), 16777619);
  value = Math.imul(value ^ (value >>> 16), 0x85ebca6b);
  value = Math.imul(value ^ (value >>> 13), 0xc2b2ae35);
  return value ^ (value >>> 16);
}
