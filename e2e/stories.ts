import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type APIRequestContext, expect } from '@playwright/test';

/** Names of the world with a tale. */
export const CASINO = 'cradlewickhivecraft.com';
export const CLUB = 'ossenmerebeeclub.org';
export const TONGUES = 'gantrymoorbeediary.net';
export const SHOP = 'dunscarrowhiveshop.com';

export const allDone = (request: APIRequestContext) =>
  expect
    .poll(
      async () => {
        const { jobs } = await (await request.get('/api/v1/jobs')).json();
        return jobs.every(({ state }: { state: string }) => ['done', 'cancelled', 'failed'].includes(state));
      },
      { timeout: 120_000 },
    )
    .toBe(true);

export const send = (request: APIRequestContext, path: string, body: string | Buffer) =>
  request.post(`/api/v1${path}`, { headers: { 'content-type': 'application/octet-stream' }, data: body });

/** Links, names and captures of the tales, where an earlier file has not measured them. @param more names for the pool. */
export async function measureStories(request: APIRequestContext, more: string[] = []): Promise<void> {
  const known = await (await request.get(`/api/v1/domains/${CASINO}`)).json();
  const names = [CASINO, CLUB, TONGUES, SHOP];
  if (known.past == null) {
    const index = readFileSync(join(process.env.E2E_FOLDER ?? '', 'world/link-index.csv.gz'));
    await send(request, '/sources/links?name=Vale+links', index);
    await allDone(request);
  }
  await send(request, '/sources/lists?name=Names+with+a+tale', [...names, ...more].join('\n'));
  await allDone(request);
  if (known.past == null) await request.post('/api/v1/measures', { data: { names } });
  await allDone(request);
}
