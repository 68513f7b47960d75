import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { NextRequest } from 'next/server';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { Refusal } from '../../core/refusal';
import { answered, asFile, notFound, route } from './respond';

// a demo asks for no key
const folder = mkdtempSync(join(tmpdir(), 'routes-'));
writeFileSync(join(folder, 'config.json'), '{"mode":"demo"}');
beforeAll(() => {
  vi.stubEnv('JAM_LADLE_DATA', folder);
});
afterAll(() => {
  vi.unstubAllEnvs();
});

const ORIGIN = 'http://127.0.0.1:4310';
const asked = (path: string, init: ConstructorParameters<typeof NextRequest>[1] = {}) =>
  new NextRequest(`${ORIGIN}${path}`, { ...init, headers: { host: '127.0.0.1:4310', ...init.headers } });
const with_ = (params: Record<string, string> = {}) => ({ params: Promise.resolve(params) });
const posted = (path: string, body: unknown) =>
  asked(path, { method: 'POST', body: JSON.stringify(body), headers: { 'content-type': 'application/json' } });

const act = { key: 'act 1', at: 1, words: 'watched', undoneAt: null, who: 'you', kind: 'act' as const, id: 1 };
const logged = vi.spyOn(console, 'error').mockImplementation(() => undefined);
afterEach(() => logged.mockClear());

describe('a route', () => {
  it('gives what its contract names, with its status', async () => {
    const ok = await route('GET /acts', () => ({ acts: [act] }))(asked('/acts'), with_());
    expect(ok.status).toBe(200);
    expect(await ok.json()).toEqual({ acts: [act] });
    const kept = route('POST /word-lists', ({ body }) => ({ id: 7, count: body.words.length }));
    const created = await kept(posted('/word-lists', { words: ['Wax', ' comb '] }), with_());
    expect(created.status).toBe(201);
    expect(await created.json()).toEqual({ id: 7, count: 2 });
    const other = await route('GET /acts', () => answered(202, { acts: [] }))(asked('/acts'), with_());
    expect(other.status).toBe(202);
  });

  it('has the parts of its path, and what was sent as its schema reads it', async () => {
    const heard: unknown[] = [];
    const raise = route('POST /domains/{name}/notes', ({ params: { name }, body }) => {
      heard.push(name, body);
      return answered(201, { note: { id: 1, at: 2, text: body.text, who: 'you' } });
    });
    await raise(posted('/domains/a.org/notes', { text: '  looks well  ' }), with_({ name: 'a.org' }));
    expect(heard).toEqual(['a.org', { text: 'looks well' }]);
  });

  it('takes a file where a body may be one', async () => {
    const heard: unknown[] = [];
    const lists = route('POST /sources/lists', ({ body }) => {
      heard.push(body);
      throw notFound('more of this test');
    });
    const file = asked('/sources/lists', { method: 'POST', body: 'a.org\n', headers: { 'content-type': 'text/csv' } });
    expect((await lists(file, with_())).status).toBe(404);
    expect(heard).toEqual([null]);
  });

  it('refuses what is not as its schema has it, field by field, and what is no JSON', async () => {
    const never = route('POST /word-lists', () => {
      throw new Error('it was let in');
    });
    const wrong = await never(posted('/word-lists', { words: [7] }), with_());
    expect(wrong.status).toBe(400);
    expect(wrong.headers.get('content-type')).toBe('application/problem+json');
    expect(await wrong.json()).toMatchObject({ code: 'makes-no-sense', issues: [{ at: 'words.0' }] });
    const text = asked('/word-lists', { method: 'POST', body: '{', headers: { 'content-type': 'application/json' } });
    expect(await (await never(text, with_())).json()).toMatchObject({ status: 400, code: 'makes-no-sense' });
  });

  it('breaks loudly where its answer lacks something, and where it has more than its contract names', async () => {
    // as a row of the database would bring it, past the compiler
    const lacks = await route('GET /acts', () => JSON.parse('{"acts": [{"key": "act 1"}]}'))(asked('/acts'), with_());
    expect(lacks.status).toBe(500);
    expect((await lacks.json()).detail).toMatch(/GET \/acts answers what its contract does not allow.*at/s);
    const more = await route('GET /acts', () => ({ acts: [{ ...act, secret: 'k' }] }))(asked('/acts'), with_());
    expect((await more.json()).detail).toBe('GET /acts answers more than its contract names: .acts.0.secret');
    expect(logged).toHaveBeenCalledTimes(2);
  });

  it('tells what it is refused with its code, and answers no other host and no other page', async () => {
    const refuses = route('GET /acts', () => {
      throw new Refusal('conflict', 'it was there before', { advice: 'Take another.' });
    });
    expect(await (await refuses(asked('/acts'), with_())).json()).toMatchObject({
      status: 409,
      code: 'conflict',
      detail: 'it was there before',
      advice: 'Take another.',
    });
    const elsewhere = asked('/acts', { headers: { host: 'sheepfold.org' } });
    expect((await refuses(elsewhere, with_())).status).toBe(421);
    const fromOther = asked('/acts', { headers: { origin: 'http://sheepfold.org' } });
    expect((await refuses(fromOther, with_())).status).toBe(403);
  });

  it('gives a file under its name', async () => {
    const sieve = { kind: 'sieve' as const, version: 1 as const, name: 'Wax', conditions: [] };
    const given = await route('GET /sieves/{id}/file', () => asFile('wäx.sieve.json', sieve))(
      asked('/sieves/1/file'),
      with_({ id: '1' }),
    );
    expect(given.headers.get('content-disposition')).toBe('attachment; filename="w%C3%A4x.sieve.json"');
    expect(await given.json()).toMatchObject({ name: 'Wax' });
  });
});
