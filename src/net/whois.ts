import { connect } from 'node:net';
import { readWhois } from '../core/lifecycle/whois-text';
import { hostPort } from './dns';
import type { Pacer } from './pacer';
import type { RecordAnswer } from './rdap';

export interface WhoisOptions {
  /** `host:port` by ending. */
  servers: Record<string, string>;
  /** Asked for endings without a server of their own; refers to the right one. null: such endings have no WHOIS. */
  root: string | null;
  /** `host:port` every connection goes to; null: the server itself. */
  connector: string | null;
  timeoutMs: number;
}

const MAX_ANSWER_BYTES = 256 * 1024;
const MAX_TRIES = 3;

/** WHOIS (RFC 3912): one line out, text back until the server closes. */
export class WhoisClient {
  constructor(
    private readonly options: WhoisOptions,
    private readonly pacer: Pacer,
  ) {}

  /** @returns null when no server is known for the ending. */
  async domain(name: string, ending: string, signal?: AbortSignal): Promise<RecordAnswer | null> {
    const last = ending.slice(ending.lastIndexOf('.') + 1);
    let server: string | null = this.options.servers[ending] ?? this.options.servers[last] ?? null;
    if (!server) {
      if (!this.options.root) return null;
      const referral = readWhois(await this.ask(this.options.root, last, signal).catch(() => '')).referral;
      if (!referral) return null;
      server = referral;
    }
    return this.askRecord(server, name, signal);
  }

  private async askRecord(server: string, name: string, signal?: AbortSignal): Promise<RecordAnswer> {
    for (let attempt = 1; ; attempt++) {
      const started = performance.now();
      try {
        const text = await this.ask(server, name, signal);
        const elapsedMs = Math.round(performance.now() - started);
        const { outcome, record } = readWhois(text);
        if (outcome === 'refused') {
          this.pacer.refused(server, null);
          if (attempt < MAX_TRIES) continue;
        } else this.pacer.answered(server);
        const detail = text.trim().split(/\r?\n/, 3).join(' · ').slice(0, 200) || 'an empty answer';
        return { outcome, record, server, detail, elapsedMs };
      } catch (error) {
        if (signal?.aborted) throw error;
        if (attempt < 2) continue;
        return { outcome: 'failed', record: null, server, detail: (error as Error).message, elapsedMs: 0 };
      }
    }
  }

  private async ask(server: string, question: string, signal?: AbortSignal): Promise<string> {
    await this.pacer.turn(server, signal);
    const { host, port } = hostPort(this.options.connector ?? server, 43);
    return new Promise((resolve, reject) => {
      const chunks: Buffer[] = [];
      let size = 0;
      const socket = connect({ host, port, signal });
      const timer = setTimeout(() => socket.destroy(new Error('no answer in time')), this.options.timeoutMs);
      socket.on('connect', () => socket.write(`${question}\r\n`));
      socket.on('data', (chunk) => {
        size += chunk.length;
        if (size > MAX_ANSWER_BYTES) socket.destroy(new Error('the answer never ends'));
        else chunks.push(chunk);
      });
      socket.on('error', (error) => {
        clearTimeout(timer);
        reject(error);
      });
      socket.on('end', () => {
        clearTimeout(timer);
        resolve(decode(Buffer.concat(chunks)));
      });
    });
  }
}

function decode(bytes: Buffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return bytes.toString('latin1');
  }
}
