import { isIP } from 'node:net';
import { createTransport, type SendMailOptions } from 'nodemailer';
import type { Settings } from '../../core/settings/settings';
import { AddressGuard } from '../../net/address-guard';

const ANSWER_MS = 10_000;

/**
 * Hands a mail to the mail server of the settings (RFC 5321, RFC 6409).
 *
 * @param timeoutMs how long the server may take to be there and to greet.
 * @returns what the server said when it took it.
 * @throws when it did not; `code` is that of the mail library, or of the socket.
 */
export async function sendMail(settings: Settings, mail: SendMailOptions, timeoutMs = ANSWER_MS): Promise<string> {
  const { hostname, port: given, protocol, username } = new URL(settings.smtpUrl);
  const port = Number(given) || (protocol === 'smtps:' ? 465 : 587);
  const isHere = ['127.0.0.1', 'localhost', '[::1]'].includes(hostname);
  const transport = createTransport({
    host: await new AddressGuard(settings.allowedPrivate).addressOf(hostname, port, 'smtp'),
    port,
    secure: protocol === 'smtps:',
    tls: isIP(hostname) ? {} : { servername: hostname },
    ignoreTLS: isHere,
    // a password never leaves this machine in the clear
    requireTLS: username !== '' && !isHere,
    auth: username ? { user: decodeURIComponent(username), pass: settings.smtpPassword } : undefined,
    connectionTimeout: timeoutMs,
    greetingTimeout: timeoutMs,
    socketTimeout: 2 * timeoutMs,
  });
  try {
    return (await transport.sendMail(mail)).response;
  } finally {
    transport.close();
  }
}
