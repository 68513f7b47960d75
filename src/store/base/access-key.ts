import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const KEY = /^[\w-]{20,200}$/;

/**
 * The key by which a person's own browser and scripts are told from other programs of the machine. It stands in the data folder's `token`,
 * for its owner alone, and is made where it is missing.
 *
 * @throws when something else stands there.
 */
export function accessKey(folder: string): string {
  const path = join(folder, 'token');
  if (!existsSync(path))
    try {
      writeFileSync(path, `${randomBytes(24).toString('base64url')}\n`, { mode: 0o600, flag: 'wx' });
    } catch (error) {
      // another process of ours was first
      if ((error as { code?: string }).code !== 'EEXIST') throw error;
    }
  const key = readFileSync(path, 'utf8').trim();
  if (!KEY.test(key)) throw new Error(`${path} holds no key. Take it away, and another is made.`);
  return key;
}

/** What opens feeds alone, which programs of calendars and news ask for without a cookie: it does not tell the key. */
export function feedKeyOf(key: string): string {
  return createHmac('sha256', key).update('feeds').digest('base64url').slice(0, 32);
}

/** Compares without telling by its time how much of it was right. */
export function isSameKey(given: string, key: string): boolean {
  const digest = (text: string) => createHmac('sha256', 'compare').update(text).digest();
  return timingSafeEqual(digest(given), digest(key));
}
