/** What a contact of a name is for (RFC 5731, 2.2 and 3.2.1). */
const CONTACT_KINDS = ['registrant', 'admin', 'tech', 'billing'] as const;
type ContactKind = (typeof CONTACT_KINDS)[number];

/** Who a name is registered for, and to which servers it leads. */
export interface Registrant {
  /** Handles at the registry by what they are for. Many registries want none, many all of them. */
  contacts: Partial<Record<ContactKind, string>>;
  nameServers: readonly string[];
}

/** Where EPP is spoken, and who logs in. */
export interface EppAddress {
  /** `host:port`. */
  server: string;
  login: string;
}

/** Reads `epp://login@host:700`; the port may be left out. null: it is none. */
export function readEppAddress(address: string): EppAddress | null {
  if (!/^epp:\/\//i.test(address) || !URL.canParse(address)) return null;
  const { hostname, port, username, password, pathname } = new URL(address);
  if (hostname === '' || username === '' || password !== '' || pathname.length > 1) return null;
  return { server: `${hostname}:${port || 700}`, login: decodeURIComponent(username) };
}

/** Handles as they are typed: one for all (`H123`), or each named (`registrant=H1 tech=H2`). null: it is neither. */
export function readContacts(typed: string): Registrant['contacts'] | null {
  const parts = typed.split(/[\s,;]+/).filter(Boolean);
  if (parts.length === 0) return {};
  const isHandle = (text: string) => /^[^=<>&"']{3,16}$/.test(text);
  if (parts.length === 1 && isHandle(parts[0]))
    return Object.fromEntries(CONTACT_KINDS.map((kind) => [kind, parts[0]]));
  const contacts: Registrant['contacts'] = {};
  for (const part of parts) {
    const [name, handle = ''] = part.split('=');
    const kind = CONTACT_KINDS.find((one) => one === name.toLowerCase());
    if (!kind || kind in contacts || !isHandle(handle)) return null;
    contacts[kind] = handle;
  }
  return contacts;
}
