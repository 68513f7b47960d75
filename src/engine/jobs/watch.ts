import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { Refusal } from '../../core/refusal';
import { write } from '../../store/base/database';
import {
  noteLook,
  putWatchedFile,
  readWatch,
  type Watch,
  type WatchedFile,
  watchedFiles,
} from '../../store/sources/watches';
import { fetchFile } from '../files/fetch-file';
import { type JobContext, JobError, throwIfStopped } from '../runner/context';
import { lookAtMail } from './watch-mail';
import { importWatched } from './watched-file';

export const WatchParams = z.object({ watchId: z.number() });

/** A file that was written to so lately may not be whole yet. */
const SETTLE_MS = 2000;

/** Looks at a watched folder, address or mail folder, and orders an import of what is new. */
export async function runWatch(context: JobContext): Promise<void> {
  const { store, job } = context;
  const { watchId } = WatchParams.parse(job.params);
  const watch = readWatch(store, watchId);
  if (!watch) throw new JobError('There is no such watch any more.');
  try {
    const outcome = await LOOK[watch.kind](context, watch);
    context.progress({ done: 1, total: 1, unit: 'looks', rate: 0, message: outcome });
  } catch (error) {
    if (error instanceof Refusal) noteLook(store, watchId, { outcome: error.message });
    throw error;
  }
}

const LOOK = { folder: lookAtFolder, address: lookAtAddress, venue: lookAtAddress, mail: lookAtMail };

async function lookAtAddress(context: JobContext, watch: Watch): Promise<string> {
  const { store, settings, signal } = context;
  const file = await fetchFile(store, settings, watch.target, watch, signal);
  if (!file || file.hash === watch.hash) {
    if (file) await rm(file.path, { force: true });
    const outcome = 'nothing has changed';
    noteLook(store, watch.id, { outcome, ...(file && { etag: file.etag, modified: file.modified }) });
    return outcome;
  }
  const outcome = await importWatched(context, watch, file.path, watch.name, file.hash);
  const { etag, modified, hash } = file;
  noteLook(store, watch.id, { outcome, etag, modified, hash });
  return outcome;
}

async function lookAtFolder(context: JobContext, watch: Watch): Promise<string> {
  const { store, signal } = context;
  const known = watchedFiles(store, watch.id);
  const hashes = new Set([...known.values()].map(({ hash }) => hash));
  let entries: string[];
  try {
    const found = await readdir(watch.target, { withFileTypes: true });
    entries = found.filter((entry) => entry.isFile() && !entry.name.startsWith('.')).map(({ name }) => name);
  } catch (error) {
    throw new JobError(`The folder cannot be read: ${(error as Error).message}`);
  }
  const outcomes: string[] = [];
  for (const name of entries.sort()) {
    throwIfStopped(signal);
    const path = join(watch.target, name);
    const { size: bytes, mtimeMs: modifiedAt } = await stat(path);
    const before = known.get(name);
    if (before && before.bytes === bytes && before.modifiedAt === modifiedAt) continue;
    if (Date.now() - modifiedAt < SETTLE_MS || bytes === 0) continue;
    const copy = await copyIn(store.folder, path);
    const file: WatchedFile = { name, bytes, modifiedAt, hash: copy.hash };
    if (hashes.has(copy.hash)) {
      await rm(copy.path, { force: true });
      write(store, () => putWatchedFile(store, watch.id, file, null));
      outcomes.push(`${name} holds what was taken before`);
      continue;
    }
    hashes.add(copy.hash);
    try {
      outcomes.push(await importWatched(context, watch, copy.path, name, copy.hash, file));
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      // one file that is no list keeps none of the others out, and is not looked at again until it changes
      write(store, () => putWatchedFile(store, watch.id, file, null));
      outcomes.push(`${name}: ${error.message}`);
    }
  }
  const outcome = outcomes.length === 0 ? 'no new file' : outcomes.join('; ');
  noteLook(store, watch.id, { outcome });
  return outcome;
}

/** Copies a file into the data folder, so that what is read does not change meanwhile. */
async function copyIn(folder: string, from: string): Promise<{ path: string; hash: string }> {
  const uploads = join(folder, 'uploads');
  await mkdir(uploads, { recursive: true });
  const path = join(uploads, randomUUID());
  const hash = createHash('sha256');
  const source = createReadStream(from);
  source.on('data', (chunk) => hash.update(chunk));
  await pipeline(source, createWriteStream(`${path}.part`));
  await rename(`${path}.part`, path);
  return { path, hash: hash.digest('hex') };
}
