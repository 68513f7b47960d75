import { appendFileSync, mkdirSync, renameSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder } from '../store/base/config';

const ROTATE_BYTES = 2 * 1024 * 1024;

/** Writes down who signed in, out, or tried to, and from where; never with what. */
export function logSignIn(what: 'in' | 'out' | 'wrong' | 'too soon', name: string, place: string): void {
  const logs = join(dataFolder(), 'logs');
  const path = join(logs, 'sign-in.log');
  try {
    mkdirSync(logs, { recursive: true });
    if ((statSync(path, { throwIfNoEntry: false })?.size ?? 0) > ROTATE_BYTES)
      renameSync(path, join(logs, 'sign-in.1.log'));
    const line = { at: new Date().toISOString(), what, name: name.slice(0, 60), from: place.slice(0, 100) };
    appendFileSync(path, `${JSON.stringify(line)}\n`, { mode: 0o600 });
  } catch {
    // a line that finds no space is lost
  }
}
