import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import type { RecordOutcome, RegistrationRecord } from '../core/lifecycle/phase';
import { NetError } from './errors';
import type { HttpClient } from './http';
import { retryAfterMs } from './pacer';

export interface RecordAnswer {
  outcome: RecordOutcome;
  record: RegistrationRecord | null;
  server: string;
  detail: string;
  elapsedMs: number;
  /** How long the server wants to be left alone, ms; null: it does not say. */
  retryAfterMs: number | null;
  /** Whether the connection broke or nothing came in time. */
  isDropped: boolean;
  /** The text, where it could not be understood; null: there is no more in it than in the record. */
  text: string | null;
}

/** RFC 9224 section 3: pairs of endings and base addresses. */
const Bootstrap = z.object({ services: z.array(z.tuple([z.array(z.string()), z.array(z.url())])) });

/** RFC 9083 section 5.3, as far as a domain's life needs it. Everything may be missing. */
const DomainObject = z.object({
  objectClassName: z.literal('domain'),
  ldhName: z.string().optional(),
  status: z.array(z.string()).default([]),
  events: z.array(z.object({ eventAction: z.string(), eventDate: z.string() })).default([]),
  nameservers: z.array(z.object({ ldhName: z.string().optional() })).default([]),
  entities: z
    .array(
      z.object({
        roles: z.array(z.string()).default([]),
        handle: z.string().optional(),
        vcardArray: z.unknown().optional(),
      }),
    )
    .default([]),
});

const KEPT_CHARACTERS = 4000;

/** RDAP (RFC 9082, 9083) with the bootstrap of RFC 9224. */
export class RdapClient {
  private services: Promise<Map<string, string>> | null = null;

  constructor(
    private readonly http: HttpClient,
    /** Address or path of the bootstrap file. */
    private readonly bootstrap: string,
  ) {}

  /** Base address of the server for an ending, longest match first (RFC 9224 section 4); null when it has none. */
  async serverFor(ending: string): Promise<string | null> {
    this.services ??= this.loadBootstrap();
    let services: Map<string, string>;
    try {
      services = await this.services;
    } catch (error) {
      this.services = null;
      throw error;
    }
    for (let suffix = ending; ; suffix = suffix.slice(suffix.indexOf('.') + 1)) {
      const base = services.get(suffix);
      if (base) return base;
      if (!suffix.includes('.')) return null;
    }
  }

  /** Asks for a domain, one question; when it may be asked is the caller's care. Throws only when the signal aborts. */
  async domain(base: string, name: string, signal?: AbortSignal): Promise<RecordAnswer> {
    const server = new URL(base).host;
    const none = { record: null, server, retryAfterMs: null, isDropped: false, text: null };
    try {
      const { status, headers, body, elapsedMs } = await this.http.get(new URL(`domain/${name}`, base).href, {
        accept: 'application/rdap+json',
        signal,
      });
      if (status === 429 || status === 503) {
        const wait = retryAfterMs(headers['retry-after'], Date.now());
        return { ...none, outcome: 'refused', detail: `HTTP ${status}`, elapsedMs, retryAfterMs: wait };
      }
      const text = body.toString('utf8');
      const answer = readAnswer(status, text, name);
      return {
        ...none,
        ...answer,
        elapsedMs,
        text: answer.outcome === 'failed' ? text.slice(0, KEPT_CHARACTERS) : null,
      };
    } catch (error) {
      if (!(error instanceof NetError) || error.code === 'stopped') throw error;
      return { ...none, outcome: 'failed', detail: error.message, elapsedMs: 0, isDropped: true };
    }
  }

  private async loadBootstrap(): Promise<Map<string, string>> {
    const text = /^https?:/.test(this.bootstrap)
      ? (await this.http.get(this.bootstrap, { accept: 'application/json' })).body.toString('utf8')
      : await readFile(this.bootstrap, 'utf8');
    const parsed = Bootstrap.safeParse(parseJson(text));
    if (!parsed.success)
      throw new NetError('bad-answer', `The RDAP bootstrap file ${this.bootstrap} does not follow RFC 9224`);
    const services = new Map<string, string>();
    for (const [endings, bases] of parsed.data.services) {
      const base = bases.find((address) => address.startsWith('https:')) ?? bases[0];
      if (base)
        for (const ending of endings) services.set(ending.toLowerCase(), base.endsWith('/') ? base : `${base}/`);
    }
    return services;
  }
}

/** Judges one answer. 404 is the only way to say "no record" (RFC 7480 section 5.3). */
export function readAnswer(
  status: number,
  text: string,
  name: string,
): Pick<RecordAnswer, 'outcome' | 'record' | 'detail'> {
  if (status === 404) return { outcome: 'not-found', record: null, detail: 'HTTP 404: no record' };
  if (status !== 200) return { outcome: 'failed', record: null, detail: `HTTP ${status}` };
  const parsed = DomainObject.safeParse(parseJson(text));
  if (!parsed.success) return { outcome: 'failed', record: null, detail: 'the answer is no RDAP domain object' };
  const object = parsed.data;
  if (object.ldhName && object.ldhName.toLowerCase().replace(/\.$/, '') !== name)
    return { outcome: 'failed', record: null, detail: `the answer is about ${object.ldhName.slice(0, 80)}` };
  const eventAt = (action: string): number | null => {
    const found = object.events.find((event) => event.eventAction.toLowerCase() === action);
    const at = found ? Date.parse(found.eventDate) : Number.NaN;
    return Number.isNaN(at) ? null : at;
  };
  const entityOf = (role: string) => object.entities.find((entity) => entity.roles.includes(role));
  const registrar = entityOf('registrar');
  const record: RegistrationRecord = {
    statuses: object.status,
    registeredAt: eventAt('registration'),
    expiresAt: eventAt('expiration'),
    changedAt: eventAt('last changed'),
    registrar: registrar ? (fullName(registrar.vcardArray) ?? registrar.handle ?? null) : null,
    registrant: fullName(entityOf('registrant')?.vcardArray) ?? undefined,
    nameServers: object.nameservers.flatMap((server) => server.ldhName?.toLowerCase() ?? []),
  };
  return { outcome: 'found', record, detail: `HTTP 200: ${object.status.join(', ') || 'no status'}` };
}

/** The fn property of a jCard (RFC 7095). */
function fullName(vcard: unknown): string | null {
  const properties = Array.isArray(vcard) && Array.isArray(vcard[1]) ? vcard[1] : [];
  const found = properties.find((property) => Array.isArray(property) && property[0] === 'fn');
  return typeof found?.[3] === 'string' ? found[3].slice(0, 200) : null;
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
