import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import type { RecordOutcome, RegistrationRecord } from '../core/lifecycle/phase';
import { type RdapRead, readRdap } from '../core/lifecycle/rdap-answer';
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
  /** The words that decided, or why it is no answer. */
  words: string | null;
  /** Of what was understood: that there is no record, but of a server that was not seen to answer for the ending yet. */
  isUnproven: boolean;
  /** The text, where it could not be understood; null: there is no more in it than in the record. */
  text: string | null;
}

/** RFC 9224 section 3: pairs of endings and base addresses. */
const Bootstrap = z.object({ services: z.array(z.tuple([z.array(z.string()), z.array(z.url())])) });

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

  /**
   * Asks for a domain, one question; when it may be asked is the caller's care. Throws only when the signal aborts.
   *
   * @param isKnown whether the server was seen, of late, to answer for a name that exists under the ending.
   */
  async domain(base: string, name: string, isKnown: boolean, signal?: AbortSignal): Promise<RecordAnswer> {
    const server = new URL(base).host;
    const none = {
      record: null,
      server,
      retryAfterMs: null,
      isDropped: false,
      isUnproven: false,
      words: null,
      text: null,
    };
    try {
      const { status, headers, body, elapsedMs } = await this.http.get(new URL(`domain/${name}`, base).href, {
        accept: 'application/rdap+json',
        signal,
      });
      const received = { status, contentType: headers['content-type'] ?? null, body: body.toString('utf8') };
      const read = readRdap({ ...received, serverKnown: true }, name);
      const isUnproven = read.outcome === 'not-found' && !isKnown;
      const answer = isUnproven ? readRdap({ ...received, serverKnown: false }, name) : read;
      return {
        ...none,
        outcome: answer.outcome,
        record: answer.record,
        words: answer.words,
        isUnproven,
        elapsedMs,
        retryAfterMs: answer.outcome === 'refused' ? retryAfterMs(headers['retry-after'], Date.now()) : null,
        detail: detailOf(status, answer),
        text: answer.outcome === 'failed' ? received.body.slice(0, KEPT_CHARACTERS) : null,
      };
    } catch (error) {
      if (!(error instanceof NetError) || error.code === 'stopped') throw error;
      return { ...none, outcome: 'failed', detail: error.message, words: error.message, elapsedMs: 0, isDropped: true };
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

function detailOf(status: number, { outcome, record, words, unread }: RdapRead): string {
  const odd = unread.length > 0 ? `; not read: ${unread.slice(0, 3).join(', ')}` : '';
  if (outcome === 'found') return `HTTP ${status}: ${record?.statuses.join(', ') || 'no status'}${odd}`;
  return words === `HTTP ${status}` ? words : `HTTP ${status}: ${words ?? outcome}`;
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
