import { chmodSync, existsSync, lstatSync, mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';

const OTHERS = 0o077;

/**
 * Makes what is in a data folder readable by its owner alone: keys stand there, and what one bids. A folder that was there before, is not
 * empty and holds no database of the product is somebody's: it stays as it is.
 *
 * @returns how many files and folders others could look into before.
 */
export function keepPrivate(folder: string): number {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const isOurs = existsSync(join(folder, 'jam-ladle.sqlite')) || readdirSync(folder).length === 0;
  return isOurs ? closed(folder) : 0;
}

function closed(path: string): number {
  const found = lstatSync(path);
  // where a link leads is not ours to close
  if (!found.isDirectory() && !found.isFile()) return 0;
  const isOpen = (found.mode & OTHERS) !== 0;
  if (isOpen) chmodSync(path, found.mode & 0o700);
  const inside = found.isDirectory() ? readdirSync(path).reduce((sum, name) => sum + closed(join(path, name)), 0) : 0;
  return inside + (isOpen ? 1 : 0);
}
