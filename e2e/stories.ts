import { type APIRequestContext, expect } from '@playwright/test';

/** Names of the world with a tale. */
export const CASINO = 'cradlewickhivecraft.com';
export const CLUB = 'ossenmerebeeclub.org';
export const TONGUES = 'gantrymoorbeediary.net';
export const SHOP = 'dunscarrowhiveshop.com';

/** Sites of the world that link to many others: a crawl of some thousand pages begins with them. */
export const SEEDS = [
  'merrowvalepress.org',
  'quillbrooktypefriends.org',
  'tallowendcalendar.org',
  'dunscarrowwalks.org',
  'ossenmereapiaryschool.org',
  'mirrowbystarsweekly.com',
  'harrowmeadarchives.org',
  'merrowvaledarksky.org',
];

export const allDone = (request: APIRequestContext) =>
  expect
    .poll(
      async () => {
        const { jobs } = await (await request.get('/api/v1/jobs')).json();
        return jobs.every(({ state }: { state: string }) => ['done', 'cancelled', 'failed'].includes(state));
      },
      { timeout: 240_000 },
    )
    .toBe(true);

export const send = (request: APIRequestContext, path: string, body: string | Buffer) =>
  request.post(`/api/v1${path}`, { headers: { 'content-type': 'application/octet-stream' }, data: body });
