import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { hostname } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { z } from 'zod';

/** Processes of the product, each of which holds a data folder by itself. */
export type FolderProcess = 'product' | 'engine' | 'web server';

const Holder = z.object({
  pid: z.number(),
  /** Machine it runs on: a folder may be shared. */
  host: z.string(),
  /** ms since 1970 UTC. */
  since: z.number(),
});
export type Holder = z.infer<typeof Holder>;

/** Another holds the data folder. */
export class FolderTaken extends Error {
  constructor(
    readonly folder: string,
    process: FolderProcess,
    readonly holder: Holder | null,
  ) {
    const since = holder ? ` since ${new Date(holder.since).toISOString().slice(0, 16).replace('T', ' ')} UTC` : '';
    const who = holder ? ` (process ${holder.pid} of ${holder.host})` : '';
    super(
      `The data folder ${folder} is in use${since} by another ${process}${who}. Stop that one, or set JAM_LADLE_DATA to another folder.`,
    );
  }
}

/** What is held until it is released, or the process ends, however that is. */
export interface FolderLock {
  release(): void;
}

/**
 * Holds a data folder for one process of a kind. The lock is one of SQLite's, on a file of its own: the system lets go of it when the
 * process ends, also by `kill -9`.
 *
 * @param proves whether it is tried from another process that the file system locks at all: a tenth of a second.
 * @throws FolderTaken with who has it and since when; an Error where files of the folder cannot be locked.
 */
export function lockFolder(folder: string, process: FolderProcess, { proves = false } = {}): FolderLock {
  mkdirSync(folder, { recursive: true });
  const path = join(folder, `${process.replace(' ', '-')}.lock`);
  const said = `${path}.json`;
  const lock = new Database(path);
  try {
    // whoever comes second is told at once
    lock.pragma('busy_timeout = 0');
    lock.pragma('journal_mode = MEMORY');
    lock.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    lock.close();
    if ((error as { code?: string }).code?.startsWith('SQLITE_BUSY'))
      throw new FolderTaken(folder, process, holderOf(said));
    throw cannotLock(folder, (error as Error).message);
  }
  if (proves && couldLock(path)) {
    lock.close();
    throw cannotLock(folder, 'another process could lock the same file at the same time');
  }
  const holder: Holder = { pid: globalThis.process.pid, host: hostname(), since: Date.now() };
  writeFileSync(said, JSON.stringify(holder), { mode: 0o600 });
  return {
    release() {
      if (lock.open) lock.close();
    },
  };
}

const cannotLock = (folder: string, why: string) =>
  new Error(
    `Files in ${folder} cannot be locked (${why}), as on some network file systems. Two programs could write there at once: choose a folder on a disk of this machine.`,
  );

/** What the holder wrote down of itself; null: nothing that can be read. */
function holderOf(path: string): Holder | null {
  if (!existsSync(path)) return null;
  try {
    return Holder.parse(JSON.parse(readFileSync(path, 'utf8')));
  } catch {
    return null;
  }
}

/** Whether another process can lock a file that is locked here. */
function couldLock(path: string): boolean {
  const driver = createRequire(import.meta.url).resolve('better-sqlite3');
  const code = `const lock = new (require(${JSON.stringify(driver)}))(process.argv[1]); lock.pragma('busy_timeout = 0');
    try { lock.exec('BEGIN EXCLUSIVE'); process.exit(7); } catch { process.exit(0); }`;
  return spawnSync(globalThis.process.execPath, ['-e', code, path], { timeout: 10_000 }).status === 7;
}
