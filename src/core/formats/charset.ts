import chardet from 'chardet';

/** Character sets that lists come in, beside UTF-8, UTF-16 and windows-1252, by the names that decoders know them by. */
const OTHERS = [
  'windows-1250', 'iso-8859-2', 'windows-1251', 'koi8-r', 'iso-8859-5', 'windows-1253', 'iso-8859-7', 'windows-1254', 'shift_jis', 'euc-jp',
  'gb18030', 'big5', 'euc-kr',
] as const; // biome-ignore format: a list of names
export type Charset = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252' | (typeof OTHERS)[number];

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
    return multibyte > damaged ? 'utf-8' : singleOf(whole);
  }
}

/** By how letters follow each other in the languages that are written in it (chardet); in doubt windows-1252, which most such files are in. */
function singleOf(bytes: Uint8Array): Charset {
  const found = chardet.analyse(bytes.subarray(0, LOOKED_AT_LETTERS));
  const sure = (name: string) => found.find((one) => one.name.toLowerCase() === name)?.confidence ?? 0;
  const western = Math.max(sure('windows-1252'), sure('iso-8859-1'));
  const best = found.find(({ name }) => OTHERS.some((charset) => charset === name.toLowerCase()));
  if (!best || best.confidence < LEAST_SURE || best.confidence < western + LEAST_MARGIN) return 'windows-1252';
  return best.name.toLowerCase() as Charset;
}
/** Of 100. */
const LEAST_SURE = 20;
const LEAST_MARGIN = 12;
const LOOKED_AT_LETTERS = 64 * 1024;

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

/** What stands where ISO 8859-1 has control characters: https://encoding.spec.whatwg.org/#windows-1252. */
const WINDOWS =
  '\u20ac\u0081\u201a\u0192\u201e\u2026\u2020\u2021\u02c6\u2030\u0160\u2039\u0152\u008d\u017d\u008f\u0090\u2018\u2019\u201c\u201d\u2022\u2013\u2014\u02dc\u2122\u0161\u203a\u0153\u009d\u017e\u0178';

/** Makes text of bytes that come in parts. */
export interface Decoder {
  decode(bytes?: Uint8Array, options?: { stream?: boolean }): string;
}

/** The decoder of a character set. That of the platform takes windows-1252 for ISO 8859-1 in some versions, and makes nothing of a euro sign. */
export function decoderOf(charset: Charset): Decoder {
  if (charset !== 'windows-1252') return new TextDecoder(charset, { ignoreBOM: true });
  return {
    decode: (bytes) => {
      let text = '';
      // in parts, because an argument each is made of them
      for (let at = 0; bytes && at < bytes.length; at += 8192)
        text += String.fromCharCode(...bytes.subarray(at, at + 8192));
      return text.replace(/[\u0080-\u009f]/g, (control) => WINDOWS[control.charCodeAt(0) - 0x80]);
    },
  };
}
