import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { isIP } from 'node:net';
import { join } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ImapFlow } from 'imapflow';
import { type Mailbox, type MailPart, mailParts } from '../../core/formats/mailbox';
import { plainText } from '../../core/formats/plain-text';
import type { Settings } from '../../core/settings/settings';
import { AddressGuard } from '../../net/address-guard';
import { NetError } from '../../net/errors';

/** Larger attachments are left alone. */
const MOST_BYTES = 1024 ** 3;
const NAMED_FOLDERS = 12;
/** A first look goes back so far: older lists are of names long gone. */
export const FIRST_LOOK_MS = 31 * 86_400_000;

/** Why mails cannot be read. Its message is for people. */
export class MailFault extends Error {
  constructor(
    readonly outcome: 'refused' | 'nonsense' | 'silent',
    message: string,
    options: ErrorOptions = {},
  ) {
    super(message, options);
  }
}

/** A mail as far as it matters here. */
export interface Mail {
  uid: number;
  subject: string;
  from: string;
  /** When it arrived, ms since 1970 UTC. */
  at: number;
  attachments: MailPart[];
  /** The text of the mail in its forms, the one with tables first. */
  bodies: MailPart[];
}

export interface Wanted {
  /** What the sender has to hold; '': anybody. */
  from: string;
  subject: string;
  /** Mails from this one on; 0: all. */
  afterUid: number;
  /** Only mails that arrived since, ms since 1970 UTC, to the day. */
  since: number;
}

/** An open folder of mails, to read alone: nothing of it is changed, and no mail counts as read. */
export class MailSession {
  private constructor(
    private readonly client: ImapFlow,
    /** While it stays, a mail keeps its number (RFC 9051, 2.3.1.1). */
    readonly validity: string,
    readonly mails: number,
    readonly greeting: string,
  ) {}

  /**
   * Logs in and opens the folder. A password never leaves this machine in the clear.
   *
   * @throws MailFault
   */
  static async open(
    mailbox: Mailbox,
    password: string,
    { allowedPrivate }: Pick<Settings, 'allowedPrivate'>,
    timeoutMs: number,
    signal: AbortSignal,
  ): Promise<MailSession> {
    const { host, port, isSecure, login, folder } = mailbox;
    const isHere = ['127.0.0.1', 'localhost', '[::1]'].includes(host);
    const bare = host.replace(/^\[|\]$/g, '');
    const address = await new AddressGuard(allowedPrivate).addressOf(host, port, 'imap').catch((error: Error) => {
      const isPrivate = error instanceof NetError;
      throw new MailFault(isPrivate ? 'refused' : 'silent', isPrivate ? error.message : `${host} cannot be resolved`, {
        cause: error,
      });
    });
    // read when a mail folder is: a start of the engine does not wait for it
    const { ImapFlow } = await import('imapflow');
    const client = new ImapFlow({
      host: address,
      port,
      secure: isSecure,
      ...(isIP(bare) ? {} : { servername: bare }),
      doSTARTTLS: isSecure ? undefined : !isHere,
      auth: { user: login, pass: password },
      disableAutoIdle: true,
      logger: false,
      connectionTimeout: timeoutMs,
      greetingTimeout: timeoutMs,
      socketTimeout: 2 * timeoutMs,
    });
    // what fails is told to whoever asked; without a listener it would end the process
    client.on('error', () => undefined);
    const stop = () => client.close();
    signal.addEventListener('abort', stop, { once: true });
    try {
      await client.connect();
      const opened = await client.mailboxOpen(folder, { readOnly: true }).catch(async (error: Error) => {
        const folders = await client.list().catch(() => []);
        const names = folders.map(({ path }) => path);
        const more = names.length > NAMED_FOLDERS ? ' …' : '';
        const there = names.length > 0 ? ` There are ${names.slice(0, NAMED_FOLDERS).join(', ')}${more}.` : '';
        throw new MailFault('refused', `There is no folder ${folder} at ${host}.${there}`, { cause: error });
      });
      const info = client.serverInfo?.name ?? '';
      return new MailSession(
        client,
        String(opened.uidValidity),
        opened.exists,
        plainText(typeof info === 'string' ? info : '', 80),
      );
    } catch (error) {
      client.close();
      throw faultOf(error, mailbox, signal);
    } finally {
      signal.removeEventListener('abort', stop);
    }
  }

  /** The numbers of the mails that are wanted, the oldest first. @throws MailFault */
  async find({ from, subject, afterUid, since }: Wanted): Promise<number[]> {
    const query = {
      ...(afterUid > 0 ? { uid: `${afterUid + 1}:*` } : { since: new Date(since) }),
      ...(from && { from }),
      ...(subject && { subject }),
    };
    const found = (await this.client.search(query, { uid: true })) || [];
    // a range with a star holds the last mail, whatever its number is (RFC 9051, 6.4.8)
    return found.filter((uid) => uid > afterUid).sort((a, b) => a - b);
  }

  /** One mail; null: it is gone. */
  async mail(uid: number): Promise<Mail | null> {
    const found = await this.client.fetchOne(
      String(uid),
      { uid: true, envelope: true, bodyStructure: true, internalDate: true },
      { uid: true },
    );
    if (!found) return null;
    if (!found.bodyStructure) return null;
    const { envelope, bodyStructure, internalDate } = found;
    const [sender] = envelope?.from ?? [];
    return {
      uid,
      subject: plainText(envelope?.subject ?? '', 120) || 'no subject',
      from: plainText(sender?.address ?? sender?.name ?? '', 120),
      at: internalDate ? new Date(internalDate).getTime() : 0,
      ...mailParts(bodyStructure),
    };
  }

  /**
   * Takes a part into the uploads of a data folder, decoded.
   *
   * @returns its path and SHA-256; null: it is gone, or larger than what is taken.
   */
  async take(uid: number, { part, bytes }: MailPart, folder: string): Promise<{ path: string; hash: string } | null> {
    if (bytes > MOST_BYTES) return null;
    const { content } = await this.client.download(String(uid), part, { uid: true, maxBytes: MOST_BYTES });
    if (!content) return null;
    const uploads = join(folder, 'uploads');
    await mkdir(uploads, { recursive: true });
    const path = join(uploads, randomUUID());
    const hash = createHash('sha256');
    const through = new Transform({
      transform(chunk, _, done) {
        hash.update(chunk);
        done(null, chunk);
      },
    });
    try {
      await pipeline(content, through, createWriteStream(`${path}.part`));
      await rename(`${path}.part`, path);
    } catch (error) {
      await rm(`${path}.part`, { force: true });
      throw error;
    }
    return { path, hash: hash.digest('hex') };
  }

  async close(): Promise<void> {
    await this.client.logout().catch(() => this.client.close());
  }
}

/** What the library says of its errors. */
interface ImapFault {
  code?: string;
  responseText?: string;
  authenticationFailed?: boolean;
}

/** What went wrong, for people. */
export function faultOf(error: unknown, { host, login }: Mailbox, signal: AbortSignal): unknown {
  if (error instanceof MailFault || signal.aborted) return error;
  const { message, code = '', responseText, authenticationFailed = false } = error as Error & ImapFault;
  if (authenticationFailed)
    return new MailFault('refused', `${host} lets ${login} not in: ${plainText(responseText ?? message, 160)}`, { cause: error }); // biome-ignore format: one line
  if (/CERT|SELF_SIGNED|ALTNAME|VERIFY/.test(code))
    return new MailFault('silent', `The certificate of ${host} is not trusted: ${message}`, { cause: error });
  if (/STARTTLS/i.test(message))
    return new MailFault('refused', `${host} offers no TLS, and a password is not sent without: try imaps://`, { cause: error }); // biome-ignore format: one line
  const isNonsense = /^(ParserError|InvalidResponse)/.test(code) || /unexpected|invalid|unknown/i.test(message);
  const words = plainText(message, 160) || code;
  return new MailFault(isNonsense ? 'nonsense' : 'silent', `${host} cannot be read: ${words}`, { cause: error });
}
