import { lookup as systemLookup } from 'node:dns';
import { isIP, type LookupFunction } from 'node:net';
import type { Readable } from 'node:stream';
import { createBrotliDecompress, createGunzip, createInflate } from 'node:zlib';
import { Agent, errors, request } from 'undici';
import { AddressGuard } from './address-guard';
import { NetError } from './errors';

export interface HttpOptions {
  userAgent: string;
  /** `host:port` every connection goes to, whatever the address says; null: the host itself. */
  connector: string | null;
  /** CIDR blocks of private addresses that may be reached. */
  allowedPrivate: string[];
  /** Whole exchange. */
  timeoutMs: number;
  /** Body after decompression. */
  maxBodyBytes: number;
  maxHeaderBytes: number;
  /** Connections to one origin at a time. */
  connectionsPerHost: number;
  /** Connections to the connector, which stands for every host. */
  connectionsAtOnce: number;
}

export const HTTP_DEFAULTS: HttpOptions = {
  userAgent: 'JamLadle/0.1 (+http://127.0.0.1/jam-ladle; crawls politely, obeys robots.txt)',
  connector: null,
  allowedPrivate: [],
  timeoutMs: 20_000,
  maxBodyBytes: 4 * 1024 * 1024,
  maxHeaderBytes: 32 * 1024,
  connectionsPerHost: 4,
  connectionsAtOnce: 256,
};

export interface HttpAnswer {
  status: number;
  /** Lower-case names; of repeated headers the first. */
  headers: Record<string, string>;
  body: Buffer;
  elapsedMs: number;
}

export interface GetOptions {
  accept?: string;
  signal?: AbortSignal;
  /** Return with an empty body when this says no; saves reading what is of no use. */
  wantsBody?: (status: number, headers: Record<string, string>) => boolean;
  maxBodyBytes?: number;
}

const DECODERS: Record<string, () => ReturnType<typeof createGunzip>> = {
  gzip: createGunzip,
  'x-gzip': createGunzip,
  deflate: createInflate,
  br: createBrotliDecompress,
};

/**
 * HTTP/1.1 GET with limits on time, header and body size (also after decompression), no redirects followed, and no
 * connection to private addresses: they are checked after resolving, so a public name that points inside is refused.
 */
export class HttpClient {
  private readonly agent: Agent;
  private readonly guard: AddressGuard;
  private readonly options: HttpOptions;

  constructor(options: Partial<HttpOptions> = {}) {
    this.options = { ...HTTP_DEFAULTS, ...options };
    this.guard = new AddressGuard(this.options.allowedPrivate);
    const { connector } = this.options;
    this.agent = new Agent({
      connections: connector ? this.options.connectionsAtOnce : this.options.connectionsPerHost,
      pipelining: 1,
      keepAliveTimeout: 4000,
      maxHeaderSize: this.options.maxHeaderBytes,
      headersTimeout: this.options.timeoutMs,
      bodyTimeout: this.options.timeoutMs,
      connect: {
        timeout: Math.min(10_000, this.options.timeoutMs),
        lookup: connector ? undefined : this.guardedLookup(),
      },
    });
  }

  /** @throws NetError */
  async get(address: string, options: GetOptions = {}): Promise<HttpAnswer> {
    const started = performance.now();
    const url = new URL(address);
    // one controller a request, taken off the caller's signal afterwards: a crawl's signal outlives a million requests
    const stop = new AbortController();
    let timedOut = false;
    const timer = setTimeout(() => {
      timedOut = true;
      stop.abort();
    }, this.options.timeoutMs);
    const onStop = () => stop.abort();
    options.signal?.addEventListener('abort', onStop, { once: true });
    if (options.signal?.aborted) stop.abort();
    try {
      const answer = await this.exchange(url, stop.signal, options);
      return { ...answer, elapsedMs: Math.round(performance.now() - started) };
    } catch (error) {
      throw this.explain(error, url, timedOut, options.signal?.aborted ?? false);
    } finally {
      clearTimeout(timer);
      options.signal?.removeEventListener('abort', onStop);
    }
  }

  async close(): Promise<void> {
    await this.agent.destroy();
  }

  private async exchange(url: URL, signal: AbortSignal, options: GetOptions): Promise<Omit<HttpAnswer, 'elapsedMs'>> {
    const { connector, userAgent } = this.options;
    const bare = url.hostname.replace(/^\[|\]$/g, '');
    if (!connector && isIP(bare) && !this.guard.permits(bare)) throw privateAddress(url.hostname, bare);
    const target = connector ? `http://${connector}` : url.origin;
    const {
      statusCode,
      headers: raw,
      body,
    } = await request(`${target}${url.pathname}${url.search}`, {
      dispatcher: this.agent,
      signal,
      headers: {
        host: url.host,
        'user-agent': userAgent,
        accept: options.accept ?? 'text/html,application/xhtml+xml;q=0.9,*/*;q=0.1',
        'accept-encoding': 'gzip, deflate, br',
      },
    });
    const headers: Record<string, string> = {};
    for (const [name, value] of Object.entries(raw)) {
      const first = Array.isArray(value) ? value[0] : value;
      if (first !== undefined) headers[name] = first;
    }
    if (options.wantsBody && !options.wantsBody(statusCode, headers)) {
      body.on('error', () => undefined);
      body.destroy();
      return { status: statusCode, headers, body: Buffer.alloc(0) };
    }
    const bytes = await readBody(body, headers, options.maxBodyBytes ?? this.options.maxBodyBytes);
    return { status: statusCode, headers, body: bytes };
  }

  private guardedLookup(): LookupFunction {
    return (hostname, options, callback) => {
      systemLookup(hostname, { ...options, all: true }, (error, found) => {
        if (error) return callback(error, '', 0);
        const refused = found.find(({ address }) => !this.guard.permits(address));
        if (refused) return callback(privateAddress(hostname, refused.address), '', 0);
        if (options.all) return callback(null, found as never, 0);
        return callback(null, found[0].address, found[0].family);
      });
    };
  }

  private explain(error: unknown, url: URL, timedOut: boolean, stopped: boolean): NetError {
    if (error instanceof NetError) return error;
    const cause = error as NodeJS.ErrnoException;
    if (cause.cause instanceof NetError) return cause.cause;
    if (stopped) return new NetError('stopped', 'stopped', { cause });
    if (
      timedOut ||
      error instanceof errors.HeadersTimeoutError ||
      error instanceof errors.BodyTimeoutError ||
      error instanceof errors.ConnectTimeoutError
    )
      return new NetError('timeout', `${url.host} did not answer within ${this.options.timeoutMs / 1000} s`, { cause });
    if (error instanceof errors.HeadersOverflowError)
      return new NetError(
        'headers-too-large',
        `${url.host} sent more than ${this.options.maxHeaderBytes / 1024} KB of headers`,
        { cause },
      );
    if (cause.code === 'ENOTFOUND' || cause.code === 'EAI_AGAIN')
      return new NetError('name-not-found', `${url.hostname} resolves to nothing`, { cause });
    if (cause.code === 'ECONNREFUSED') return new NetError('refused', `${url.host} refuses connections`, { cause });
    return new NetError('connection', `The connection to ${url.host} broke: ${cause.message}`, { cause });
  }
}

function privateAddress(host: string, address: string): NetError {
  const which = host === address ? host : `${host} (${address})`;
  return new NetError('private-address', `${which} is a private address; allow it in the settings to reach it`);
}

async function readBody(body: Readable, headers: Record<string, string>, maxBytes: number): Promise<Buffer> {
  const encoding = (headers['content-encoding'] ?? '').trim().toLowerCase();
  const makeDecoder = DECODERS[encoding] as (typeof DECODERS)[string] | undefined;
  if (!makeDecoder && encoding !== '' && encoding !== 'identity') {
    body.on('error', () => undefined);
    body.destroy();
    throw new NetError('bad-encoding', `The content encoding "${encoding.slice(0, 40)}" is not known`);
  }
  const stream: Readable = makeDecoder ? body.pipe(makeDecoder()) : body;
  if (makeDecoder) body.on('error', (error) => stream.destroy(error));
  const chunks: Buffer[] = [];
  let size = 0;
  try {
    for await (const chunk of stream) {
      size += chunk.length;
      if (size > maxBytes)
        throw new NetError('too-large', `The answer is larger than ${Math.round(maxBytes / 1024)} KB`);
      chunks.push(chunk);
    }
  } catch (error) {
    body.on('error', () => undefined);
    body.destroy();
    if ((error as NodeJS.ErrnoException).code?.startsWith('Z_'))
      throw new NetError('bad-encoding', 'The compressed answer is damaged', { cause: error });
    throw error;
  }
  return Buffer.concat(chunks, size);
}

/** Splits `text/html; charset=UTF-8`. */
export function contentType(header: string | undefined): { type: string; charset: string | null } {
  const [type, ...parameters] = (header ?? '').split(';');
  const charset = parameters.map((part) => /^\s*charset\s*=\s*"?([^"\s]+)"?/i.exec(part)?.[1]).find(Boolean);
  return { type: type.trim().toLowerCase(), charset: charset ?? null };
}
