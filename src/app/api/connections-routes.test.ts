import { beforeEach, describe, expect, it } from 'vitest';
import type { Sent } from '../../contracts/calls';
import { Description } from '../../core/connections/connection';
import { describedBy } from '../../core/connections/tried';
import type { Store } from '../../store/base/database';
import { readKeys } from '../../store/base/key-file';
import { readSettings } from '../../store/base/settings';
import { domainOfTest } from '../../store/testing';
import { ask, called, engineAnswers, jobOfTest, serving } from './testing';

let store: Store;
beforeEach(async () => {
  ({ store } = await serving({ addJob: () => jobOfTest(), settingsChanged: () => ({}) }));
});

const GIVEN = {
  title: 'Withy Links',
  use: 'figures',
  address: 'https://api.withy.test/{domain}',
  headers: [{ name: 'X-Key', value: '{key}' }],
  key: 'key-of-withy',
  format: 'json',
  fields: { backlinks: { at: '/links' } },
} satisfies Sent<'POST /connections'>;

const make = async (change: object = {}) => (await ask('POST /connections', { body: { ...GIVEN, ...change } })).value.connection; // biome-ignore format: one line
const put = (id: string, change: object) =>
  ask('PUT /connections/{id}', { params: { id }, body: { ...GIVEN, key: '', ...change } });
const keyOf = (id: string) => readSettings(store).connections.find((one) => one.id === id)?.key;

describe('connections', () => {
  it('are made, changed and taken away, and each change can be undone', async () => {
    const { id } = await make();
    expect(id).toBe('withy-links');
    // another of the same name is another one
    expect((await make()).id).toBe('withy-links-2');
    expect((await put(id, { title: 'Withy' })).value).toMatchObject({
      connection: { description: { title: 'Withy' } },
    });
    const { value } = await ask('DELETE /connections/{id}', { params: { id } });
    expect((await ask('GET /connections')).value.connections).toHaveLength(1);
    expect((await ask('POST /acts/{id}/undo', { params: { id: value.act as number } })).status).toBe(200);
    expect((await ask('GET /connections')).value.connections).toHaveLength(2);
    const params = { id: 'nobody' };
    expect(await put('nobody', {})).toMatchObject({ status: 404 });
    for (const path of ['DELETE /connections/{id}', 'GET /connections/{id}/file'] as const)
      expect(await ask(path, { params } as never)).toMatchObject({ status: 404 });
  });

  it('keep a key that is left empty for as long as they ask the same server, and forget it with them', async () => {
    const { id } = await make();
    await put(id, { address: 'https://api.withy.test/v2/{domain}' });
    expect(keyOf(id)).toBe('key-of-withy');
    expect(readKeys(store.folder)?.connections[id]).toEqual({
      origin: 'https://api.withy.test',
      key: 'key-of-withy',
      password: '',
    });
    await put(id, { address: 'https://elsewhere.test/{domain}' });
    expect(keyOf(id)).toBe('');
    await put(id, { key: 'another' });
    expect(keyOf(id)).toBe('another');
    await ask('DELETE /connections/{id}', { params: { id } });
    expect(readKeys(store.folder)?.connections).toEqual({});
  });

  it('are handed on without keys, and taken in as they were handed on', async () => {
    const { id } = await make();
    const file = await ask('GET /connections/{id}/file', { params: { id } });
    expect(file.headers.get('content-disposition')).toContain('withy-links.connection.json');
    expect(file.text).not.toContain('key-of-withy');
    const taken = await ask('POST /connections', { body: JSON.parse(file.text) });
    expect(taken).toMatchObject({ status: 201, value: { connection: { hasKey: false, words: /wants a key/ } } });
    expect(taken.value.connection.description).toEqual(
      (await ask('GET /connections')).value.connections[0].description,
    );
  });

  it('that make no sense say which field it is', async () => {
    const { status, value } = await ask('POST /connections', { body: { ...GIVEN, address: 'https://a.test/' } });
    expect(status).toBe(400);
    expect(JSON.stringify(value)).toContain('put {domain} into it');
  });

  it('are tried with the key that is kept, and how they answered is kept for as long as they stay as they are', async () => {
    const { id } = await make();
    const tried = { at: 7, outcome: 'works', asked: 'q', came: '', elapsedMs: 3, understood: ['fine'], problem: null };
    engineAnswers({
      tryConnection: (connection: object) => ({
        tried: { ...tried, setBy: describedBy(Description.parse(connection)) },
        laidOut: null,
      }),
    });
    const stateOf = async () => (await ask('GET /connections')).value.connections[0];
    const question = 'tarnhives.org';
    const body = { id, connection: { ...GIVEN, key: '' }, question };
    expect((await ask('POST /connections/try', { body })).status).toBe(200);
    expect(called('tryConnection')[0]).toEqual([expect.objectContaining({ id, key: 'key-of-withy' }), question]);
    expect(await stateOf()).toMatchObject({ state: 'works', words: 'fine', at: 7 });
    // what is tried and not kept says nothing of what is kept
    await ask('POST /connections/try', { body: { ...body, connection: { ...GIVEN, perMinute: 5 } } });
    expect(await stateOf()).toMatchObject({ state: 'works' });
    await put(id, { perMinute: 5 });
    expect(await stateOf()).toMatchObject({ state: 'untried' });
    await put(id, { isOn: false });
    expect(await stateOf()).toMatchObject({ state: 'off' });
  });
});

/** A connection as a try says what it was described by. */
describe('what connections are for', () => {
  it('figures are asked for, under one source for each service', async () => {
    const named = domainOfTest(store, 'tarnhives.org');
    engineAnswers({ idsOf: () => ({ ids: [named.id] }), addJob: () => jobOfTest() });
    const act = () => ask('POST /actions', { body: { act: { kind: 'figures' }, which: { names: ['tarnhives.org'] } } });
    expect(await act()).toMatchObject({ status: 400, value: { detail: /No service is described/ } });
    const { id } = await make();
    expect(await act()).toMatchObject({ status: 202, value: { changed: 1 } });
    await act();
    const jobs = called('addJob').map(([one]) => one as { kind: string; sourceId: number; params: object });
    expect(jobs).toHaveLength(2);
    expect(jobs[0]).toMatchObject({ kind: 'figures', params: { connection: id, ids: [named.id] } });
    expect(jobs[1].sourceId).toBe(jobs[0].sourceId);
  });

  it('a venue is read by the service that is described, again and again', async () => {
    const { id } = await make({ use: 'listings', title: 'Umberley Lots', address: 'https://lots.test/all' });
    const { value, status } = await ask('POST /sources/feeds', { body: { connection: id, everyMinutes: 60 } });
    expect(status).toBe(202);
    expect(value.source).toMatchObject({ kind: 'venue', name: 'Umberley Lots' });
    expect(called('addJob').at(-1)).toMatchObject([{ kind: 'venue', params: { url: null, connection: id } }]);
    const of = { params: { id: value.source.id } };
    expect((await ask('POST /sources/{id}/refresh', of)).status).toBe(202);
    expect(called('addJob').at(-1)).toMatchObject([{ kind: 'venue', params: { url: null, connection: id } }]);
    const other = await make();
    expect(await ask('POST /sources/feeds', { body: { connection: other.id } })).toMatchObject({ status: 400 });
    expect(await ask('POST /sources/feeds', { body: {} })).toMatchObject({ status: 400 });
  });
});
