const names = new Intl.DisplayNames(['en'], { type: 'language' });
/** What people call a language. @param code ISO 639-1. */
export function languageName(code: string): string {
  try {
    return names.of(code) ?? code;
  } catch {
    return code;
  }
}
