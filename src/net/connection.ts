import { setTimeout as sleep } from 'node:timers/promises';
import { readAnswer } from '../core/connections/answer';
import type { Connection, Paging } from '../core/connections/connection';
import { errorIn, readAvailability } from '../core/connections/meanings';
import type { ReadAnswer } from '../core/connections/read-answer';
import { requestOf } from '../core/connections/request';
import { type Filling, filled, masked, secretsOf } from '../core/connections/template';
import { AnswerFault } from '../core/connections/tree';
import { decodeHtml } from '../core/crawl/decode';
import { parseLinkFormat } from '../core/formats/link-format';
import { NetError } from './errors';
import type { GetOptions, HttpClient } from './http';
import { contentType } from './http';
import { retryAfterMs } from './pacer';
import type { RegistrarAnswer } from './registrar';

/** A part of an answer as it came. */
export interface RawPart {
  address: string;
  status: number;
  headers: Record<string, string>;
  /** The body as text. */
  text: string;
  contentType: string;
  elapsedMs: number;
}

/** A part as it was read. */
export interface AnswerPart {
  answer: ReadAnswer;
  raw: RawPart;
  /** 1-based. */
  page: number;
}

/** The other side is there and does not answer: its status says so. */
export class Declined extends NetError {
  constructor(
    message: string,
    readonly status: number,
    /** How long it wants to be left alone, ms; null: it does not say. */
    readonly retryAfterMs: number | null,
  ) {
    super('bad-answer', message);
  }
}

const MAX_ANSWER_BYTES = 32 * 1024 * 1024;
/** Parts of one answer that are asked for at most. */
export const MOST_PARTS = 1000;
const MINUTE = 60_000;

/**
 * Asks a service as its connection describes it. Keys go nowhere but to the address that is described: redirects are not followed, and a
 * next address elsewhere is refused.
 */
export class ConnectionClient {
  private nextAt = 0;

  constructor(
    private readonly http: HttpClient,
    readonly connection: Connection,
  ) {}

  get server(): string {
    return new URL(filled(this.connection.address, {}, 'address')).host;
  }

  /** All that must not be shown, as it may stand in an answer or a message. */
  get secrets(): string[] {
    return secretsOf(this.connection);
  }

  /** A text without them. */
  masked(text: string): string {
    return masked(text, this.secrets);
  }

  /** The first part of an answer. @throws NetError, AnswerFault */
  async ask(values: Filling, signal?: AbortSignal): Promise<AnswerPart> {
    for await (const part of this.parts(values, signal)) return part;
    throw new AnswerFault('there was no answer');
  }

  /** An answer part by part, at the pace that is set, until there is no more. @throws NetError, AnswerFault, also where there are too many. */
  async *parts(values: Filling, signal?: AbortSignal): AsyncGenerator<AnswerPart> {
    const { paging } = this.connection;
    let next: Next | null = firstOf(paging);
    const isNumbered = paging.by === 'page' || paging.by === 'offset';
    const asked = new Set<string>();
    let before = '';
    for (let page = 1; next !== null; page++) {
      if (page > MOST_PARTS) throw new AnswerFault(`there are more than ${MOST_PARTS} parts`, 'paging');
      const address: string = next.address ?? requestOf(this.connection, { ...values, ...next.values }).address;
      const mark = `${address} ${JSON.stringify(next.values)}`;
      // a server that names the same next part again would never end
      if (asked.has(mark)) return;
      asked.add(mark);
      const part: AnswerPart | null = await this.part(address, { ...values, ...next.values }, page, signal).catch(
        (error: Error) => {
          // beyond the last of its numbered parts a server may have nothing
          if (page > 1 && isNumbered && error instanceof Declined && error.status === 404) return null;
          throw error;
        },
      );
      if (part === null) return;
      // nor would one that gives the last part for every number beyond it
      if (page > 1 && part.raw.text === before) return;
      before = part.raw.text;
      if (page === 1 || part.answer.count > 0) yield part;
      next = part.answer.count === 0 ? null : this.nextOf(part, next, address);
    }
  }

  private nextOf({ answer, raw }: AnswerPart, now: Next, address: string): Next | null {
    const { paging } = this.connection;
    if (paging.by === 'page') return { address: null, values: { page: String(Number(now.values.page) + 1) } };
    if (paging.by === 'offset')
      return { address: null, values: { offset: String(Number(now.values.offset) + paging.step) } };
    if (paging.by === 'none') return null;
    if (paging.by === 'cursor') {
      const cursor = answer.whole(paging.at);
      return cursor === '' || cursor === 'false' ? null : { address: null, values: { cursor } };
    }
    const named = paging.at === '' ? nextLink(raw.headers.link) : answer.whole(paging.at);
    if (named === '' || !URL.canParse(named, address)) return null;
    const there = new URL(named, address);
    if (there.origin !== new URL(address).origin)
      throw new AnswerFault(
        `the next part is said to be at ${there.origin}, which is another server: it is not asked`,
        'paging',
      );
    return { address: there.href, values: {} };
  }

  /** The first part as it comes, whatever it is. @throws NetError when nothing comes. */
  raw(values: Filling, signal?: AbortSignal): Promise<RawPart> {
    const next = firstOf(this.connection.paging);
    return this.fetch(undefined, { ...values, ...next.values }, signal);
  }

  /** @throws Declined by its status, AnswerFault by what it says. */
  read(part: RawPart): ReadAnswer {
    const { connection } = this;
    const { status, text, address } = part;
    if (status < 200 || status >= 300) {
      if (!connection.nothing.includes(status)) throw this.declined(part);
      return NOTHING;
    }
    if (text.trim() === '' && status === 204) return NOTHING;
    const answer = readAnswer(text, connection.format, connection.entries, address);
    const error = errorIn(connection, answer);
    if (error !== null) throw new AnswerFault(`it answers with an error: ${this.masked(error)}`);
    return answer;
  }

  private async part(address: string, values: Filling, page: number, signal?: AbortSignal): Promise<AnswerPart> {
    const raw = await this.fetch(address, values, signal);
    return { answer: this.read(raw), raw, page };
  }

  private async fetch(next: string | undefined, values: Filling, signal?: AbortSignal): Promise<RawPart> {
    await this.turn(signal);
    const { method, address, headers: sent, body: told } = requestOf(this.connection, values, next);
    const options: GetOptions = {
      signal,
      headers: sent,
      maxBodyBytes: MAX_ANSWER_BYTES,
      ...(method !== 'GET' && { method, body: told ?? '' }),
    };
    const { status, headers, body, elapsedMs } = await this.http.get(address, options);
    const { type, charset } = contentType(headers['content-type']);
    const declared = /^<\?xml[^>]{0,80}encoding=["']([\w-]+)/.exec(body.subarray(0, 120).toString('latin1'))?.[1];
    const { text } = decodeHtml(body, charset ?? declared ?? null);
    return { address, status, headers, text, contentType: type, elapsedMs };
  }

  /** Why its status says that it does not answer. */
  declined({ status, headers, text }: RawPart): Declined {
    const where = headers.location === undefined ? '' : `, and points to ${headers.location}`;
    const said = /^[[{<]/.test(text.trimStart()) ? '' : text.trim().slice(0, 120);
    const words = `${this.server} answered ${status}${WHY[status] ?? ''}${where}${said === '' ? '' : `: ${said}`}`;
    return new Declined(this.masked(words), status, retryAfterMs(headers['retry-after'], Date.now()));
  }

  /** Waits until the service may be asked again. */
  private async turn(signal?: AbortSignal): Promise<void> {
    const wait = this.nextAt - performance.now();
    this.nextAt = Math.max(performance.now(), this.nextAt) + MINUTE / this.connection.perMinute;
    if (wait > 0) await sleep(wait, undefined, { signal });
  }
}

/** Where the next part is asked for: at an address of its own, or by values. */
interface Next {
  address: string | null;
  values: Filling;
}

function firstOf(paging: Paging): Next {
  if (paging.by === 'page') return { address: null, values: { page: String(paging.from) } };
  if (paging.by === 'offset') return { address: null, values: { offset: '0' } };
  return { address: null, values: {} };
}

const NOTHING: ReadAnswer = { count: 0, text: () => '', whole: () => '', tree: null };

const WHY: Record<number, string | undefined> = {
  401: ' (it wants a key or login, or does not know this one)',
  403: ' (it does not let you)',
  404: ' (nothing is there)',
  405: ' (it wants another method)',
  429: ' (too often: ask less a minute)',
};

function nextLink(header: string | undefined): string {
  if (header === undefined) return '';
  const { entries } = parseLinkFormat(header);
  return entries.find(({ parameters }) => (parameters.rel ?? '').split(/\s+/).includes('next'))?.url ?? '';
}

/** Asks a registrar that is described whether it would register a domain, one question. Never throws but when the signal aborts. */
export async function askDescribed(
  client: ConnectionClient,
  name: string,
  values: Filling,
  signal?: AbortSignal,
): Promise<RegistrarAnswer> {
  const { server, secrets } = client;
  const none = { priceMinor: null, currency: null, server, elapsedMs: 0, retryAfterMs: null };
  try {
    const { answer, raw } = await client.ask(values, signal);
    const { availability, priceMinor, currency } = readAvailability(client.connection, answer, name);
    const price = priceMinor === null ? '' : `, ${(priceMinor / 100).toFixed(2)} ${currency ?? ''}`.trimEnd();
    return {
      ...none,
      outcome: availability,
      priceMinor,
      currency,
      detail: `${availability}${price}`,
      elapsedMs: raw.elapsedMs,
    };
  } catch (error) {
    const detail = masked((error as Error).message, secrets);
    if (error instanceof Declined) {
      const isLater = error.status === 429 || error.status === 503;
      return {
        ...none,
        outcome: isLater ? 'refused' : 'failed',
        detail,
        elapsedMs: 1,
        retryAfterMs: error.retryAfterMs,
      };
    }
    if (error instanceof AnswerFault) return { ...none, outcome: 'failed', detail, elapsedMs: 1 };
    if (!(error instanceof NetError) || error.code === 'stopped') throw error;
    return { ...none, outcome: 'failed', detail };
  }
}
