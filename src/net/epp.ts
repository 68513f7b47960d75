import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { isIP } from 'node:net';
import { type ConnectionOptions, connect, rootCertificates, type TLSSocket } from 'node:tls';
import { EppFault, type Response, readGreeting, readResponse } from '../core/epp/answers';
import { FEE, type Login, loginCommand, logoutCommand } from '../core/epp/commands';
import { FrameReader, frameOf } from '../core/epp/frames';
import { AddressGuard } from './address-guard';
import { hostPort } from './dns';
import { NetError } from './errors';

/** Where the IANA has EPP listen (RFC 5734, 6). */
const PORT = 700;
/** A session that nobody uses is ended: registries count them. */
const IDLE_MS = 30_000;
const FEWEST_SECRET = 4;

export interface EppOptions {
  /** `host:port`. */
  server: string;
  login: Login;
  /**
   * A PEM file: the certificate that the server knows us by with its key, the certificate of an authority that this machine does not know, or
   * both; '': none.
   */
  certificate?: string;
  /** Private addresses that may be reached. */
  allowedPrivate?: readonly string[];
  timeoutMs: number;
  /** Hears what goes to and fro, without secrets. */
  heard?(text: string): void;
}

/** A server's refusal of a command. Its message is for people. */
export class EppRefusal extends Error {
  constructor(
    readonly code: number,
    message: string,
  ) {
    super(message);
  }

  /** Whether asking again later may help: too many sessions, or a fault of the server. */
  get isForNow(): boolean {
    return this.code === 2502 || this.code === 2400 || this.code === 2500;
  }
}

/** A connection that was greeted and logged in. */
interface Session {
  socket: TLSSocket;
  hasFees: boolean;
  /** The next message. */
  read(): Promise<string>;
}

/**
 * A session of the Extensible Provisioning Protocol (RFC 5730) over TLS (RFC 5734): one command at a time. It is begun with the first
 * command and ended when nothing was asked for half a minute. The server's certificate has to be one that this machine trusts.
 */
export class EppClient {
  private session: Promise<Session> | null = null;
  private last: Promise<unknown> = Promise.resolve();
  private idle: NodeJS.Timeout | null = null;

  constructor(private readonly options: EppOptions) {}

  /**
   * Puts a command, after those before it.
   *
   * @param make the command, from whether the server names fees and under which id it goes.
   * @returns the answer, also where it says no.
   * @throws NetError, EppFault, or EppRefusal where one could not log in.
   */
  ask(make: (hasFees: boolean, id: string) => string, signal?: AbortSignal): Promise<Response> {
    const asked = this.last.then(async () => {
      signal?.throwIfAborted();
      return this.exchange(make, signal);
    });
    this.last = asked.catch(() => undefined);
    return asked;
  }

  /** Ends the session, if there is one, after what is under way. */
  async close(): Promise<void> {
    await this.last;
    const before = this.session;
    this.drop();
    const session = await before?.catch(() => null);
    if (!session || session.socket.destroyed) return;
    session.socket.write(frameOf(logoutCommand(newId())));
    session.socket.end();
  }

  private async exchange(make: (hasFees: boolean, id: string) => string, signal?: AbortSignal): Promise<Response> {
    if (this.idle) clearTimeout(this.idle);
    const stop = () =>
      void this.session?.then(
        ({ socket }) => socket.destroy(),
        () => undefined,
      );
    signal?.addEventListener('abort', stop, { once: true });
    try {
      // a server may have ended it since
      if ((await this.session)?.socket.destroyed) this.session = null;
      this.session ??= this.begin();
      const { socket, hasFees, read } = await this.session;
      const id = newId();
      const answer = await this.answerTo(socket, read, make(hasFees, id), id);
      // the server has ended the session with it (RFC 5730, 3)
      if (answer.code === 1500 || answer.code >= 2500) this.drop();
      return answer;
    } catch (error) {
      // what comes next on this line may answer anything
      void this.session?.then(
        ({ socket }) => socket.destroy(),
        () => undefined,
      );
      this.drop();
      signal?.throwIfAborted();
      throw error;
    } finally {
      signal?.removeEventListener('abort', stop);
      this.idle = setTimeout(() => void this.close(), IDLE_MS);
      this.idle.unref();
    }
  }

  private drop(): void {
    if (this.idle) clearTimeout(this.idle);
    this.session = null;
  }

  private async answerTo(
    socket: TLSSocket,
    read: () => Promise<string>,
    command: string,
    id: string,
  ): Promise<Response> {
    this.hear('to', command);
    socket.write(frameOf(command));
    const message = await read();
    this.hear('from', message);
    const answer = readResponse(message);
    if (answer.answers !== null && answer.answers !== id) throw new EppFault('it answered another command');
    return answer;
  }

  private async begin(): Promise<Session> {
    const { options } = this;
    const { socket, read } = await this.connected();
    try {
      const message = await read();
      this.hear('from', message);
      const greeting = readGreeting(message);
      const id = newId();
      const { code, words } = await this.answerTo(socket, read, loginCommand(options.login, greeting, id), id);
      if (code >= 2000) throw new EppRefusal(code, `it lets nobody in: ${this.masked(words)} (${code})`);
      return { socket, read, hasFees: greeting.extensions.includes(FEE) };
    } catch (error) {
      socket.destroy();
      throw error;
    }
  }

  private async connected(): Promise<Pick<Session, 'socket' | 'read'>> {
    const { server, allowedPrivate = [], timeoutMs, certificate = '' } = this.options;
    const { host, port } = hostPort(server, PORT);
    const address = await addressOf(allowedPrivate, host, port);
    const named = host.replace(/^\[|\]$/g, '');
    const socket = connect({
      host: address,
      port,
      // an address is no name to ask for (RFC 6066, 3)
      servername: isIP(named) ? '' : named,
      ...(certificate === '' ? {} : certificatesIn(certificate)),
      minVersion: 'TLSv1.2',
    });
    const reader = new FrameReader();
    const messages: string[] = [];
    let wake: () => void = () => undefined;
    let fault: Error | null = null;
    const fail = (error: Error) => {
      fault ??= error;
      socket.destroy();
      wake();
    };
    socket.setNoDelay(true);
    socket.on('data', (part) => {
      try {
        messages.push(...reader.push(part));
      } catch (error) {
        fail(new EppFault((error as Error).message));
      }
      wake();
    });
    socket.on('error', (error) => fail(whyNot(error, server, timeoutMs)));
    socket.on('close', () => fail(new NetError('connection', `${server} ended the connection`)));
    const read = async () => {
      const timer = setTimeout(
        () => fail(new NetError('timeout', `${server} gave no answer within ${timeoutMs / 1000} s`)),
        timeoutMs,
      );
      try {
        while (messages.length === 0) {
          if (fault) throw fault;
          await new Promise<void>((resolve) => {
            wake = resolve;
          });
        }
        return messages.shift() as string;
      } finally {
        clearTimeout(timer);
      }
    };
    return { socket, read };
  }

  private hear(way: 'to' | 'from', message: string): void {
    this.options.heard?.(`${way === 'to' ? '→' : '←'} ${this.masked(message)}`);
  }

  /** What somebody else says, without what opens the door. */
  private masked(text: string): string {
    const { password } = this.options.login;
    const withoutOwn = text.replace(/(<(?:\w+:)?(?:pw|newPW)>)[^<]*/g, '$1…');
    return password.length < FEWEST_SECRET ? withoutOwn : withoutOwn.replaceAll(password, '…');
  }
}

/** An id of a command: 3 to 64 characters (RFC 5730, 4.2). */
const newId = () => `JL-${randomUUID()}`;

async function addressOf(allowed: readonly string[], host: string, port: number): Promise<string> {
  try {
    return await new AddressGuard(allowed).addressOf(host, port, 'epp');
  } catch (error) {
    if (error instanceof NetError) throw error;
    throw new NetError('name-not-found', `${host} cannot be resolved`, { cause: error });
  }
}

/** What a PEM file (RFC 7468) has for a connection. @throws NetError when it cannot be read. */
function certificatesIn(path: string): ConnectionOptions {
  let pem: string;
  try {
    pem = readFileSync(path, 'utf8');
  } catch (error) {
    throw new NetError('connection', `the certificate ${path} cannot be read`, { cause: error });
  }
  const certificates = pem.match(/-----BEGIN CERTIFICATE-----[^-]+-----END CERTIFICATE-----/g) ?? [];
  if (certificates.length === 0) throw new NetError('connection', `there is no certificate in ${path}`);
  const own = /-----BEGIN (?:\w+ )?PRIVATE KEY-----/.test(pem) ? { cert: pem, key: pem } : {};
  return { ...own, ca: [...rootCertificates, ...certificates] };
}

function whyNot(error: NodeJS.ErrnoException, server: string, timeoutMs: number): NetError {
  const { code = '', message } = error;
  if (/CERT|SELF_SIGNED|ALTNAME|VERIFY/.test(code))
    return new NetError('connection', `the certificate of ${server} is not trusted: ${message}`, { cause: error });
  if (code === 'ECONNREFUSED') return new NetError('connection', `${server} takes no connection`, { cause: error });
  if (code === 'ETIMEDOUT')
    return new NetError('timeout', `${server} gave no answer within ${timeoutMs / 1000} s`, { cause: error });
  return new NetError('connection', `${server}: ${message}`, { cause: error });
}
