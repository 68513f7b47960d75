import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Connection } from '../../core/connections/connection';
import { closeServers, httpServer } from '../../net/testing';
import type { Store } from '../../store/base/database';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { askPages } from './pages';

let store: Store;
let asked: string[];
beforeEach(async () => {
  store = await freshStore();
  asked = [];
});
afterEach(closeServers);

async function describeSearch(use: 'shown' | 'mentions', reply: { status?: number; body: object }) {
  const host = await httpServer((request, answer) => {
    asked.push(decodeURIComponent(request.url ?? ''));
    answer.writeHead(reply.status ?? 200, { 'content-type': 'application/json' }).end(JSON.stringify(reply.body));
  });
  const connection = Connection.parse({
    id: 'find',
    title: 'Moleford Find',
    use,
    address: `http://${host}/?q={words}&k={key}`,
    key: 'key-of-find',
    format: 'json',
    entries: '/hits',
    fields: { url: { at: '/u' }, title: { at: '/t' }, total: { in: 'answer', at: '/all' } },
  });
  changeSettings(store, { allowedPrivate: ['127.0.0.0/8'], connections: [connection] });
}
const ask = (item: 'searched' | 'listed' | 'mentioned') =>
  askPages(store, item, 'tarnhives.org', new AbortController().signal);

describe('pages that show or mention a domain', () => {
  it('are asked of the service that is described for it, in the words of a search', async () => {
    await describeSearch('shown', { body: { all: '31', hits: [{ u: 'https://tarnhives.org/', t: 'Tarn' }] } });
    expect(await ask('searched')).toEqual({
      at: expect.any(Number),
      who: 'Moleford Find',
      total: 31,
      pages: [{ url: 'https://tarnhives.org/', title: 'Tarn' }],
    });
    expect(asked[0]).toContain('q=site:tarnhives.org&');
  });

  it('of the domain itself are no mention of it elsewhere, and then the total is none of these', async () => {
    const hits = [
      { u: 'https://tarnhives.org/', t: '' },
      { u: 'https://guide.test/', t: 'Guide' },
    ];
    await describeSearch('mentions', { body: { all: 40, hits } });
    expect(await ask('mentioned')).toMatchObject({ total: null, pages: [{ url: 'https://guide.test/' }] });
  });

  it('say why there is no answer, without the key', async () => {
    await expect(ask('listed')).rejects.toThrow('No service is described');
    await describeSearch('shown', { status: 403, body: { error: 'key-of-find' } });
    const error = await ask('searched').catch((one: Error) => one);
    expect(String(error)).toMatch(/Moleford Find: .*403/);
    expect(String(error)).not.toContain('key-of-find');
  });
});
