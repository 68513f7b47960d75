import { readFile } from 'node:fs/promises';
import type { VenueLook } from '../../contracts/sources';
import type { Settings } from '../../core/settings/settings';
import type { Store } from '../../store/base/database';
import { Feed } from '../jobs/venue';
import { lookAtList } from '../lists/preview';
import { JobError } from '../runner/context';
import { fetchFile } from './fetch-file';

const PREVIEW_MS = 30_000;

/** Fetches what a venue hands out and recognises it. @throws JobError with a message for people. */
export async function lookAtVenue(store: Store, settings: Settings, url: string): Promise<VenueLook> {
  const signal = AbortSignal.timeout(PREVIEW_MS);
  const file = await fetchFile(store, settings, url, { etag: null, modified: null }, signal).catch((error: Error) => {
    if (signal.aborted) throw new JobError(`The address did not answer within ${PREVIEW_MS / 1000} s.`);
    throw error;
  });
  if (!file) throw new JobError('The address answered with nothing.');
  const head = (await readFile(file.path)).subarray(0, 1).toString();
  if (head === '{') {
    try {
      const feed = Feed.safeParse(JSON.parse(await readFile(file.path, 'utf8')));
      if (feed.success) {
        const { venue, currency, listings } = feed.data;
        return { kind: 'feed', venue, currency, listings: listings.length };
      }
    } catch {
      // JSON Lines begin the same way
    }
  }
  return { kind: 'table', upload: file.upload, look: await lookAtList(store, file.path, {}) };
}
