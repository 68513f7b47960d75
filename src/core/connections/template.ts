/** What may stand in braces in the address, headers and body of a question. */
export const PLACEHOLDERS = [
  'domain',
  'name',
  'tld',
  'words',
  'count',
  'page',
  'offset',
  'cursor',
  'order',
  'number',
  'amount',
  'minor',
  'currency',
  'key',
  'user',
  'password',
] as const;
export type Placeholder = (typeof PLACEHOLDERS)[number];
export type Filling = Partial<Record<Placeholder, string>>;

/** Those that are nobody's business. */
export const TEMPLATE_SECRETS = ['key', 'password'] as const satisfies Placeholder[];

const BRACES = /\{([a-z]+)\}/g;

/** How a value is written where it is put: escaped as that place wants it. */
export type TemplatePlace = 'address' | 'header' | 'json' | 'form' | 'xml';

const ESCAPES: Record<TemplatePlace, (value: string) => string> = {
  address: encodeURIComponent,
  form: encodeURIComponent,
  // a line break would begin another header
  header: (value) => value.replace(/\p{Cc}+/gu, ' '),
  json: (value) => JSON.stringify(value).slice(1, -1),
  xml: (value) =>
    value
      .replace(/[&<>"']/g, (mark) => `&#${mark.charCodeAt(0)};`)
      // what XML 1.0 cannot hold
      .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, ''),
};

/** A text with its placeholders filled in; those without a value vanish. Braces around anything else stay as they stand. */
export function filled(template: string, values: Filling, place: TemplatePlace): string {
  return template.replace(BRACES, (whole, name: string) =>
    isPlaceholder(name) ? ESCAPES[place](values[name] ?? '') : whole,
  );
}

/** The placeholders that stand in a text. */
export function placeholdersIn(text: string): Set<string> {
  return new Set([...text.matchAll(BRACES)].map(([, name]) => name).filter(isPlaceholder));
}

/** The first word in braces that is none; null: all are. In a body of JSON, braces around one bare word do not stand for themselves either. */
export function unknownPlaceholder(text: string): string | null {
  return [...text.matchAll(BRACES)].map(([, name]) => name).find((name) => !isPlaceholder(name)) ?? null;
}

const isPlaceholder = (name: string): name is Placeholder => PLACEHOLDERS.some((one) => one === name);

/** What a domain fills in. @param domain as A-labels, `ashcott.co.uk`: its name is `ashcott`, its TLD `co.uk`. */
export function domainFilling(domain: string, words = ''): Filling {
  const dot = domain.indexOf('.');
  return { domain, name: domain.slice(0, dot), tld: domain.slice(dot + 1), words: words || domain.slice(0, dot) };
}

/** All of a connection that must not be shown, as it may stand in an answer or a message. */
export function secretsOf({ key, user, password }: { key: string; user: string; password: string }): string[] {
  if (password === '') return [key];
  return [key, password, base64(`${user}:${password}`)];
}

/** As HTTP's basic authentication sends a login (RFC 7617). */
export function base64(text: string): string {
  return btoa(String.fromCharCode(...new TextEncoder().encode(text)));
}

/** A text without secrets, in whatever form they may stand in it. */
export function masked(text: string, secrets: readonly string[]): string {
  let shown = text;
  for (const secret of secrets) {
    if (secret === '') continue;
    const forms = [secret, ...Object.values(ESCAPES).map((escaped) => escaped(secret))];
    for (const form of new Set(forms).values()) if (form !== '') shown = shown.replaceAll(form, '…');
  }
  return shown;
}
