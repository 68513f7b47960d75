import { cpSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { copyOpen } from '../../store/base/copies';
import { type JobContext, letOthersGo, throwIfStopped } from '../runner/context';

/** Folders and files of the data folder that belong to it besides the database; logs, the snapshot and older copies do not. */
const PARTS = [
  'config.json',
  'clock.json',
  'world.json',
  'world-orders.jsonl',
  'world-sales.jsonl',
  'uploads',
  'outbox',
  'world',
];
export const BACKUPS = 'backups';
/** How names of copies end that were made by themselves: only those are taken away again. */
export const DAILY = '-daily';

const BackupParams = z.object({ isDaily: z.boolean().default(false) });

/**
 * Copies the data folder while the product runs: the database as of one moment (VACUUM INTO), and the files beside it. A copy is a data
 * folder itself: started with it, the product goes on from there. One that was not finished, or is not whole, is not there. Keys of accounts
 * are not copied.
 */
export async function runBackup(context: JobContext): Promise<void> {
  const { store, signal } = context;
  const { isDaily } = BackupParams.parse(context.job.params);
  const folder = join(store.folder, BACKUPS);
  mkdirSync(folder, { recursive: true });
  for (const left of readdirSync(folder).filter((name) => name.endsWith('.partial')))
    rmSync(join(folder, left), { recursive: true, force: true });
  const name = `${new Date(Date.now()).toISOString().slice(0, 19).replace(/[:T]/g, '-')}${isDaily ? DAILY : ''}`;
  const partial = join(folder, `${name}.partial`);
  mkdirSync(partial);
  const say = (done: number, message: string) =>
    context.progress({ done, total: PARTS.length + 1, unit: 'parts', rate: 0, message });
  try {
    say(0, 'copying the database');
    copyOpen(store, join(partial, 'jam-ladle.sqlite'));
    for (const [n, part] of PARTS.entries()) {
      throwIfStopped(signal);
      say(n + 1, `copying ${part}`);
      const from = join(store.folder, part);
      if (existsSync(from)) cpSync(from, join(partial, part), { recursive: true });
      await letOthersGo(store);
    }
    renameSync(partial, join(folder, name));
  } catch (error) {
    rmSync(partial, { recursive: true, force: true });
    throw error;
  }
  if (isDaily) forgetOldest(folder, context.settings.copiesKept);
  say(PARTS.length + 1, `kept in ${BACKUPS}/${name}, ${Math.ceil(bytesOf(join(folder, name)) / 1e6)} MB`);
}

/** Takes away the oldest of the copies that were made by themselves, as far as there are more than are wanted. */
function forgetOldest(folder: string, kept: number): void {
  const daily = readdirSync(folder).filter((name) => name.endsWith(DAILY));
  for (const name of daily.sort().slice(0, Math.max(0, daily.length - kept)))
    rmSync(join(folder, name), { recursive: true, force: true });
}

function bytesOf(path: string): number {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.size;
  return readdirSync(path).reduce((sum, name) => sum + bytesOf(join(path, name)), 0);
}
