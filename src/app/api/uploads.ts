import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createWriteStream, existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { dataFolder } from '../../store/base/config';
import { within } from './bodies';
import { Problem } from './respond';

/** Takes a file into the data folder as it comes. @returns the upload's name. @throws Refusal where it is too large, or the disk full. */
export async function saveUpload(file: Readable | null): Promise<string> {
  if (!file) throw new Problem(400, 'No file', 'The request has no body.', 'Send the file itself as the body.');
  const folder = join(dataFolder(), 'uploads');
  await mkdir(folder, { recursive: true });
  const upload = randomUUID();
  const path = join(folder, upload);
  try {
    await pipeline(file, within(folder), createWriteStream(`${path}.part`));
    await rename(`${path}.part`, path);
  } catch (error) {
    await rm(`${path}.part`, { force: true });
    // the rest of it is read and thrown away
    if (!file.closed) await once(file, 'close').catch(() => undefined);
    throw error;
  }
  return upload;
}

/** Where an upload lies. @throws Problem when there is none. */
export function uploadPath(upload: string): string {
  const path = join(dataFolder(), 'uploads', upload);
  if (!existsSync(path))
    throw new Problem(404, 'Not here', 'The uploaded file is no longer there.', 'Upload it again.');
  return path;
}
