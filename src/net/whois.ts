import { connect } from 'node:net';
import { joinRecords, readWhois } from '../core/lifecycle/whois-text';
import { AddressGuard } from './address-guard';
import { hostPort } from './dns';
import { NetError } from './errors';
import type { RecordAnswer } from './rdap';

export interface WhoisOptions {
  /** `host:port` by ending. */
  servers: Record<string, string>;
  /** Asked for endings without a server of their own; refers to the right one. null: such endings have no WHOIS. */
  root: string | null;
  /** `host:port` every connection goes to; null: the server itself. */
  connector: string | null;
  /** Private addresses that may be reached. */
  allowedPrivate?: readonly string[];
  timeoutMs: number;
  /** Hears every answer as it came. */
  heard?(server: string, text: string): void;
}

const MAX_ANSWER_BYTES = 256 * 1024;
const KEPT_CHARACTERS = 4000;
/** What the root referred to holds for a day. */
const REFERRED_MS = 86_400_000;

/** WHOIS (RFC 3912): one line out, text back until the server closes. When a server may be asked is the caller's care. */
export class WhoisClient {
  private readonly referred = new Map<string, { server: string | null; until: number }>();
  private readonly guard: AddressGuard;

  constructor(private readonly options: WhoisOptions) {
    this.guard = new AddressGuard(options.allowedPrivate ?? []);
  }

  /**
   * The server of an ending, by the table or by what the root refers to; null when there is none.
   *
   * @throws when the root could not be asked.
   */
  async serverFor(ending: string, signal?: AbortSignal): Promise<string | null> {
    const last = ending.slice(ending.lastIndexOf('.') + 1);
    const own = this.options.servers[ending] ?? this.options.servers[last];
    if (own) return own;
    if (!this.options.root) return null;
    const known = this.referred.get(last);
    if (known && known.until > performance.now()) return known.server;
    const text = await this.send(this.options.root, last, signal);
    const { referral } = readWhois(text);
    const server = referral && (/:\d+$/.test(referral) ? referral : `${referral}:43`);
    this.referred.set(last, { server, until: performance.now() + REFERRED_MS });
    return server;
  }

  /**
   * Asks a registry's server, and where it holds only a part of the record, the registrar's that it names. Throws only when the signal
   * aborts.
   */
  async domain(server: string, name: string, signal?: AbortSignal): Promise<RecordAnswer> {
    const started = performance.now();
    const base = { server, retryAfterMs: null, isDropped: false, isUnproven: false };
    const elapsed = () => Math.round(performance.now() - started);
    let text: string;
    try {
      text = await this.send(server, name, signal);
    } catch (error) {
      if (signal?.aborted) throw error;
      const detail = (error as Error).message;
      const words = `${server}: ${detail}`;
      return {
        ...base,
        outcome: 'failed',
        record: null,
        words,
        detail,
        elapsedMs: elapsed(),
        isDropped: true,
        text: null,
      };
    }
    const { outcome, record, referral, words, unread } = readWhois(text, name);
    const answer: RecordAnswer = {
      ...base,
      outcome,
      record,
      words: words ?? (outcome === 'failed' ? `${server} gave an answer that is not understood` : null),
      detail: firstLines(text) + (unread.length > 0 ? `; not read: ${unread.slice(0, 3).join(', ')}` : ''),
      elapsedMs: elapsed(),
      text: outcome === 'failed' ? text.slice(0, KEPT_CHARACTERS) : null,
    };
    const isThin = record !== null && record.expiresAt === null && referral !== null;
    return isThin ? { ...answer, ...(await this.restOf(answer, referral, name, signal)) } : answer;
  }

  /** The second step: what the registrar's server knows besides. */
  private async restOf(
    { record, detail }: RecordAnswer,
    referral: string,
    name: string,
    signal?: AbortSignal,
  ): Promise<Partial<RecordAnswer>> {
    if (!record) return {};
    try {
      const second = readWhois(await this.send(referral, name, signal), name);
      if (second.outcome !== 'found' || !second.record)
        return { detail: `${detail} · ${referral} adds nothing: ${second.outcome}` };
      return { record: joinRecords(record, second.record), detail: `${detail} · the rest from ${referral}` };
    } catch (error) {
      if (signal?.aborted) throw error;
      return { detail: `${detail} · ${referral}: ${(error as Error).message}` };
    }
  }

  /** Whoever named the server: where it leads is looked at before a byte goes there. */
  private async send(server: string, question: string, signal?: AbortSignal): Promise<string> {
    const { connector } = this.options;
    const { host, port } = hostPort(connector ?? server, 43);
    const address = connector
      ? host
      : await this.guard.addressOf(host, port, 'whois').catch((error: NodeJS.ErrnoException) => {
          throw error instanceof NetError ? error : new Error(whyNot(error, `${host}:${port}`), { cause: error });
        });
    return new Promise((resolve, reject) => {
      const chunks: Buffer[] = [];
      let size = 0;
      const socket = connect({ host: address, port, signal });
      const timer = setTimeout(() => socket.destroy(new Error('no answer in time')), this.options.timeoutMs);
      socket.on('connect', () => socket.write(`${question}\r\n`));
      socket.on('data', (chunk) => {
        size += chunk.length;
        if (size > MAX_ANSWER_BYTES) socket.destroy(new Error('the answer never ends'));
        else chunks.push(chunk);
      });
      socket.on('error', (error: NodeJS.ErrnoException) => {
        clearTimeout(timer);
        reject(signal?.aborted ? error : new Error(whyNot(error, `${host}:${port}`), { cause: error }));
      });
      socket.on('close', () => {
        clearTimeout(timer);
        reject(new Error('the connection was closed without an answer'));
      });
      socket.on('end', () => {
        clearTimeout(timer);
        if (size === 0) return reject(new Error('the connection was closed without an answer'));
        const text = decode(Buffer.concat(chunks));
        this.options.heard?.(server, text);
        resolve(text);
      });
    });
  }
}

/** Why a connection failed, in words. */
function whyNot({ code, message }: NodeJS.ErrnoException, server: string): string {
  switch (code) {
    case 'ECONNREFUSED':
      return `${server} refuses connections`;
    case 'ENOTFOUND':
    case 'EAI_AGAIN':
      return `${server} has no address in DNS, or DNS does not answer`;
    case 'ENETUNREACH':
    case 'EHOSTUNREACH':
      return `there is no way to ${server} from here`;
    default:
      return message;
  }
}

function firstLines(text: string): string {
  const lines = text.split(/\r?\n/).map((line) => line.trim());
  return (
    lines
      .filter((line) => line !== '' && !/^[%#>]/.test(line))
      .slice(0, 3)
      .join(' · ')
      .slice(0, 200) || text.trim().slice(0, 200)
  );
}

function decode(bytes: Buffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return bytes.toString('latin1');
  }
}
