import type { TriedMailbox } from '../../contracts/sources';
import { readMailbox } from '../../core/formats/mailbox';
import { Refusal } from '../../core/refusal';
import { plural } from '../../core/wording/format';
import type { Store } from '../../store/base/database';
import { mailboxPassword } from '../../store/base/mailbox-keys';
import { readSettings } from '../../store/base/settings';
import { FIRST_LOOK_MS, faultOf, type Mail, MailFault, MailSession } from './mailbox';

const ANSWER_MS = 12_000;
/** Of so many of the latest mails it is looked what they hold. */
const LOOKED_AT = 10;
const SHOWN = 6;

export interface MailQuestion {
  target: string;
  /** Empty: the one that is kept for the account. */
  password: string;
  from: string;
  subject: string;
}

/**
 * Opens a mail folder and says what is in it. Nothing is taken, and no mail counts as read. Never throws for what the other side does.
 *
 * @throws Refusal when the address makes no sense.
 */
export async function tryMailbox(
  store: Store,
  { target, password, from, subject }: MailQuestion,
  signal: AbortSignal,
  timeoutMs = ANSWER_MS,
): Promise<TriedMailbox> {
  const mailbox = readMailbox(target);
  if (!mailbox) throw new Refusal('makes-no-sense', 'Write it as imaps://login@host/folder; the password has a field of its own.'); // biome-ignore format: one line
  const { host, login, folder } = mailbox;
  const started = performance.now();
  const told = (part: Pick<TriedMailbox, 'outcome' | 'understood' | 'problem' | 'came'>): TriedMailbox => ({
    at: store.now(),
    asked: `Which mails of ${folder} have lists? (${host}, as ${login})`,
    elapsedMs: Math.round(performance.now() - started),
    setBy: '',
    ...part,
  });
  let session: MailSession | null = null;
  try {
    const key = password || mailboxPassword(store, mailbox.account);
    session = await MailSession.open(mailbox, key, readSettings(store), timeoutMs, signal);
    const uids = await session.find({ from, subject, afterUid: 0, since: store.now() - FIRST_LOOK_MS });
    const mails: Mail[] = [];
    for (const uid of uids.slice(-LOOKED_AT)) {
      const mail = await session.mail(uid);
      if (mail) mails.push(mail);
    }
    const came = mails.map(lineOf).reverse().join('\n');
    return told({ outcome: 'works', understood: sentences(session, uids.length, mails), problem: null, came });
  } catch (error) {
    const fault = faultOf(error, mailbox, signal);
    const words = fault instanceof Error ? fault.message : String(fault);
    const outcome = fault instanceof MailFault ? fault.outcome : 'silent';
    const field = /is a private address/.test(words) ? 'allowedPrivate' : /lets .* not in/.test(words) ? 'password' : 'target'; // biome-ignore format: one line
    return told({ outcome, understood: [], problem: { field, words }, came: '' });
  } finally {
    await session?.close();
  }
}

function sentences({ mails: all, greeting }: MailSession, found: number, mails: readonly Mail[]): string[] {
  const server = greeting === '' ? '' : ` The server is ${greeting}.`;
  const files = mails.flatMap(({ attachments }) => attachments.map(({ name, type }) => name || type));
  const shown = files.slice(-SHOWN).join(', ');
  return [
    `${plural(all, 'mail')} in the folder, ${plural(found, 'mail')} of the last 31 days that count.${server}`,
    ...(found === 0 ? [] : [`${mails.length === 1 ? 'It has' : `The latest ${mails.length} have`} ${plural(files.length, 'attachment')} that may be a list${shown && `: ${shown}`}.`]), // biome-ignore format: one line
  ];
}

const lineOf = ({ at, from, subject, attachments }: Mail) =>
  `${new Date(at).toISOString().slice(0, 16).replace('T', ' ')}  ${from}  ${subject}${attachments.map(({ name, type }) => `  [${name || type}]`).join('')}`;
