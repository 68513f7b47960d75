import { numberText } from './sheet';

/** What a cell's number is by its format: ECMA-376 part 1, 18.8.30 and 18.8.31. */
export type NumberStyle =
  | { kind: 'number' }
  | { kind: 'percent' }
  | { kind: 'money'; sign: string }
  /** Days since the epoch of the workbook. */
  | { kind: 'date' }
  /** A time of the day. */
  | { kind: 'time' }
  /** Hours, more than a day's too. */
  | { kind: 'elapsed' };

/** Formats that are not written down. */
const BUILT_IN: Record<number, NumberStyle> = {
  9: { kind: 'percent' },
  10: { kind: 'percent' },
  46: { kind: 'elapsed' },
};
for (const id of [14, 15, 16, 17, 22, 27, 28, 29, 30, 31, 36, 50, 51, 52, 53, 54, 55, 56, 57, 58])
  BUILT_IN[id] = { kind: 'date' };
for (const id of [18, 19, 20, 21, 32, 33, 34, 35, 45, 47]) BUILT_IN[id] = { kind: 'time' };

const NUMBER: NumberStyle = { kind: 'number' };

export function styleOf(id: number, code: string | undefined): NumberStyle {
  if (code === undefined) return BUILT_IN[id] ?? NUMBER;
  const [first] = code.split(';');
  const sign =
    /\[\$([^\]-]*)[^\]]*\]/.exec(first)?.[1] ?? /[€£$¥₹]|\b[A-Z]{3}\b/.exec(first.replace(/"([^"]*)"/g, '$1'))?.[0];
  const bare = first
    .replace(/"[^"]*"/g, '')
    .replace(/\\./g, '')
    .replace(/_./g, '')
    .replace(/\*./g, '');
  if (/\[(h+|m+|s+)\]/i.test(bare)) return { kind: 'elapsed' };
  const plain = bare.replace(/\[[^\]]*\]/g, '').replace(/general|standard/gi, '');
  if (/[yd]/i.test(plain) || (/m/i.test(plain) && !/[hs0#]/i.test(plain))) return { kind: 'date' };
  if (/[hs]/i.test(plain) && !/[0#]{2}/.test(plain.replace(/s\.0+/gi, ''))) return { kind: 'time' };
  if (plain.includes('%')) return { kind: 'percent' };
  return sign !== undefined && sign.trim() !== '' ? { kind: 'money', sign: sign.trim() } : NUMBER;
}

const DAY = 86_400_000;
/** Days from the workbook's first to 1970: it counts the 29th of February 1900, which was none. */
const FROM_1900 = 25_569;
const FROM_1904 = 24_107;

/** A number of a cell as the text it stands for: dates in ISO 8601, money with its currency, shares as percentages. */
export function styledText(value: number, style: NumberStyle, isFrom1904: boolean): string {
  switch (style.kind) {
    case 'date': {
      if (value < 1) return timeText(value);
      const at = Math.round((value - (isFrom1904 ? FROM_1904 : FROM_1900)) * 86_400) * 1000;
      if (!(Math.abs(at) < 8.64e15)) return numberText(value);
      const iso = new Date(at).toISOString();
      return at % DAY === 0 ? iso.slice(0, 10) : iso.slice(0, 19);
    }
    case 'time':
      return value >= 1 ? styledText(value, { kind: 'date' }, isFrom1904) : timeText(value);
    case 'elapsed':
      return timeText(value);
    case 'percent':
      return `${numberText(value * 100)}%`;
    case 'money':
      return `${numberText(value)} ${style.sign}`;
    default:
      return numberText(value);
  }
}

function timeText(days: number): string {
  const seconds = Math.round(days * 86_400);
  const two = (value: number) => String(Math.floor(value)).padStart(2, '0');
  return `${two(seconds / 3600)}:${two((seconds / 60) % 60)}:${two(seconds % 60)}`;
}
