import { createHash, randomBytes } from 'node:crypto';
import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { writeOwnFile } from './own-file';
import { peopleOf } from './people';

const Session = z.object({
  /** SHA-256 of what the browser bears: 256 random bits need no slower function. */
  hash: z.string(),
  name: z.string(),
  /** ms since 1970 UTC, of this machine. */
  madeAt: z.number(),
  endsAt: z.number(),
});
type Session = z.infer<typeof Session>;
const Sessions = z.object({ sessions: z.array(Session) });

export const SESSION_DAYS = 30;
const DAY = 86_400_000;
const MOST = 200;

const fileOf = (folder: string) => join(folder, 'sessions.json');
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

interface Read {
  stamp: string;
  sessions: Session[];
}
/** Asked with every request: read again when the file is another. */
const lastRead = new Map<string, Read>();

function readSessions(folder: string): Session[] {
  const path = fileOf(folder);
  const stat = statSync(path, { throwIfNoEntry: false, bigint: true });
  if (!stat) return [];
  const stamp = `${stat.ino} ${stat.mtimeNs} ${stat.size}`;
  const before = lastRead.get(path);
  if (before?.stamp === stamp) return before.sessions;
  const read = Sessions.safeParse(JSON.parse(readFileSync(path, 'utf8')));
  // what is no list of sessions lets nobody in
  const sessions = read.success ? read.data.sessions : [];
  lastRead.set(path, { stamp, sessions });
  return sessions;
}

/** Begins a session of a person. @returns what the browser is to bear. */
export function openSession(folder: string, name: string, now = Date.now()): string {
  const token = randomBytes(32).toString('base64url');
  const open = readSessions(folder).filter(({ endsAt }) => endsAt > now);
  const session = { hash: hashOf(token), name, madeAt: now, endsAt: now + SESSION_DAYS * DAY };
  writeOwnFile(fileOf(folder), { sessions: [...open, session].slice(-MOST) });
  return token;
}

/** Whose session it is; null: nobody's, or it has ended, or the person is gone. */
export function sessionOf(folder: string, token: string, now = Date.now()): string | null {
  const hash = hashOf(token);
  const found = readSessions(folder).find((one) => one.hash === hash && one.endsAt > now);
  return found && peopleOf(folder).includes(found.name) ? found.name : null;
}

export function endSession(folder: string, token: string): void {
  const hash = hashOf(token);
  const before = readSessions(folder);
  const left = before.filter((one) => one.hash !== hash);
  if (left.length < before.length) writeOwnFile(fileOf(folder), { sessions: left });
}

/** Ends all sessions of a person: a password that was changed lets nobody stay. */
export function endSessionsOf(folder: string, name: string): void {
  const before = readSessions(folder);
  if (before.some((one) => one.name === name))
    writeOwnFile(fileOf(folder), { sessions: before.filter((one) => one.name !== name) });
}
