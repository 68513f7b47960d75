/**
 * In whose way numbers and dates are written: the browser's, or the one that a person chose. Text stays English. Locales are language tags
 * of BCP 47.
 */
export const DEFAULT_LOCALE = 'en-GB';
/** Holds the locale that a person chose in this browser; without it the browser's own counts. */
export const LOCALE_COOKIE = 'locale';
/** What can be chosen, each by its own name. */
export const LOCALES: readonly (readonly [locale: string, name: string])[] = [
  ['en-GB', 'English (United Kingdom)'],
  ['en-US', 'English (United States)'],
  ['en-IN', 'English (India)'],
  ['de-DE', 'Deutsch'],
  ['de-CH', 'Deutsch (Schweiz)'],
  ['fr-FR', 'Français'],
  ['es-ES', 'Español'],
  ['it-IT', 'Italiano'],
  ['nl-NL', 'Nederlands'],
  ['pt-BR', 'Português (Brasil)'],
  ['pl-PL', 'Polski'],
  ['sv-SE', 'Svenska'],
];

type Source = () => string | undefined;

declare global {
  /** Pages, routes and first drawings have this module each for themselves: what tells the locale stands where all of a process find it. */
  var jamLadleLocale: Source | undefined;
}

/** @param source tells the locale of whoever is answered now; undefined: nobody is. */
export function tellLocaleBy(source: Source | undefined): void {
  globalThis.jamLadleLocale = source;
}

export function localeNow(): string {
  return globalThis.jamLadleLocale?.() ?? DEFAULT_LOCALE;
}

/**
 * The locale of a request.
 *
 * @param accepted the header Accept-Language (RFC 9110 12.5.4), or nothing.
 * @param chosen what the person chose, or nothing.
 * @returns the first that numbers and dates can be written in; the default where none is.
 */
export function localeOf(accepted: string | undefined, chosen: string | undefined): string {
  const wanted = (accepted ?? '').split(',').flatMap((entry, place) => {
    const [tag, ...parameters] = entry.split(';').map((part) => part.trim());
    const weight = Number(parameters.find((one) => one.startsWith('q='))?.slice(2) ?? 1);
    return weight > 0 ? [{ tag, weight, place }] : [];
  });
  const byWish = wanted.toSorted((a, b) => b.weight - a.weight || a.place - b.place).map(({ tag }) => tag);
  return [chosen, ...byWish].find((tag) => tag !== undefined && isKnown(tag)) ?? DEFAULT_LOCALE;
}

/** Languages that every browser of today writes numbers and dates in, and the server alike: others it would write otherwise than the server. */
const LANGUAGES = new Set(
  (
    'af am ar bg bn ca cs da de el en es et fa fi fil fr gu he hi hr hu id it ja kn ko lt lv ml mr ms nb nl pl pt ro ru ' +
    'sk sl sr sv sw ta te th tr uk ur vi zh'
  ).split(' '),
);

/** "en" alone says nothing of how dates are written; "*" is anything. */
function isKnown(tag: string): boolean {
  try {
    return tag !== 'en' && LANGUAGES.has(new Intl.Locale(tag).language);
  } catch {
    return false;
  }
}

/**
 * Formatters by what they are for, each made once for a locale: making one takes longer than a hundred figures.
 *
 * @param make makes one for a locale.
 * @returns that of the locale now.
 */
function kept<Format>(make: (locale: string) => Format): () => Format {
  const made = new Map<string, Format>();
  return () => {
    const locale = localeNow();
    let format = made.get(locale);
    if (format === undefined) {
      format = make(locale);
      made.set(locale, format);
    }
    return format;
  };
}

/** Numbers of one kind, in the locale now. */
export const numbersIn = (options: Intl.NumberFormatOptions) =>
  kept((locale) => new Intl.NumberFormat(locale, options));

/** Moments of one kind, in the locale now. */
export const momentsIn = (options: Intl.DateTimeFormatOptions) =>
  kept((locale) => new Intl.DateTimeFormat(locale, options));
