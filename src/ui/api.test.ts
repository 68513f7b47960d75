import { beforeEach, describe, expect, it, vi } from 'vitest';
import { CallError, call } from './api';

const asked = vi.fn<(url: string, init: RequestInit) => Promise<Response>>();
beforeEach(() => {
  asked.mockReset();
  vi.stubGlobal('fetch', asked);
});

const answers = (value: unknown, status = 200) => asked.mockResolvedValueOnce(Response.json(value, { status }));

describe('a call of the interface', () => {
  it('fills in its path, and sends what goes with it', async () => {
    answers({ id: 4 }, 201);
    await call('POST /domains/{name}/diligence', {
      params: { name: 'a b/c.org' },
      body: { item: 'past', state: 'fine', note: '' },
    });
    const [url, init] = asked.mock.calls[0];
    expect(url).toBe('/api/v1/domains/a%20b%2Fc.org/diligence');
    expect(init).toMatchObject({ method: 'POST', headers: { 'content-type': 'application/json' } });
    expect(JSON.parse(String(init.body))).toEqual({ item: 'past', state: 'fine', note: '' });
  });

  it('asks with what is known of a question, and sends files as they are', async () => {
    answers({ timeZone: 'UTC', total: 0, deadlines: [] });
    await call('GET /deadlines', { query: { scope: 'mine', kinds: undefined, hours: 2 } });
    expect(asked.mock.calls[0][0]).toBe('/api/v1/deadlines?scope=mine&hours=2');
    answers({ upload: 'x' }, 201);
    const file = new Blob(['a.org']);
    await call('POST /uploads', { file });
    expect(asked.mock.calls[1][1]).toMatchObject({
      body: file,
      headers: { 'content-type': 'application/octet-stream' },
    });
  });

  it('has nothing to say where nothing is answered', async () => {
    asked.mockResolvedValueOnce(new Response(null, { status: 204 }));
    expect(await call('DELETE /measures/points')).toBeUndefined();
  });

  it('fails with code, fields and words of the problem', async () => {
    const issues = [{ at: 'words', message: 'too few' }];
    answers({ detail: 'It makes no sense.', advice: 'Write a word.', code: 'makes-no-sense', issues }, 400);
    const failure = await call('POST /word-lists', { body: { words: [] } }).catch((error: unknown) => error);
    expect(failure).toBeInstanceOf(CallError);
    expect(failure).toMatchObject({ message: 'It makes no sense. Write a word.', code: 'makes-no-sense', issues });
  });

  it('says that nobody answers, unless it was given up', async () => {
    asked.mockRejectedValueOnce(new TypeError('fetch failed'));
    await expect(call('GET /acts')).rejects.toMatchObject({ code: 'unreachable' });
    const stop = new AbortController();
    stop.abort();
    asked.mockRejectedValueOnce(stop.signal.reason);
    await expect(call('GET /acts', { signal: stop.signal })).rejects.toBe(stop.signal.reason);
  });
});
