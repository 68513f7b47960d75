import { rm } from 'node:fs/promises';
import { type MailPart, readMailbox } from '../../core/formats/mailbox';
import { Refusal } from '../../core/refusal';
import { plural } from '../../core/wording/format';
import { write } from '../../store/base/database';
import { mailboxPassword } from '../../store/base/mailbox-keys';
import { noteLook, putWatchedFile, type Watch, type WatchedFile, watchedFiles } from '../../store/sources/watches';
import { FIRST_LOOK_MS, type Mail, MailFault, MailSession } from '../mail/mailbox';
import { type JobContext, JobError, RateMeter, throwIfStopped } from '../runner/context';
import { importWatched } from './watched-file';

const ANSWER_MS = 30_000;
/** So many mails a look; the next goes on. */
const MOST_MAILS = 500;
/** Fewer domains in the text of a mail are no list: a signature has one. */
const LEAST_IN_TEXT = 3;
const NAMED = 5;

/** Reads the mails that arrived since the last look, and orders an import of each list in them. */
export async function lookAtMail(context: JobContext, watch: Watch): Promise<string> {
  const { store, settings, signal } = context;
  const mailbox = readMailbox(watch.target);
  if (!mailbox) throw new JobError(`${watch.target} is no address of a mail folder.`);
  const password = mailboxPassword(store, mailbox.account);
  if (password === '')
    throw new JobError('Its password is not here: remove it and add it anew, or start with the passphrase.');
  let session: MailSession | null = null;
  try {
    session = await MailSession.open(mailbox, password, settings, ANSWER_MS, signal);
    return await readNew(context, watch, session);
  } catch (error) {
    throwIfStopped(signal);
    if (error instanceof MailFault) throw new JobError(error.message, { cause: error });
    throw error;
  } finally {
    await session?.close();
  }
}

async function readNew(context: JobContext, watch: Watch, session: MailSession): Promise<string> {
  const { store, signal } = context;
  const { from, subject } = watch.options;
  // the numbers of mails hold for as long as the folder says that they do
  const [validity, last = '0'] = (watch.etag ?? '').split(' ');
  const afterUid = validity === session.validity ? Number(last) : 0;
  const uids = await session.find({ from, subject, afterUid, since: store.now() - FIRST_LOOK_MS });
  const meter = new RateMeter();
  const said: string[] = [];
  let lists = 0;
  const now = uids.slice(0, MOST_MAILS);
  for (const [n, uid] of now.entries()) {
    throwIfStopped(signal);
    const mail = await session.mail(uid);
    const outcomes = mail ? await readMail(context, watch, session, mail) : [];
    lists += outcomes.filter(({ isList }) => isList).length;
    said.push(...outcomes.map(({ words }) => words));
    // a stop, or an end of the process, goes on with the next mail
    noteLook(store, watch.id, { outcome: watch.outcome ?? '', etag: `${session.validity} ${uid}` });
    context.progress({ done: n + 1, total: now.length, unit: 'mails', rate: meter.rate(n + 1), message: mail?.subject ?? '' }); // biome-ignore format: one line
  }
  const rest = uids.length - now.length;
  const shown = said.slice(0, NAMED).join('; ') + (said.length > NAMED ? `; and ${said.length - NAMED} more` : '');
  const outcome =
    now.length === 0
      ? 'no new mail'
      : `${plural(now.length, 'new mail')}, ${plural(lists, 'list')}${shown && `: ${shown}`}${rest > 0 ? `; ${rest} are left for the next look` : ''}`;
  noteLook(store, watch.id, { outcome });
  return outcome;
}

interface PartOutcome {
  isList: boolean;
  words: string;
}

/** Every attachment may be a list; where there is none, the text may hold one. */
async function readMail(context: JobContext, watch: Watch, session: MailSession, mail: Mail): Promise<PartOutcome[]> {
  const outcomes: PartOutcome[] = [];
  for (const part of mail.attachments) {
    const name = part.name === '' ? mail.subject : part.name;
    const outcome = await readPart(context, watch, session, mail, part, name, 0);
    if (outcome) outcomes.push(outcome);
  }
  if (outcomes.some(({ isList }) => isList)) return outcomes;
  for (const part of mail.bodies) {
    const outcome = await readPart(context, watch, session, mail, part, mail.subject, LEAST_IN_TEXT);
    // a mail that is only words is no fault
    if (outcome?.isList) return [...outcomes, outcome];
  }
  return outcomes;
}

/** @returns null: it was taken before, or is gone. */
async function readPart(
  context: JobContext,
  watch: Watch,
  session: MailSession,
  { uid, at }: Mail,
  part: MailPart,
  name: string,
  leastDomains: number,
): Promise<PartOutcome | null> {
  const { store } = context;
  const known = watchedFiles(store, watch.id);
  const key = `${session.validity}/${uid}/${part.part}`;
  if (known.has(key)) return null;
  const taken = await session.take(uid, part, store.folder);
  if (!taken) return { isList: false, words: `${name} is gone, or too large` };
  const { path, hash } = taken;
  const file: WatchedFile = { name: key, bytes: part.bytes, modifiedAt: at, hash };
  if ([...known.values()].some((one) => one.hash === hash)) {
    await rm(path, { force: true });
    write(store, () => putWatchedFile(store, watch.id, file, null));
    return { isList: false, words: `${name} holds what was taken before` };
  }
  try {
    return { isList: true, words: await importWatched(context, watch, path, name, hash, file, leastDomains) };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    await rm(path, { force: true });
    write(store, () => putWatchedFile(store, watch.id, file, null));
    return { isList: false, words: `${name}: ${error.message}` };
  }
}
