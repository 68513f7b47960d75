import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { CALLS } from '../src/contracts/calls';
import { ProblemSchema } from '../src/contracts/system';
import { REFUSALS } from '../src/core/refusal';
import { sheetsOf } from '../src/services/files/sheets';
import { test } from './test';

test.describe.configure({ mode: 'serial' });

/** The HTTP interface, as a script uses it. */
test('describes every route there is, and no other', async ({ request }) => {
  const routes: string[] = [];
  const visit = (folder: string, path: string) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }))
      if (entry.isDirectory()) visit(join(folder, entry.name), `${path}/${entry.name.replace(/^\[(.+)\]$/, '{$1}')}`);
      else if (entry.name === 'route.ts') routes.push(path);
  };
  visit('src/app/api/v1', '');
  const description = await (await request.get('/api/v1/openapi.json')).json();
  expect(description.openapi).toBe('3.1.0');
  expect(Object.keys(description.paths).sort()).toEqual(routes.sort());
  expect(Object.values(description.paths).flatMap((path) => Object.keys(path as object)).length).toBe(
    Object.keys(CALLS).length,
  );
});

test('says in words that all is well', async ({ request }) => {
  const health = await request.get('/api/v1/health');
  expect(health.status()).toBe(200);
  expect(await health.json()).toMatchObject({
    healthy: true,
    mode: 'demo',
    engine: { state: 'ready' },
    standins: { state: 'ready' },
  });
});

test('answers mistakes with problem details', async ({ request }) => {
  const bad: [path: string, body: unknown, status: number, detail: RegExp][] = [
    ['/pool/query', { parts: [{ type: 'range', fact: 'taste', min: 1, max: 2 }] }, 400, /fact|parts/],
    ['/pool/query', { conditions: [] }, 400, /conditions/],
    ['/actions', { act: { kind: 'judge', judged: 'liked' }, which: { ids: [1] } }, 400, /judged/],
    ['/actions', { act: { kind: 'shortlist', brief: 999 }, which: { ids: [1] } }, 404, /no brief/],
    ['/actions/999/undo', {}, 404, /nothing to undo/],
    ['/sieves/999/run', {}, 404, /no sieve/],
    ['/sieves/file', { kind: 'recipe' }, 400, /kind/],
    ['/word-lists', { words: [] }, 400, /words/],
    ['/pool/query', { limit: 5000 }, 400, /limit/],
    ['/sources/crawls', { seeds: [] }, 400, /at least one seed/],
    ['/sources/crawls', { seeds: ['a.org'], depth: 21 }, 400, /depth/],
    ['/sources/crawls', { seeds: ['a.org'], pathsOut: ['(a'] }, 400, /cannot be read/],
    ['/sources/crawls', { seeds: ['a.org'], leastFinds: -1 }, 400, /leastFinds/],
    ['/sources/crawls', { seeds: [{ address: 'a.org', depth: 27 }] }, 400, /seeds/],
    ['/sources/crawls/trials', { seeds: ['not an address'] }, 400, /no web address/],
    ['/sources/searches', { phrases: [] }, 400, /at least one phrase/],
    ['/sources/searches', { phrases: ['a'], engine: 'file:///etc/passwd' }, 400, /engine/],
    ['/sources/referrers', { upload: '../../etc/passwd', name: 'x', columns: ['domain'], to: 'pool' }, 400, /upload/],
    ['/pages/check', { url: '' }, 400, /name a page/],
    ['/pages/check', { url: 'no such thing' }, 400, /is no web address/],
    ['/sources/feeds', { url: 'file:///etc/passwd' }, 400, /url/i],
    ['/checks', {}, 400, /name a source, ids or names/],
    ['/checks', { names: ['nobody-knows-this.org'] }, 404, /no domain/],
    ['/shortlist', { briefId: 999, names: ['a.org'] }, 404, /no brief/],
    ['/sieves', { name: 'x', view: 'c=taste:1..2' }, 400, /no fact/],
    ['/briefs', { name: 'x', purpose: 'rebuild', trustedSites: ['not a site'] }, 400, /no registrable domain/],
    ['/jobs/999/pause', {}, 409, /no such job/],
    ['/jobs/1/explode', {}, 404, /no action/],
  ];
  for (const [path, data, status, detail] of bad) {
    const answer = await request.post(`/api/v1${path}`, { data });
    expect([path, answer.status()]).toEqual([path, status]);
    expect(answer.headers()['content-type']).toContain('application/problem+json');
    const told = ProblemSchema.parse(await answer.json());
    expect(told.detail).toMatch(detail);
    expect(REFUSALS[told.code].status).toBe(status);
  }
  const broken = await request.post('/api/v1/pool/query', {
    data: '{',
    headers: { 'content-type': 'application/json' },
  });
  expect(broken.status()).toBe(400);
  expect((await request.patch('/api/v1/sources/999999/crawl', { data: { depth: 2 } })).status()).toBe(404);
  expect((await request.get('/api/v1/jobs/999999/rows')).status()).toBe(404);
  const setting = await request.patch('/api/v1/settings', { data: { allowedPrivate: ['everything'] } });
  expect(setting.status()).toBe(400);
});

test('refuses other hosts and other origins', async ({ request }) => {
  const other = await request.get('/api/v1/jobs', { headers: { origin: 'http://elsewhere.example' } });
  expect(other.status()).toBe(403);
  const page = await request.get('/pool');
  expect(page.headers()['content-security-policy']).toContain(`script-src 'self' 'nonce-`);
});

test('imports a list from its body, and hands back the rows it rejected', async ({ request }) => {
  const body = 'domain;price\nscripted-one.org;12\nnonsense;1\nscripted-two.co.uk;13\n';
  const answer = await request.post('/api/v1/sources/lists?name=by+script&exclude=uk', {
    headers: { 'content-type': 'text/csv' },
    data: body,
  });
  expect(answer.status()).toBe(202);
  const { source, job } = await answer.json();
  await expect.poll(async () => (await (await request.get(`/api/v1/jobs/${job.id}`)).json()).state).toBe('done');
  const counts = await (await request.get(`/api/v1/sources/${source.id}`)).json();
  expect(counts).toMatchObject({ rows_read: 3, rows_taken: 1, rows_excluded: 1, rows_set_aside: 1 });
  expect(await (await request.get(`/api/v1/sources/${source.id}/rejects`)).text()).toBe(
    'line,reason,sample\r\n3,"""nonsense"" is no registrable domain",nonsense · 1\r\n',
  );
  const found = await request.post('/api/v1/pool/query', {
    data: { parts: [{ type: 'member', fact: 'source', values: [source.id] }] },
  });
  expect(await found.json()).toMatchObject({ total: 1, rows: [{ name: 'scripted-one.org', priceMinor: 1200 }] });
  const dossier = await (await request.get('/api/v1/domains/scripted-one.org')).json();
  expect(dossier.sightings).toMatchObject([{ sourceName: 'by script', line: 2 }]);
});

test('refuses a file without domains before it makes a source of it', async ({ request }) => {
  const count = async () => (await (await request.get('/api/v1/sources')).json()).sources.length;
  const before = await count();
  const answer = await request.post('/api/v1/sources/lists?name=none', {
    headers: { 'content-type': 'text/plain' },
    data: 'one\ntwo\n',
  });
  expect(answer.status()).toBe(400);
  expect((await answer.json()).detail).toContain('No column looks like it holds domains');
  expect(await count()).toBe(before);
});

test('what is answered is kept by nobody and is no page, also where there is nothing; what is too large is said to be so', async ({
  request,
}) => {
  for (const path of [
    '/api/v1/settings',
    '/api/v1/nothing',
    '/api/v1/export?format=csv&c=name:contains%3Dhive',
    '/api/v1/openapi.json',
  ]) {
    const headers = (await request.get(path)).headers();
    expect(headers['x-content-type-options'], path).toBe('nosniff');
    expect(headers['cache-control'], path).toBe('no-store, no-transform');
    expect(headers['content-security-policy'], path).toContain("default-src 'none'");
  }
  const large = await request.post('/api/v1/sales?name=much', { data: Buffer.alloc(21 * 2 ** 20, 'a') });
  expect(large.status()).toBe(413);
  expect((await large.json()).detail).toBe('A list of sales may have 20 MB.');
  expect((await request.get('/api/v1/health')).status()).toBe(200);
  const bytes = await request.post('/api/v1/briefs', {
    headers: { 'content-type': 'application/json' },
    data: Buffer.from('{"name":"B\xfccher"}', 'latin1'),
  });
  expect(bytes.status()).toBe(400);
});

test('takes a multipart form as well', async ({ request }) => {
  const answer = await request.post('/api/v1/sources/lists/preview', {
    multipart: {
      file: { name: 'drops.txt', mimeType: 'text/plain', buffer: Buffer.from('formed-one.org\nformed-two.org\n') },
    },
  });
  expect(await answer.json()).toMatchObject({
    columns: ['domain'],
    hasHeader: false,
    rows: [['formed-one.org'], ['formed-two.org']],
  });
});

test('exports as tab-separated values, JSON Lines and workbooks', async ({ request }) => {
  const query = 'c=name:contains%3Dscripted';
  const tsv = await (await request.get(`/api/v1/export?format=tsv&${query}`)).text();
  expect(tsv.split('\n')[1]).toMatch(/^scripted-one\.org\tunknown/);
  const lines = (await (await request.get(`/api/v1/export?format=jsonl&${query}`)).text()).trim().split('\n');
  expect(JSON.parse(lines[0])).toMatchObject({ domain: 'scripted-one.org', price: '12.00' });
  for (const format of ['xlsx', 'ods'] as const) {
    const book = await request.get(`/api/v1/export?format=${format}&shown=1&columns=1|domain,age,ask&${query}`);
    expect(book.headers()['content-disposition']).toBe(`attachment; filename="pool.${format}"`);
    const { sheets } = await sheetsOf(await book.body());
    expect(sheets[0].rows[0]).toEqual([
      'domain',
      'registered',
      'venue',
      'price',
      'currency',
      'price_home',
      'home_currency',
      'listing_url',
    ]);
    expect(sheets[0].rows[1]).toEqual(['scripted-one.org', '', '', '12', '', '12', 'EUR']);
  }
  expect((await request.get('/api/v1/export?format=pdf')).status()).toBe(400);
});
