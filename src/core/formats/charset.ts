export const CHARSETS = ['utf-8', 'utf-16le', 'utf-16be', 'windows-1252'] as const;
export type Charset = (typeof CHARSETS)[number];

const LOOKED_AT = 4096;

/**
 * The character set of a file by its first bytes. UTF-16 is told by its mark, and without one by the noughts at every other place.
 *
 * @param isCut whether they end before the file does: a character may be cut, and the last line is left out of the judgement.
 */
export function guessCharset(bytes: Uint8Array, isCut: boolean): Charset {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const wide = wideOf(bytes);
  if (wide !== null) return wide;
  const whole = isCut ? bytes.subarray(0, Math.max(0, bytes.lastIndexOf(10))) : bytes;
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(whole);
    return 'utf-8';
  } catch {
    // mostly UTF-8 with a few damaged rows is still UTF-8: those rows are rejected, the others read right
    const text = new TextDecoder('utf-8').decode(whole);
    const damaged = text.split('\ufffd').length - 1;
    const multibyte = text.match(/[\u0080-\ufffc]/g)?.length ?? 0;
    return multibyte > damaged ? 'utf-8' : 'windows-1252';
  }
}

/** Texts of lists are mostly letters, digits and marks whose other byte is 0. */
function wideOf(bytes: Uint8Array): Charset | null {
  const length = Math.min(bytes.length, LOOKED_AT) & ~1;
  if (length < 4) return null;
  const noughts = [0, 0];
  for (let at = 0; at < length; at++) if (bytes[at] === 0) noughts[at & 1]++;
  const half = length / 2;
  if (noughts[1] > 0.7 * half && noughts[0] < 0.1 * half) return 'utf-16le';
  return noughts[0] > 0.7 * half && noughts[1] < 0.1 * half ? 'utf-16be' : null;
}
