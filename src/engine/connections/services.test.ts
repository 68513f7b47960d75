import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Connection } from '../../core/connections/connection';
import { Settings } from '../../core/settings/settings';
import { HttpClient } from '../../net/http';
import { closeServers, httpServer } from '../../net/testing';
import { marksOf, registrarOf, searchOf } from './services';

let http: HttpClient;
let asked: string[];
beforeEach(() => {
  http = new HttpClient({ allowedPrivate: ['127.0.0.0/8'], timeoutMs: 1000 });
  asked = [];
});
afterEach(async () => {
  closeServers();
  await http.close();
});

async function settingsWith(use: 'registrar' | 'search' | 'marks', answer: object, rest: object): Promise<Settings> {
  const host = await httpServer((request, reply) => {
    asked.push(request.url ?? '');
    reply.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(answer));
  });
  const connection = Connection.parse({
    id: 'one',
    title: 'Saltmarch',
    use,
    address: `http://${host}/?d={domain}&q={words}&n={count}&p={page}`,
    key: 'secret-of-salt',
    format: 'json',
    perMinute: 6000,
    ...rest,
  });
  return Settings.parse({ connections: [connection], registrar: 'http://127.0.0.1:9/', searchEngine: 'http://127.0.0.1:9/', markRegister: 'http://127.0.0.1:9/' }); // biome-ignore format: one line
}

describe('a service that is described', () => {
  it('is asked instead of the registrar at an address', async () => {
    const settings = await settingsWith('registrar', { a: 'free' }, { fields: { availability: { at: '/a' } } });
    const registrar = registrarOf(http, settings, { timeoutMs: 500 });
    expect(await registrar?.ask('tarnhives.co.uk')).toMatchObject({ outcome: 'available' });
    expect(asked[0]).toContain('d=tarnhives.co.uk');
    expect(registrar?.server).toMatch(/^http:\/\/127\.0\.0\.1:\d+$/);
    expect(registrarOf(http, { ...settings, connections: [] }, { timeoutMs: 500 })?.server).toBe('http://127.0.0.1:9/');
    expect(registrarOf(http, { ...settings, connections: [], registrar: '' }, { timeoutMs: 500 })).toBeNull();
  });

  it('finds pages, part by part, as many as are wanted', async () => {
    const hits = Array.from({ length: 4 }, (_, n) => ({ u: `https://tarn${n}.org/` }));
    const rest = { entries: '/h', fields: { url: { at: '/u' } }, paging: { by: 'page', from: 1 } };
    const settings = await settingsWith('search', { h: hits }, rest);
    expect(await searchOf(http, settings)?.search('tarn hives', 3)).toHaveLength(3);
    expect(asked).toHaveLength(1);
    expect(asked[0]).toContain('q=tarn%20hives&n=3&p=1');
  });

  it('finds marks, under its own name', async () => {
    const settings = await settingsWith(
      'marks',
      { m: [{ n: 'Tarn' }] },
      { entries: '/m', fields: { mark: { at: '/n' } } },
    );
    expect(await marksOf(http, settings)?.find('tarn')).toMatchObject([{ mark: 'Tarn', register: 'Saltmarch' }]);
  });

  it('that answers with an error says so without its key, as an error that those who ask know', async () => {
    const rest = { entries: '/m', fields: { mark: { at: '/n' } }, errors: [{ at: '/why' }] };
    const settings = await settingsWith('marks', { why: 'secret-of-salt is blocked' }, rest);
    const error = await marksOf(http, settings)
      ?.find('tarn')
      .catch((one: Error) => one);
    expect(error).toMatchObject({ code: 'bad-answer' });
    expect(String(error)).toContain('… is blocked');
  });
});
