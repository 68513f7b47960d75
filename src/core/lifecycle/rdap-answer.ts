import { domainToASCII } from 'node:url';
import { fold } from './fold';
import type { RecordOutcome, RegistrationRecord } from './phase';
import { readRegistryDate } from './registry-date';
import { asciiName, isPremium, isRefusal, isWithheld } from './sentences';

/** An answer of an RDAP server (RFC 9083) as it was received. */
export interface RdapReceived {
  status: number;
  /** The media type as the server wrote it; null: none. */
  contentType: string | null;
  body: string;
  /** Whether this server has answered for a name that certainly exists under this ending. */
  serverKnown: boolean;
}

export interface RdapRead {
  outcome: RecordOutcome;
  record: RegistrationRecord | null;
  /** The words that decided, or why it is none that may be believed. */
  words: string | null;
  /** Fields that could not be read. */
  unread: string[];
}

type Json = Record<string, unknown>;

const KEPT_WORDS = 240;

/**
 * Judges one answer about a domain. 404 is how RDAP says "no record" (RFC 7480 5.3), and only from RDAP itself: by its media type
 * (RFC 7480 4.2) or an error body (RFC 9083 6), of a server that is known to answer for the ending. What is null, of another type or
 * missing is read around and named.
 *
 * @param name A-label form.
 */
export function readRdap({ status, contentType, body, serverKnown }: RdapReceived, name: string): RdapRead {
  const none = (outcome: RecordOutcome, words: string | null): RdapRead => ({
    outcome,
    record: null,
    words: words === null ? null : words.slice(0, KEPT_WORDS),
    unread: [],
  });
  const value = parseJson(body);
  const object = isObject(value) ? value : null;
  const said = object ? textsOf(object) : [];
  if (status === 429 || status === 503) return none('refused', said[0] ?? `HTTP ${status}`);
  if (status !== 404 && status !== 200)
    return none('failed', `the server answered HTTP ${status}${said[0] ? `: ${said[0]}` : ''}`);

  const isRdap = /^application\/([a-z.-]+\+)?rdap\+json\b/i.test(contentType?.trim() ?? '');
  if (status === 404) {
    const isError = object !== null && (typeof object.errorCode === 'number' || Array.isArray(object.rdapConformance));
    if (body.trim() !== '' && object === null) return none('failed', 'its 404 is no answer of RDAP but a page');
    if (!isRdap && !isError)
      return none('failed', 'its 404 is no answer of RDAP: neither by its media type nor by its body');
    const code = object?.errorCode;
    if (code !== undefined && code !== null && Number(code) !== 404)
      return none('failed', `its 404 speaks of an error ${String(code).slice(0, 20)}`);
    const other = said.find((text) => isRefusal(text));
    if (other) return none('refused', other);
    const withheld = said.find((text) => isWithheld(text));
    if (withheld) return none('withheld', withheld);
    const premium = said.find((text) => isPremium(text));
    if (premium) return none('premium', premium);
    const astray = said.find((text) => ASTRAY.test(fold(text)));
    if (astray) return none('failed', `its 404 is about the way, not the name: ${astray}`);
    if (object && 'objectClassName' in object) return none('failed', 'its 404 carries an object');
    if (!serverKnown)
      return none(
        'failed',
        'its server says that there is no record, but was not seen to answer for a name that exists',
      );
    return none('not-found', said[0] ?? 'HTTP 404');
  }
  if (object === null)
    return none('failed', body.trim() === '' ? 'the answer is empty' : 'the answer is no RDAP but a page');
  if (object.errorCode !== undefined && object.errorCode !== null) {
    const [words = `error ${String(object.errorCode).slice(0, 20)}`] = said;
    return none(isRefusal(words) ? 'refused' : 'failed', `the answer is an error: ${words}`);
  }
  return readObject(object, said, name, none);
}

/** A 404 of a wrong base address. */
const ASTRAY =
  /\b(path|url|uri|route|endpoint|resource path|method|page|service|operation|tld|zone|authorit(y|ative)|base)\b[^.]{0,40}\b(not (found|supported|served|handled|available|exist|known|authoritative|ours)|unknown|unsupported|invalid|does not exist|no longer)|\b(not|no) (found|supported|such|handled|served|authoritative|known) [^.]{0,20}(path|url|uri|route|endpoint|method|page|service|tld|here|server|registry)|\b(unsupported|unknown|invalid|no such) (tld|path|url|query type|object type|service|endpoint|route|registry|suffix|zone)|\bcannot get\b|\bnot (authoritative|responsible)|\bdoes not (serve|handle|support|manage)/;

function readObject(
  object: Json,
  said: string[],
  name: string,
  none: (outcome: RecordOutcome, words: string | null) => RdapRead,
): RdapRead {
  const kind = textOf(object.objectClassName)?.toLowerCase() ?? null;
  const names = [textOf(object.ldhName), textOf(object.unicodeName)].filter((one) => one !== null);
  if (kind !== null && kind !== 'domain') return none('failed', `the answer is about a ${kind.slice(0, 40)}`);
  if (kind === null && names.length === 0) return none('failed', 'the answer is no RDAP domain object');
  if (names.length > 0 && !names.some((one) => asciiName(one) === name))
    return none('failed', `the answer is about ${names[0].slice(0, 80)}`);
  const unread: string[] = [];
  const statuses = listOf(object.status).flatMap((status) => textOf(status) ?? []);
  const events = readEvents(object.events, unread);
  const entities = entitiesOf(object.entities, unread);
  const nameServers = listOf(object.nameservers).flatMap((server, n) => {
    const host = isObject(server) ? (textOf(server.ldhName) ?? textOf(server.unicodeName)) : textOf(server);
    if (host === null) unread.push(`nameservers[${n}] has no name`);
    return host === null ? [] : [(domainToASCII(host) || host.toLowerCase()).replace(/\.$/, '')];
  });
  const registrar = entities.find(({ roles }) => roles.includes('registrar'));
  const registrant = entities.find(({ roles }) => roles.includes('registrant'));
  const record: RegistrationRecord = {
    statuses,
    registeredAt: events('registration', 'registered', 'creation'),
    expiresAt: events('expiration', 'expiry', 'registrar expiration', 'soft expiration'),
    changedAt: events('last changed', 'last update', 'last updated'),
    deletesAt: events('deletion', 'delete', 'scheduled deletion'),
    freeAt: events('release', 'available', 'availability'),
    registrar: registrar?.name ?? registrar?.handle ?? null,
    registrant: registrant?.name ?? undefined,
    nameServers,
  };
  const isBare =
    record.registeredAt === null &&
    record.expiresAt === null &&
    record.registrar === null &&
    record.registrant === undefined &&
    nameServers.length === 0;
  if (isBare) {
    // an object of a name that nobody has: held back, or offered
    const withheld = [...statuses, ...said].find((text) => isWithheld(text) || HELD.test(fold(text)));
    if (withheld) return { ...none('withheld', withheld), unread };
    const premium = [...statuses, ...said].find((text) => isPremium(text));
    if (premium) return { ...none('premium', premium), unread };
    if (statuses.length === 0) return { ...none('failed', 'the answer names no more than the domain'), unread };
    if (statuses.some((status) => FREE_STATUS.test(fold(status))))
      return { ...none('failed', `the answer is an object with the status ${statuses[0].slice(0, 60)}`), unread };
  }
  return { outcome: 'found', record, words: null, unread };
}

const HELD =
  /^(reserved|blocked|banned|withheld|not available|unavailable|prohibited|forbidden|restricted|reserved name|registry reserved|blocked name)\b/;
const FREE_STATUS = /^(free|available|not registered|unregistered|unassigned)\b/;

/** Events by their action (RFC 9083 4.5): the first that can be read. */
function readEvents(value: unknown, unread: string[]): (...actions: string[]) => number | null {
  const times = new Map<string, number>();
  for (const [n, event] of listOf(value).entries()) {
    if (!isObject(event)) {
      unread.push(`events[${n}] is ${event === null ? 'null' : `a ${typeof event}`}`);
      continue;
    }
    const action = textOf(event.eventAction)?.toLowerCase().replace(/[_-]+/g, ' ').trim() ?? null;
    const date = textOf(event.eventDate);
    const at = date === null ? null : readRegistryDate(date, false);
    if (action === null || at === null) {
      if (action?.startsWith('last update of rdap')) continue;
      unread.push(
        `events[${n}] ${action === null ? 'has no action' : `(${action.slice(0, 40)}) has no date that can be read${date ? `: ${date.slice(0, 40)}` : ''}`}`,
      );
    } else if (!times.has(action)) times.set(action, at);
  }
  return (...actions) => {
    for (const action of actions) {
      const at = times.get(action);
      if (at !== undefined) return at;
    }
    return null;
  };
}

interface Entity {
  roles: string[];
  name: string | null;
  handle: string | null;
}

/** Entities (RFC 9083 5.1), also those within others. */
function entitiesOf(value: unknown, unread: string[], depth = 0): Entity[] {
  return listOf(value).flatMap((entity, n) => {
    if (!isObject(entity)) {
      unread.push(`entities[${n}] is ${entity === null ? 'null' : `a ${typeof entity}`}`);
      return [];
    }
    const roles = listOf(entity.roles).flatMap((role) => textOf(role)?.toLowerCase() ?? []);
    const own = { roles, name: nameOf(entity.vcardArray), handle: textOf(entity.handle) };
    if (own.name === null && own.handle === null && roles.includes('registrar'))
      unread.push(`entities[${n}] (registrar) has no name`);
    return depth > 2 ? [own] : [own, ...entitiesOf(entity.entities, [], depth + 1)];
  });
}

/** The fn property of a jCard (RFC 7095), or its organisation. */
function nameOf(vcard: unknown): string | null {
  const properties = Array.isArray(vcard) && Array.isArray(vcard[1]) ? vcard[1] : [];
  for (const wanted of ['fn', 'org']) {
    const found = properties.find((property) => Array.isArray(property) && property[0] === wanted);
    const value = Array.isArray(found) ? (Array.isArray(found[3]) ? found[3][0] : found[3]) : null;
    const name = textOf(value)?.trim();
    if (name) return name.slice(0, 200);
  }
  return null;
}

/** Title, description and notices: what the server says in words (RFC 9083 4.3, 6), the error's own first. */
function textsOf(object: Json): string[] {
  const own = [textOf(object.title), ...listOf(object.description).map(textOf)];
  const notices = [...listOf(object.notices), ...listOf(object.remarks)].flatMap((notice) =>
    isObject(notice) ? [textOf(notice.title), ...listOf(notice.description).map(textOf)] : [],
  );
  return [...own, ...notices].flatMap((text) => (text?.trim() ? [text.trim()] : []));
}

/** A list, or the one thing that stands where a list should. */
function listOf(value: unknown): unknown[] {
  return Array.isArray(value) ? value : value === null || value === undefined ? [] : [value];
}

function textOf(value: unknown): string | null {
  if (typeof value === 'string') return value;
  return typeof value === 'number' && Number.isFinite(value) ? String(value) : null;
}

function isObject(value: unknown): value is Json {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
