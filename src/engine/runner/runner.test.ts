import { EventEmitter } from 'node:events';
import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { listJobs, readJob } from '../../store/base/jobs';
import { freshStore } from '../../store/base/testing';
import { JobRunner } from './runner';

class FakeWorker extends EventEmitter {
  postMessage(): void {}
  async terminate(): Promise<void> {}
}
const workers: FakeWorker[] = [];

vi.mock('./threads', () => ({
  startThread: () => {
    const worker = new FakeWorker();
    workers.push(worker);
    return worker;
  },
}));
vi.mock('../../store/base/database', async (original) => {
  const actual = await original<typeof import('../../store/base/database')>();
  return { ...actual, write: vi.fn(actual.write) };
});

const locked = () => {
  throw Object.assign(new Error('database is locked'), { code: 'SQLITE_BUSY' });
};
const BACKUP = { kind: 'backup' as const, sourceId: null, params: {} };

let store: Store;
let runner: JobRunner;
beforeEach(async () => {
  workers.length = 0;
  store = await freshStore();
  runner = new JobRunner(store, pino({ level: 'silent' }));
});
afterEach(() => {
  vi.mocked(write).mockReset();
  store.raw.close();
});

describe('JobRunner', () => {
  it('outlives a database that is busy when a worker ends, and writes its end down as soon as it can', async () => {
    const { id } = runner.add(BACKUP);
    expect(readJob(store, id)?.state).toBe('running');
    workers[0].emit('message', { type: 'ended', outcome: 'done' });
    vi.mocked(write).mockImplementationOnce(locked).mockImplementationOnce(locked);
    expect(() => workers[0].emit('exit')).not.toThrow();
    expect(readJob(store, id)?.state).toBe('running');
    await expect.poll(() => readJob(store, id)?.state, { timeout: 10_000 }).toBe('done');
  });

  it('has what comes after a job there when its end is, or neither', async () => {
    const { id } = runner.add({ ...BACKUP, next: [{ kind: 'rescore', sourceId: null, params: {} }] });
    workers[0].emit('message', { type: 'ended', outcome: 'done' });
    vi.mocked(write).mockImplementationOnce(locked);
    workers[0].emit('exit');
    expect(listJobs(store).map(({ kind }) => kind)).toEqual(['backup']);
    await expect.poll(() => readJob(store, id)?.state, { timeout: 10_000 }).toBe('done');
    expect(listJobs(store).map(({ kind }) => kind)).toContain('rescore');
  });

  it('takes an order of a worker when it can be written, though not at once', async () => {
    runner.add(BACKUP);
    vi.mocked(write).mockImplementationOnce(locked);
    expect(() =>
      workers[0].emit('message', { type: 'order', order: { kind: 'rescore', sourceId: null, params: {} } }),
    ).not.toThrow();
    await expect.poll(() => listJobs(store).some(({ kind }) => kind === 'rescore'), { timeout: 10_000 }).toBe(true);
  });
});
