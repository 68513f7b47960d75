import { createHash, randomUUID } from 'node:crypto';
import { closeSync, mkdirSync, openSync, renameSync, rmSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import type { Settings } from '../../core/settings/settings';
import { NetError } from '../../net/errors';
import { HttpClient } from '../../net/http';
import type { Store } from '../../store/base/database';
import { JobError } from '../runner/context';

/** What a server said of the copy we have. */
export interface Validators {
  etag: string | null;
  modified: string | null;
}

export interface FetchedFile extends Validators {
  /** Name of the file among the uploads. */
  upload: string;
  path: string;
  bytes: number;
  /** SHA-256, hexadecimal. */
  hash: string;
}

const MAX_BYTES = 8 * 1024 ** 3;
const TIMEOUT_MS = 30 * 60_000;
const MAX_REDIRECTS = 5;

/**
 * Fetches an address into the data folder, unless it is as it was: a conditional request (RFC 9110, 13.1).
 *
 * @returns null when the server says that it has not changed.
 * @throws JobError with a message for people; NetError `stopped` on a stop.
 */
export async function fetchFile(
  store: Store,
  settings: Settings,
  address: string,
  known: Validators,
  signal?: AbortSignal,
): Promise<FetchedFile | null> {
  const folder = join(store.folder, 'uploads');
  mkdirSync(folder, { recursive: true });
  const upload = randomUUID();
  const path = join(folder, upload);
  const http = new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
    timeoutMs: TIMEOUT_MS,
    maxBodyBytes: MAX_BYTES,
  });
  const file = openSync(`${path}.part`, 'w');
  let isKept = false;
  try {
    const hash = createHash('sha256');
    let bytes = 0;
    const take = (chunk: Buffer) => {
      writeSync(file, chunk);
      hash.update(chunk);
      bytes += chunk.length;
    };
    const headers: Record<string, string> = {};
    if (known.etag) headers['if-none-match'] = known.etag;
    if (known.modified) headers['if-modified-since'] = known.modified;
    let url = address;
    for (let hop = 0; ; hop++) {
      const answer = await http.get(url, { accept: '*/*', signal, headers, onChunk: take });
      const { location, etag, 'last-modified': modified } = answer.headers;
      if (answer.status === 304) return null;
      if (answer.status >= 300 && answer.status < 400 && location && hop < MAX_REDIRECTS) {
        url = new URL(location, url).href;
        continue;
      }
      if (answer.status !== 200) throw new JobError(`The address answered ${answer.status}.`);
      if (answer.body.length > 0) take(answer.body); // it came compressed although we asked for it plain
      if (bytes === 0) throw new JobError('The address answered with an empty file.');
      isKept = true;
      return { upload, path, bytes, hash: hash.digest('hex'), etag: etag ?? null, modified: modified ?? null };
    }
  } catch (error) {
    if (error instanceof NetError && error.code !== 'stopped') throw new JobError(`${error.message}.`);
    throw error;
  } finally {
    closeSync(file);
    if (isKept) renameSync(`${path}.part`, path);
    else rmSync(`${path}.part`, { force: true });
    await http.close();
  }
}
