import { eld } from 'eld/small';

/** Letters under which a text is too short to tell. */
const LEAST_LETTERS = 60;

/** The language a text is written in, ISO 639-1; null when that cannot be told. */
export function languageOf(text: string): string | null {
  const part = text.slice(0, 4000);
  if ((part.match(/\p{L}/gu)?.length ?? 0) < LEAST_LETTERS) return null;
  const found = eld.detect(part);
  return found.isReliable() && found.language !== '' ? found.language : null;
}
