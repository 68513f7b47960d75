import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { EngineClient, EngineError } from '../client/engine';
import { freshStore } from '../store/base/testing';
import { JobRunner } from './runner/runner';
import { EngineServer } from './server';

const TOKEN = 'a token of the test';
const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-engine-'));
const client = new EngineClient(folder);
let server: EngineServer;
let port: number;

beforeAll(async () => {
  const store = await freshStore();
  const runner = new JobRunner(store, pino({ level: 'silent' }));
  // no call of these tests reaches the pool, sieves, digest or venues
  const none = {} as never;
  const log = pino({ level: 'silent' });
  server = new EngineServer({ store, pool: none, runner, sieves: none, digest: none, venues: none, log }, TOKEN);
  port = await server.listen();
  writeFileSync(join(folder, 'engine.json'), JSON.stringify({ port, token: TOKEN, pid: process.pid }));
});
afterAll(() => server.close());

const post = (path: string, body: string, token = TOKEN) =>
  fetch(`http://127.0.0.1:${port}${path}`, { method: 'POST', headers: { authorization: `Bearer ${token}` }, body });

describe('the engine', () => {
  it('answers nobody without its token', async () => {
    const answer = await post('/names/read', '{}', 'another');
    expect(answer.status).toBe(403);
    expect(await answer.json()).toMatchObject({ code: 'wrong-origin' });
  });

  it('says by a code, a status and field by field what is wrong with a question', async () => {
    const answer = await post('/jobs/steer', JSON.stringify({ id: 'seven', action: 'pause' }));
    expect(answer.status).toBe(400);
    expect(await answer.json()).toMatchObject({ code: 'makes-no-sense', issues: [{ at: 'id' }] });
    const unknown = await post('/honey', '{}');
    expect(unknown.status).toBe(404);
    expect(await unknown.json()).toMatchObject({ code: 'not-here', message: 'the engine has no /honey' });
  });

  it('is heard by its client with code, fields and words', async () => {
    const error = await client.steerJob(4711, 'pause').catch((caught: unknown) => caught);
    expect(error).toBeInstanceOf(EngineError);
    expect(error).toMatchObject({ code: 'conflict' });
    const senseless = await client.confirm(0.5).catch((caught: unknown) => caught);
    expect(senseless).toMatchObject({ code: 'makes-no-sense', issues: [{ at: 'id' }] });
  });

  it('is said to be away where nothing listens', async () => {
    const nobody = new EngineClient(mkdtempSync(join(tmpdir(), 'jam-ladle-engine-')));
    await expect(nobody.health()).rejects.toMatchObject({ code: 'engine-away' });
  });
});
