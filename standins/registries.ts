import { createServer, type Server, type Socket } from 'node:net';
import { rulesOf } from './lives';
import { ownerSigns } from './owners';
import type { Page } from './pages';
import { hash } from './random';
import { REGISTRARS } from './words';
import { DAY, type DomainState, stateAt, type World, type WorldDomain, YEAR } from './world';

interface Registry {
  host: string;
  endings: string[];
  /** Questions let through in a window of time. */
  limit: number;
  windowMs: number;
}

export const REGISTRIES: Registry[] = [
  { host: 'rdap.coomberegistry.net', endings: ['com', 'net'], limit: 400, windowMs: 1000 },
  { host: 'rdap.lodestonenames.org', endings: ['org'], limit: 200, windowMs: 1000 },
  { host: 'rdap.hobblanenames.co.uk', endings: ['co.uk'], limit: 100, windowMs: 1000 },
  { host: 'rdap.pennywhistleinfo.info', endings: ['info'], limit: 12, windowMs: 1000 },
  { host: 'rdap.tarnregistry.me', endings: ['me'], limit: 5, windowMs: 3_600_000 },
];

/** Endings without RDAP: their WHOIS server and its shape of answer. */
export const WHOIS_SERVERS: Record<string, string> = { de: 'whois.eskerbyregistry.de', eu: 'whois.gantrymoor.eu' };

/** The bootstrap file of RFC 9224. */
export function bootstrapFile(): object {
  return {
    version: '1.0',
    description: 'RDAP servers of the Merrow Vale',
    services: REGISTRIES.map((registry) => [registry.endings, [`http://${registry.host}/`]]),
  };
}

/** Counts questions in windows; says how long to wait when there were too many. */
export class Limiter {
  private windows = new Map<string, { since: number; count: number }>();

  /** @returns 0 when the question may be answered, else ms to wait. */
  wait(key: string, limit: number, windowMs: number, now = Date.now()): number {
    let window = this.windows.get(key);
    if (!window || now - window.since >= windowMs) {
      window = { since: now, count: 0 };
      this.windows.set(key, window);
    }
    window.count++;
    return window.count <= limit ? 0 : window.since + windowMs - now;
  }
}

/** Registries have had their own names for long. */
const OWN_SINCE = Date.UTC(1998, 0, 5);

const STATUS: Record<string, string[]> = {
  active: ['client transfer prohibited', 'active'],
  'auto-renew': ['auto renew period'],
  redemption: ['pending delete', 'redemption period'],
  'pending-delete': ['pending delete'],
};

/** The name under an ending that its registry keeps for itself, as registries do. */
export function isRegistryOwn(name: string): boolean {
  return REGISTRIES.some(({ endings }) => endings.some((ending) => name === `nic.${ending}`));
}

/** RDAP (RFC 9082, 9083); null when the host is no registry. */
export function rdapAnswer(world: World, limiter: Limiter, host: string, path: string, now: number): Page | null {
  const registry = REGISTRIES.find((entry) => entry.host === host);
  if (!registry) return null;
  const json = (status: number, value: object, headers: Record<string, string> = {}): Page => ({
    status,
    headers: { 'content-type': 'application/rdap+json', ...headers },
    body: JSON.stringify(value),
  });
  const wait = limiter.wait(host, registry.limit, registry.windowMs);
  if (wait > 0)
    return json(
      429,
      { errorCode: 429, title: 'Too many questions' },
      { 'retry-after': String(Math.ceil(wait / 1000)) },
    );
  const name = /^\/domain\/([^/?]+)$/.exec(path)?.[1].toLowerCase();
  if (!name) return json(400, { errorCode: 400, title: 'Bad question' });
  if (isRegistryOwn(name) && registry.endings.some((ending) => name === `nic.${ending}`))
    return json(200, {
      rdapConformance: ['rdap_level_0'],
      objectClassName: 'domain',
      ldhName: name,
      status: ['active'],
      events: [{ eventAction: 'registration', eventDate: iso(OWN_SINCE) }],
      nameservers: [{ objectClassName: 'nameserver', ldhName: `ns1.${host}` }],
      entities: [],
    });
  const domain = world.domains.get(name);
  const state = domain && stateAt(domain, now);
  if (!domain || !state?.span || !registry.endings.includes(domain.ending))
    return json(404, { errorCode: 404, title: 'No such object', rdapConformance: ['rdap_level_0'] });
  return json(200, {
    rdapConformance: ['rdap_level_0'],
    objectClassName: 'domain',
    handle: `MV-${hash(name)}`,
    ldhName: name.toUpperCase(),
    status: STATUS[state.phase],
    events: [
      { eventAction: 'registration', eventDate: iso(state.span.from) },
      { eventAction: 'expiration', eventDate: iso(shownExpiry(domain, state, now)) },
      { eventAction: 'last changed', eventDate: iso(changedAt(state, now)) },
    ],
    nameservers: nameServersOf(domain, now).map((ldhName) => ({ objectClassName: 'nameserver', ldhName })),
    entities: [
      {
        objectClassName: 'entity',
        roles: ['registrar'],
        vcardArray: [
          'vcard',
          [
            ['version', {}, 'text', '4.0'],
            ['fn', {}, 'text', registrarOf(domain, state, now)],
          ],
        ],
      },
      ...registrantOf(domain),
    ],
  });
}

function registrantOf(domain: WorldDomain): object[] {
  const { registrant } = ownerSigns(domain);
  if (registrant === null) return [];
  return [
    { objectClassName: 'entity', roles: ['registrant'], vcardArray: ['vcard', [['fn', {}, 'text', registrant]]] },
  ];
}

/** In auto-renew period and after, some registries show the expiry of the year to come. */
function shownExpiry(domain: WorldDomain, { phase, expires }: DomainState, now: number): number {
  if (expires === null) return now;
  return phase !== 'active' && rulesOf(domain.ending).isExpiryMoved ? aYearLater(expires) : expires;
}

function aYearLater(at: number): number {
  const date = new Date(at);
  const isLeapDay = date.getUTCMonth() === 1 && date.getUTCDate() === 29;
  return Date.UTC(date.getUTCFullYear() + 1, date.getUTCMonth(), isLeapDay ? 28 : date.getUTCDate()) + (at % DAY);
}

function changedAt({ phase, expires, since }: DomainState, now: number): number {
  return phase === 'active' ? Math.min(now, (expires ?? now) - YEAR) : (since ?? now);
}

/** Some names change hands, and some their servers, in the days after the world's beginning. */
const MOVES_AFTER_MS = 3 * DAY;
const PARKED_AFTER_MS = 2 * DAY;
export const PARKING_HOST = 'restingvale.net';
let beginning = Number.POSITIVE_INFINITY;
/** When the world begins, from which on names move. */
export function setBeginning(at: number): void {
  beginning = at;
}

export function registrarOf(domain: WorldDomain, { span }: DomainState, now: number): string {
  const registrar = span?.registrar ?? '';
  const moves = now > beginning + MOVES_AFTER_MS && domain.role !== 'source' && hash(`moves ${domain.name}`) % 40 === 0;
  return moves && span?.until === null
    ? REGISTRARS[(REGISTRARS.indexOf(registrar) + 1) % REGISTRARS.length]
    : registrar;
}

export function nameServersOf(domain: WorldDomain, now: number): string[] {
  const parks =
    now > beginning + PARKED_AFTER_MS && domain.role !== 'source' && hash(`parks ${domain.name}`) % 40 === 0;
  return [1, 2].map((number) =>
    parks ? `ns${number}.parking.${PARKING_HOST}` : `ns${number}.${domain.nameServers}.coombehosting.net`,
  );
}

const iso = (at: number) => new Date(at).toISOString().replace(/\.\d+Z$/, 'Z');
const dotted = (at: number) => new Date(at).toISOString().slice(0, 10).split('-').reverse().join('.');

/** WHOIS (RFC 3912) in two shapes of text. */
export function whoisText(world: World, name: string, now: number): string {
  const domain = world.domains.get(name);
  const state = domain && stateAt(domain, now);
  if (name.endsWith('.de')) {
    if (!domain || !state?.span) return `% Eskerby registry\r\nDomain: ${name}\r\nStatus: free\r\n`;
    return [
      '% Eskerby registry', '', `Domain: ${name}`, ...nameServersOf(domain, now).map((server) => `Nserver: ${server}`),
      `Status: ${STATUS[state.phase].join(', ')}`, `Registrar: ${registrarOf(domain, state, now)}`, `Created: ${iso(state.span.from)}`,
      `Expires: ${iso(shownExpiry(domain, state, now))}`, `Changed: ${iso(changedAt(state, now))}`, '',
    ].join('\r\n'); // biome-ignore format: one line of the answer after another
  }
  if (!domain || !state?.span) return `No match for "${name}".\r\n`;
  return [
    '', '    Domain name:', `        ${name}`, '', '    Registrar:', `        ${registrarOf(domain, state, now)}`, '',
    `    Registered on: ${dotted(state.span.from)}`, `    Expiry date: ${dotted(shownExpiry(domain, state, now))}`,
    '    Registration status:', ...STATUS[state.phase].map((status) => `        ${status}`), '',
    '    Name servers:', ...nameServersOf(domain, now).map((server) => `        ${server}`), '',
  ].join('\r\n'); // biome-ignore format: one line of the answer after another
}

/** One server for all WHOIS hosts: what is asked tells which. Refuses in words above 50 questions a second. */
export function makeWhoisServer(world: World, now: () => number): Server {
  const limiter = new Limiter();
  return createServer((socket: Socket) => {
    let line = '';
    socket.setTimeout(5000, () => socket.destroy());
    socket.on('error', () => undefined);
    socket.on('data', (chunk) => {
      line += chunk.toString('latin1');
      if (line.length > 1000) socket.destroy();
      if (!line.includes('\n')) return;
      if (limiter.wait('whois', 50, 1000) > 0) socket.end('Query rate limit exceeded. Try again later.\r\n');
      else socket.end(whoisText(world, line.trim().toLowerCase(), now()));
    });
  });
}
