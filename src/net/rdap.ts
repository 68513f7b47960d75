import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import type { RecordOutcome, RegistrationRecord } from '../core/lifecycle/phase';
import { NetError } from './errors';
import type { HttpClient } from './http';
import { type Pacer, retryAfterMs } from './pacer';

export interface RecordAnswer {
  outcome: RecordOutcome;
  record: RegistrationRecord | null;
  server: string;
  detail: string;
  elapsedMs: number;
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

const MAX_TRIES = 4;
/** A registry that asks for a longer pause is left alone; its names stay unknown until they are checked again. */
const LONGEST_WAIT_MS = 20_000;

/** RDAP (RFC 9082, 9083) with the bootstrap of RFC 9224. */
export class RdapClient {
  private services: Promise<Map<string, string>> | null = null;

  constructor(
    private readonly http: HttpClient,
    private readonly pacer: Pacer,
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

  /** Asks for a domain. Waits its turn; after a refusal tries again, unless the server wants a long pause. */
  async domain(base: string, name: string, signal?: AbortSignal): Promise<RecordAnswer> {
    const server = new URL(base).host;
    for (let attempt = 1; ; attempt++) {
      const wait = this.pacer.waitMs(server);
      if (wait > LONGEST_WAIT_MS) {
        const detail = `not asked: the registry wants a pause of ${Math.ceil(wait / 60_000)} min more`;
        return { outcome: 'refused', record: null, server, detail, elapsedMs: 0 };
      }
      await this.pacer.turn(server, signal);
      try {
        const answer = await this.http.get(new URL(`domain/${name}`, base).href, {
          accept: 'application/rdap+json',
          signal,
        });
        if (answer.status === 429 || answer.status === 503) {
          this.pacer.refused(server, retryAfterMs(answer.headers['retry-after'], Date.now()));
          if (attempt < MAX_TRIES) continue;
          return {
            outcome: 'refused',
            record: null,
            server,
            detail: `HTTP ${answer.status}, ${attempt} times`,
            elapsedMs: answer.elapsedMs,
          };
        }
        this.pacer.answered(server);
        return {
          ...readAnswer(answer.status, answer.body.toString('utf8'), name),
          server,
          elapsedMs: answer.elapsedMs,
        };
      } catch (error) {
        if (!(error instanceof NetError) || error.code === 'stopped') throw error;
        if (attempt < 2) continue;
        return { outcome: 'failed', record: null, server, detail: error.message, elapsedMs: 0 };
      }
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
  const registrar = object.entities.find((entity) => entity.roles.includes('registrar'));
  const record: RegistrationRecord = {
    statuses: object.status,
    registeredAt: eventAt('registration'),
    expiresAt: eventAt('expiration'),
    changedAt: eventAt('last changed'),
    registrar: registrar ? (fullName(registrar.vcardArray) ?? registrar.handle ?? null) : null,
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
