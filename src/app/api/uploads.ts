import { randomUUID } from 'node:crypto';
import { createWriteStream, existsSync } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ReadableStream as NodeStream } from 'node:stream/web';
import { dataFolder } from '../../store/base/config';
import { Problem } from './respond';

/** Streams a request's body into the data folder. @returns the upload's name. */
export async function saveUpload(body: ReadableStream<Uint8Array> | null): Promise<string> {
  if (!body) throw new Problem(400, 'No file', 'The request has no body.', 'Send the file itself as the body.');
  const folder = join(dataFolder(), 'uploads');
  await mkdir(folder, { recursive: true });
  const upload = randomUUID();
  const path = join(folder, upload);
  try {
    await pipeline(Readable.fromWeb(body as NodeStream), createWriteStream(`${path}.part`));
    await rename(`${path}.part`, path);
  } catch (error) {
    await rm(`${path}.part`, { force: true });
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

/** The file of a multipart form, or the raw body. */
export async function uploadedStream(request: Request): Promise<ReadableStream<Uint8Array> | null> {
  if (!request.headers.get('content-type')?.startsWith('multipart/form-data')) return request.body;
  const form = await request.formData();
  const file = [...form.values()].find((value) => value instanceof File);
  return file instanceof File ? file.stream() : null;
}
