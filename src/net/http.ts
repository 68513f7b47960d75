import { isIP } from 'node:net';
import { brotliDecompress, gunzip, inflate } from 'node:zlib';
import { Agent, type Dispatcher, errors } from 'undici';
import { AddressGuard, privateAddress, wrongPort } from './address-guard';
import { NetError } from './errors';
import { NameLookup } from './name-lookup';

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
  /** `host:port` of resolvers that hosts are looked up at; empty: the system's own lookup, which has four threads for all. */
  resolvers: string[];
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
  resolvers: [],
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
  /** Further headers, such as those of conditional requests (RFC 9110, 13.1). */
  headers?: Record<string, string>;
  /** Another method than GET, with its body: a PUT or DELETE that may be sent again without harm (RFC 9110, 9.2.2), or a POST that asks. */
  method?: 'PUT' | 'DELETE' | 'POST';
  body?: string;
  /** Takes the body of a 200 as it comes, as the server holds it; the answer's body is then empty. */
  onChunk?: (chunk: Buffer) => void;
}

type Decode = (
  packed: Buffer,
  options: { maxOutputLength: number },
  done: (error: NodeJS.ErrnoException | null, unfolded: Buffer) => void,
) => void;
const DECODERS: Record<string, Decode | undefined> = {
  gzip: gunzip,
  'x-gzip': gunzip,
  deflate: inflate,
  br: brotliDecompress,
};

/**
 * HTTP/1.1 GET (and what may be repeated like it) with limits on time, header and body size (also after decompression), no redirects followed, and no
 * connection to private addresses: they are checked after resolving, so a public name that points inside is refused.
 */
export class HttpClient {
  private readonly agent: Agent;
  private readonly guard: AddressGuard;
  private readonly names: NameLookup | null;
  private readonly options: HttpOptions;

  constructor(options: Partial<HttpOptions> = {}) {
    this.options = { ...HTTP_DEFAULTS, ...options };
    this.guard = new AddressGuard(this.options.allowedPrivate);
    const { connector, resolvers } = this.options;
    const names = connector || resolvers.length === 0 ? null : new NameLookup(resolvers);
    this.names = names;
    this.agent = new Agent({
      connections: connector ? this.options.connectionsAtOnce : this.options.connectionsPerHost,
      pipelining: 1,
      keepAliveTimeout: 4000,
      maxHeaderSize: this.options.maxHeaderBytes,
      headersTimeout: this.options.timeoutMs,
      bodyTimeout: this.options.timeoutMs,
      connect: {
        timeout: Math.min(10_000, this.options.timeoutMs),
        lookup: connector ? undefined : this.guard.lookup(names ? (name) => names.find(name) : undefined),
      },
    });
  }

  /** @throws NetError */
  async get(address: string, options: GetOptions = {}): Promise<HttpAnswer> {
    const started = performance.now();
    const url = new URL(address);
    const reader = new AnswerReader(options, options.maxBodyBytes ?? this.options.maxBodyBytes);
    let timedOut = false;
    const timer = setTimeout(() => {
      timedOut = true;
      reader.stop();
    }, this.options.timeoutMs);
    // taken off the caller's signal afterwards: a crawl's signal outlives a million requests
    const onStop = () => reader.stop();
    options.signal?.addEventListener('abort', onStop, { once: true });
    try {
      if (options.signal?.aborted) throw new DOMException('stopped', 'AbortError');
      this.ask(url, reader, options);
      const { status, headers, body } = await reader.answer;
      return { status, headers, body, elapsedMs: Math.round(performance.now() - started) };
    } catch (error) {
      throw this.explain(error, url, timedOut, options.signal?.aborted ?? false);
    } finally {
      clearTimeout(timer);
      options.signal?.removeEventListener('abort', onStop);
    }
  }

  async close(): Promise<void> {
    await this.agent.destroy();
    this.names?.close();
  }

  private ask(url: URL, reader: AnswerReader, options: GetOptions): void {
    const { connector, userAgent } = this.options;
    const bare = url.hostname.replace(/^\[|\]$/g, '');
    if (!connector) {
      if (isIP(bare) && !this.guard.permits(bare)) throw privateAddress(url.hostname, bare);
      const port = Number(url.port) || (url.protocol === 'https:' ? 443 : 80);
      if (!this.guard.permitsPort(bare, port, 'http')) throw wrongPort(url.hostname, port);
    }
    this.agent.dispatch(
      {
        origin: connector ? `http://${connector}` : url.origin,
        path: `${url.pathname}${url.search}`,
        method: options.method ?? 'GET',
        body: options.body,
        headers: {
          host: url.host,
          'user-agent': userAgent,
          accept: options.accept ?? 'text/html,application/xhtml+xml;q=0.9,*/*;q=0.1',
          'accept-encoding': options.onChunk ? 'identity' : 'gzip, deflate, br',
          ...options.headers,
        },
      },
      reader,
    );
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
    if (cause.code === 'ENOTFOUND')
      return new NetError('name-not-found', `${url.hostname} resolves to nothing`, { cause });
    if (cause.code === 'EAI_AGAIN')
      return new NetError('name-unsure', `${url.hostname} could not be looked up: no resolver answered`, { cause });
    if (cause.code === 'ECONNREFUSED') return new NetError('refused', `${url.host} refuses connections`, { cause });
    return new NetError('connection', `The connection to ${url.host} broke: ${cause.message}`, { cause });
  }
}

type Answered = Omit<HttpAnswer, 'elapsedMs'>;

/**
 * Takes an answer in as it comes. Its parts are handled as they leave the socket, without a stream between, which is a good
 * part of what a small request costs.
 */
class AnswerReader implements Dispatcher.DispatchHandler {
  readonly answer: Promise<Answered>;
  private resolve: (answer: Answered) => void = () => undefined;
  private reject: (error: unknown) => void = () => undefined;
  private controller: Dispatcher.DispatchController | null = null;
  private isOver = false;
  private status = 0;
  private headers: Record<string, string> = {};
  private decode: Decode | null = null;
  private readonly chunks: Buffer[] = [];
  private size = 0;

  constructor(
    private readonly options: GetOptions,
    private readonly maxBytes: number,
  ) {
    this.answer = new Promise((resolve, reject) => {
      this.resolve = resolve;
      this.reject = reject;
    });
  }

  /** Ends the exchange from our side. */
  stop(error: Error = new DOMException('stopped', 'AbortError')): void {
    if (this.isOver) return;
    this.isOver = true;
    this.reject(error);
    this.controller?.abort(error);
  }

  onRequestStart(controller: Dispatcher.DispatchController): void {
    this.controller = controller;
    if (this.isOver) controller.abort(new Error('stopped'));
  }

  onResponseStart(
    _controller: Dispatcher.DispatchController,
    status: number,
    raw: Record<string, string | string[] | undefined>,
  ): void {
    if (status < 200) return; // an interim answer; the real one follows
    this.status = status;
    for (const name in raw) {
      const value = raw[name];
      const first = Array.isArray(value) ? value[0] : value;
      if (first !== undefined) this.headers[name] = first;
    }
    if (this.options.wantsBody && !this.options.wantsBody(status, this.headers)) {
      this.isOver = true;
      this.resolve({ status, headers: this.headers, body: Buffer.alloc(0) });
      this.controller?.abort(new Error('the body is not wanted'));
      return;
    }
    const encoding = (this.headers['content-encoding'] ?? '').trim().toLowerCase();
    if (encoding === '' || encoding === 'identity') return;
    this.decode = DECODERS[encoding] ?? null;
    if (!this.decode)
      this.stop(new NetError('bad-encoding', `The content encoding "${encoding.slice(0, 40)}" is not known`));
  }

  onResponseData(_controller: Dispatcher.DispatchController, chunk: Buffer): void {
    if (this.isOver) return;
    this.size += chunk.length;
    if (this.size > this.maxBytes) this.stop(tooLarge(this.maxBytes));
    else if (this.options.onChunk && this.status === 200 && !this.decode) this.handOn(chunk);
    else this.chunks.push(chunk);
  }

  private handOn(chunk: Buffer): void {
    try {
      this.options.onChunk?.(chunk);
    } catch (error) {
      this.stop(error as Error);
    }
  }

  onResponseEnd(): void {
    if (this.isOver) return;
    const body = this.chunks.length === 1 ? this.chunks[0] : Buffer.concat(this.chunks, this.size);
    const { status, headers, decode } = this;
    const maxBytes = Math.min(this.maxBytes, MOST_UNFOLDED);
    if (!decode || body.length === 0) {
      this.isOver = true;
      this.resolve({ status, headers, body });
      return;
    }
    // stops by itself before more than maxOutputLength is unfolded
    decode(body, { maxOutputLength: maxBytes }, (error, unfolded) => {
      if (error) this.stop(damaged(error, maxBytes));
      else if (!this.isOver) {
        this.isOver = true;
        this.resolve({ status, headers, body: unfolded });
      }
    });
  }

  onResponseError(_controller: Dispatcher.DispatchController, error: Error): void {
    if (this.isOver) return;
    this.isOver = true;
    this.reject(error);
  }
}

/** More than that is not unfolded in memory, whatever may be taken plain. */
const MOST_UNFOLDED = 1024 ** 3;

function tooLarge(maxBytes: number): NetError {
  return new NetError('too-large', `The answer is larger than ${Math.round(maxBytes / 1024)} KB`);
}

function damaged(error: NodeJS.ErrnoException, maxBytes: number): NetError {
  if (error.code === 'ERR_BUFFER_TOO_LARGE') return tooLarge(maxBytes);
  return new NetError('bad-encoding', 'The compressed answer is damaged', { cause: error });
}

/** Splits `text/html; charset=UTF-8`. */
export function contentType(header: string | undefined): { type: string; charset: string | null } {
  const [type, ...parameters] = (header ?? '').split(';');
  const charset = parameters.map((part) => /^\s*charset\s*=\s*"?([^"\s]+)"?/i.exec(part)?.[1]).find(Boolean);
  return { type: type.trim().toLowerCase(), charset: charset ?? null };
}
