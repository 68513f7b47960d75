/** Letters under which a text is too short to tell. */
const LEAST_LETTERS = 60;

/** Tells the language a text is written in, ISO 639-1; null when that cannot be told. */
export type LanguageOf = (text: string) => string | null;

/** Reads what languages are told by: 150 MB of tables, so only where they are told. */
export async function loadLanguages(): Promise<LanguageOf> {
  const { eld } = await import('eld/small');
  return (text) => {
    const part = text.slice(0, 4000);
    if ((part.match(/\p{L}/gu)?.length ?? 0) < LEAST_LETTERS) return null;
    const found = eld.detect(part);
    return found.isReliable() && found.language !== '' ? found.language : null;
  };
}
