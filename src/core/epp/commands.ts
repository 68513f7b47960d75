import type { Registrant } from './account';
import { escaped } from './xml';

export const EPP = 'urn:ietf:params:xml:ns:epp-1.0';
export const DOMAIN = 'urn:ietf:params:xml:ns:domain-1.0';
/** Prices of what a command does (RFC 8748). Drafts of it have other names and are not spoken. */
export const FEE = 'urn:ietf:params:xml:ns:epp:fee-1.0';
/** Objects that a session may be about: domains (RFC 5731), hosts (RFC 5732), contacts (RFC 5733). */
const OBJECTS = [DOMAIN, 'urn:ietf:params:xml:ns:host-1.0', 'urn:ietf:params:xml:ns:contact-1.0'];

const document = (body: string) =>
  `<?xml version="1.0" encoding="UTF-8" standalone="no"?>\n<epp xmlns="${EPP}">${body}</epp>`;

/** @param id comes back with the answer (clTRID, RFC 5730, 2.5): 3 to 64 characters. */
const command = (body: string, id: string, extension = '') =>
  document(
    `<command>${body}${extension && `<extension>${extension}</extension>`}<clTRID>${escaped(id)}</clTRID></command>`,
  );

export interface Login {
  login: string;
  password: string;
}

/** What a server says of itself before anybody has logged in (RFC 5730, 2.4). */
export interface Greeting {
  server: string;
  objects: string[];
  extensions: string[];
}

/** Begins a session (RFC 5730, 2.9.1.1) about what is used here and the server offers. */
export function loginCommand({ login, password }: Login, { objects, extensions }: Greeting, id: string): string {
  const uris = OBJECTS.filter((uri) => objects.includes(uri)).map((uri) => `<objURI>${uri}</objURI>`);
  const extras = extensions.includes(FEE) ? `<svcExtension><extURI>${FEE}</extURI></svcExtension>` : '';
  return command(
    `<login><clID>${escaped(login)}</clID><pw>${escaped(password)}</pw><options><version>1.0</version><lang>en</lang></options><svcs>${uris.join('')}${extras}</svcs></login>`,
    id,
  );
}

/** Ends a session (RFC 5730, 2.9.1.2). */
export const logoutCommand = (id: string): string => command('<logout/>', id);

/** Asks whether a name can be registered (RFC 5731, 3.1.1), and for how much, where the server says that. */
export function checkCommand(name: string, hasFees: boolean, id: string): string {
  const fee = `<fee:check xmlns:fee="${FEE}"><fee:command name="create"><fee:period unit="y">1</fee:period></fee:command></fee:check>`;
  return command(
    `<check><domain:check xmlns:domain="${DOMAIN}"><domain:name>${escaped(name)}</domain:name></domain:check></check>`,
    id,
    hasFees ? fee : '',
  );
}

/** Asks what is on record of a name (RFC 5731, 3.1.2). */
export const infoCommand = (name: string, id: string): string =>
  command(
    `<info><domain:info xmlns:domain="${DOMAIN}"><domain:name hosts="none">${escaped(name)}</domain:name></domain:info></info>`,
    id,
  );

export interface Fee {
  /** Minor units of the currency. */
  minor: number;
  currency: string;
}

/**
 * Registers a name for a year (RFC 5731, 3.2.1). With a fee the server has to refuse when it is another by now (RFC 8748, 5.2.1).
 *
 * @param authInfo what would let somebody take the name to another registrar; nobody else may know it.
 */
export function createCommand(
  name: string,
  { contacts, nameServers }: Registrant,
  authInfo: string,
  fee: Fee | null,
  id: string,
): string {
  const { registrant, ...others } = contacts;
  const parts = [
    `<domain:name>${escaped(name)}</domain:name>`,
    '<domain:period unit="y">1</domain:period>',
    nameServers.length > 0 &&
      `<domain:ns>${nameServers.map((host) => `<domain:hostObj>${escaped(host)}</domain:hostObj>`).join('')}</domain:ns>`,
    registrant && `<domain:registrant>${escaped(registrant)}</domain:registrant>`,
    ...Object.entries(others).map(
      ([kind, handle]) => handle && `<domain:contact type="${kind}">${escaped(handle)}</domain:contact>`,
    ),
    `<domain:authInfo><domain:pw>${escaped(authInfo)}</domain:pw></domain:authInfo>`,
  ];
  const price = fee
    ? `<fee:create xmlns:fee="${FEE}"><fee:currency>${fee.currency}</fee:currency><fee:fee>${(fee.minor / 100).toFixed(2)}</fee:fee></fee:create>`
    : '';
  return command(
    `<create><domain:create xmlns:domain="${DOMAIN}">${parts.filter(Boolean).join('')}</domain:create></create>`,
    id,
    price,
  );
}
