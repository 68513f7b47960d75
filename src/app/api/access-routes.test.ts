import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { NextRequest } from 'next/server';
import { beforeEach, describe, expect, it } from 'vitest';
import { CALLS, type CallPath } from '../../contracts/calls';
import { proxy } from '../../proxy';
import { accessKey, feedKeyOf } from '../../store/base/access-key';
import type { Store } from '../../store/base/database';
import { mailboxPassword } from '../../store/base/mailbox-keys';
import { saveSieve } from '../../store/pool/sieves';
import { domainOfTest } from '../../store/testing';
import { ask, serving } from './testing';

const ADDRESS = 'http://127.0.0.1:4310';
let store: Store;
let key: string;

beforeEach(async () => {
  ({ store } = await serving({ health: () => ({ state: 'starting' }) }));
  key = accessKey(store.folder);
});

const page = (path: string, headers: Record<string, string> = {}) =>
  proxy(new NextRequest(`${ADDRESS}${path}`, { headers: { host: '127.0.0.1:4310', ...headers } }));

describe('without the key', () => {
  it('nothing but the health is answered, whatever is asked', async () => {
    const answered: string[] = [];
    for (const path of Object.keys(CALLS) as CallPath[]) {
      const params = Object.fromEntries([...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => [name, '1']));
      const { status, value } = await ask(path, { params, key: null } as never);
      if (status !== 401) answered.push(path);
      else expect(value, path).toMatchObject({ code: 'no-key', advice: expect.stringContaining('Bearer') });
    }
    expect(answered).toEqual(['GET /health']);
    const { GET } = await import('./[...path]/route');
    const nothing = new NextRequest(`${ADDRESS}/api/v1/nothing`, { headers: { host: '127.0.0.1:4310' } });
    expect((await GET(nothing)).status).toBe(401);
  });

  it('a wrong one is as good as none', async () => {
    for (const wrong of ['', 'x', key.slice(1), `${key}x`, feedKeyOf(key)])
      expect((await ask('GET /briefs', { key: wrong })).status).toBe(401);
    expect((await ask('GET /briefs')).status).toBe(200);
  });

  it('a page is a line that says what to do', async () => {
    const { status, headers } = page('/pool?c=age:10..');
    expect(status).toBe(401);
    expect(headers.get('cache-control')).toBe('no-store');
    expect(await page('/').text()).toContain('Open the address that was printed');
  });
});

describe('the address that is printed', () => {
  it('sets a cookie that no script reads and no other site sends, and loses the key', () => {
    const response = page(`/pool?c=age:10..&key=${key}`);
    expect(response.status).toBe(307);
    expect(response.headers.get('location')).toBe(`${ADDRESS}/pool?c=age%3A10..`);
    const cookie = response.headers.get('set-cookie') ?? '';
    expect(cookie).toMatch(/^jam-ladle-4310=/);
    expect(cookie).toMatch(/HttpOnly/i);
    expect(cookie).toMatch(/SameSite=strict/i);
    const [pair] = cookie.split(';');
    const opened = page('/pool', { cookie: pair });
    expect(opened.status).toBe(200);
    expect(opened.headers.get('content-security-policy')).toContain("default-src 'self'");
    // of another product on this machine it is another cookie
    expect(page('/pool', { cookie: pair.replace('4310', '4311') }).status).toBe(401);
  });

  it('with a wrong key is refused', () => {
    expect(page('/?key=wrong').status).toBe(401);
    expect(page(`/?key=${feedKeyOf(key)}`).status).toBe(401);
  });
});

describe('a token', () => {
  const make = async (scope: string) => (await ask('POST /tokens', { body: { name: `to ${scope}`, scope } })).value;
  const answeredWith = async (token: string) => {
    const answered = new Set<string>();
    for (const path of Object.keys(CALLS) as CallPath[]) {
      const params = Object.fromEntries([...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => [name, '0']));
      const { status, value } = await ask(path, { params, key: token } as never);
      if (status !== 403) answered.add(path);
      else expect(value, path).toMatchObject({ code: 'scope-too-small', advice: expect.stringMatching(/token|key/) });
    }
    return answered;
  };

  it('lets a script read, gather or act, and never more; tokens are for whoever has the key', async () => {
    const [read, gather, act] = await Promise.all(['read', 'gather', 'act'].map(make));
    const by = {
      read: await answeredWith(read.token),
      gather: await answeredWith(gather.token),
      act: await answeredWith(act.token),
    };
    const all = Object.keys(CALLS);
    for (const path of all.filter((one) => one.startsWith('GET ') && one !== 'GET /tokens'))
      expect(by.read.has(path), path).toBe(true);
    expect([...by.read].filter((path) => !path.startsWith('GET ')).sort()).toEqual([
      'POST /decisions',
      'POST /export',
      'POST /pool/columns',
      'POST /pool/line',
      'POST /pool/query',
    ]);
    for (const path of ['POST /sources/crawls', 'POST /shortlist', 'POST /batches', 'POST /actions'])
      expect([by.read.has(path), by.gather.has(path)], path).toEqual([false, true]);
    for (const path of ['POST /orders', 'PATCH /settings', 'POST /resales', 'POST /backups/{name}/restore'])
      expect([by.gather.has(path), by.act.has(path)], path).toEqual([false, true]);
    expect(all.filter((path) => !by.act.has(path)).sort()).toEqual([
      'DELETE /tokens/{id}',
      'GET /tokens',
      'POST /tokens',
    ]);
  });

  it('that gathers adds a mail account, and does not change the password of one', async () => {
    const [gather, act] = await Promise.all(['gather', 'act'].map(make));
    const watch = (password: string, token: string) =>
      ask('POST /watches', {
        body: {
          kind: 'mail',
          target: 'imaps://mara@mail.tarnhives.org/Lists',
          name: 'Lists',
          everyMinutes: 60,
          password,
        },
        key: token,
      });
    const kept = () => mailboxPassword(store, 'imaps://mara@mail.tarnhives.org:993');
    expect((await watch('heather-honey', gather.token)).status).toBe(201);
    expect((await watch('heather-honey', gather.token)).status).toBe(201);
    expect(await watch('of-another', gather.token)).toMatchObject({ status: 403, value: { code: 'scope-too-small' } });
    expect(kept()).toBe('heather-honey');
    expect((await watch('of-mine', act.token)).status).toBe(201);
    expect(kept()).toBe('of-mine');
  });

  it('stands with what the script does', async () => {
    const { token } = await make('act');
    domainOfTest(store, 'tarnhives.org');
    const body = { text: 'looks well' };
    const noted = await ask('POST /domains/{name}/notes', { params: { name: 'tarnhives.org' }, body, key: token });
    expect(noted.value.note).toMatchObject({ text: 'looks well', who: 'script to act' });
    await ask('PATCH /settings', { body: { currency: 'GBP' }, key: token });
    await ask('PATCH /settings', { body: { currency: 'EUR' } });
    const { acts } = (await ask('GET /acts')).value;
    expect(acts.map(({ who }: { who: string }) => who)).toEqual(['you', 'script to act']);
  });

  it('is told once, kept as a hash, and says when it was used', async () => {
    const { token, ...entry } = await make('read');
    expect(token).toMatch(/^jl_[\w-]{43}$/);
    expect(entry).toMatchObject({ name: 'to read', scope: 'read', usedAt: null });
    expect(JSON.stringify(store.raw.prepare('SELECT * FROM settings').all())).not.toContain(token);
    await ask('GET /briefs', { key: token });
    const { value, text } = await ask('GET /tokens');
    expect(value.tokens).toMatchObject([{ id: entry.id, usedAt: expect.any(Number) }]);
    expect(text).not.toContain(token);
  });

  it('holds until it is taken back, and opens no page', async () => {
    const { token, id } = await make('act');
    expect(page('/pool', { authorization: `Bearer ${token}` }).status).toBe(401);
    expect((await ask('GET /briefs', { key: token })).status).toBe(200);
    expect((await ask('DELETE /tokens/{id}', { params: { id } })).value).toMatchObject({ id });
    expect((await ask('GET /briefs', { key: token })).status).toBe(401);
    expect((await ask('DELETE /tokens/{id}', { params: { id } })).status).toBe(404);
    // another one has another number: what was taken back does not come again
    expect((await make('read')).id).toBeGreaterThan(id);
    expect(await ask('POST /tokens', { body: { name: ' ', scope: 'read' } })).toMatchObject({ status: 400 });
  });
});

describe('feeds', () => {
  it('are opened by a key of their own, which opens nothing else', async () => {
    const sieve = saveSieve(store, 'Old', 'c=age:10..');
    const { value } = await ask('GET /feeds/key');
    expect(value.key).toBe(feedKeyOf(key));
    const query = `key=${value.key}`;
    expect((await ask('GET /deadlines/calendar', { key: null, query })).status).toBe(200);
    expect((await ask('GET /sieves/{id}/feed', { params: { id: sieve }, key: null, query })).status).toBe(200);
    expect((await ask('GET /deadlines', { key: null, query })).status).toBe(401);
    expect((await ask('GET /deadlines/calendar', { key: null, query: 'key=wrong' })).status).toBe(401);
  });
});

describe('the demo', () => {
  it('asks for no key: its data are made up', async () => {
    const { store: other } = await serving();
    writeFileSync(join(other.folder, 'config.json'), '{"mode":"demo"}');
    expect((await ask('GET /briefs', { key: null })).status).toBe(200);
    expect((await ask('GET /feeds/key', { key: null })).value).toEqual({ key: null });
    expect(page('/').status).toBe(200);
  });
});
