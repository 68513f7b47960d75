/** Endings of countries that all the world uses for other things say nothing of a country. */
const WORLDWIDE = new Set([
  'ai',
  'cc',
  'co',
  'fm',
  'gg',
  'io',
  'la',
  'ly',
  'me',
  'nu',
  'sh',
  'so',
  'to',
  'tv',
  'vc',
  'ws',
]);
/** Endings of countries that are not the country's code (ISO 3166-1). */
const OTHER_CODES: Record<string, string> = { uk: 'GB', ac: 'AC', eu: 'EU', su: 'RU' };
const countries = new Intl.DisplayNames(['en'], { type: 'region' });

/** Country that an ending belongs to, as its ISO 3166-1 code; null: none, or one that all the world uses. */
export function countryOfEnding(ending: string): string | null {
  const last = ending.slice(ending.lastIndexOf('.') + 1);
  if (last.length !== 2 || WORLDWIDE.has(last)) return null;
  return OTHER_CODES[last] ?? last.toUpperCase();
}

/** What people call a country. @param code ISO 3166-1, or EU. */
export function countryName(code: string): string {
  try {
    return countries.of(code) ?? code;
  } catch {
    return code;
  }
}
