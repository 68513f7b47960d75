import { beforeEach, describe, expect, it } from 'vitest';
import { freshBudget, refused } from '../../core/lifecycle/pace';
import { type Store, write } from '../../store/base/database';
import { addJob } from '../../store/base/jobs';
import { knex, run } from '../../store/base/query';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { putSighting } from '../../store/domains/domains';
import { putBudget } from '../../store/lifecycle/budgets';
import { putLookupProblem } from '../../store/lifecycle/lookup-problems';
import { addQuestions } from '../../store/lifecycle/questions';
import { suspendQueue } from '../../store/lifecycle/suspended-questions';
import { readBatch } from '../../store/sources/batches';
import { addSource, countRows } from '../../store/sources/sources';
import { domainOfTest } from '../../store/testing';
import { batchView } from './batch';
import { queueViews } from './queues';

const RDAP = 'https://rdap.registry.test:8443/';
const HOST = 'rdap.registry.test:8443';
const WHOIS = 'whois.registry.test';
const MINUTE = 60_000;
let store: Store;

beforeEach(async () => {
  store = await freshStore();
});

/** Names that wait for a server, and the job that wants them. */
function wait(names: readonly string[], server: string): { job: number; ids: number[] } {
  const ids = names.map((name) => domainOfTest(store, name).id);
  const job = addJob(store, { kind: 'check', sourceId: null, params: {} });
  write(store, () => addQuestions(store, job, ids, 'record'));
  run(store, knex('questions').whereIn('domain_id', ids).update({ step: 'record', server }));
  return { job, ids };
}

describe('the queues of servers', () => {
  it('are told by host, those with most waiting first, with when they are through', () => {
    wait(['tarnhives.org', 'pellgatebees.org', 'quillmerehoney.org'], RDAP);
    wait(['ossenmere.org'], WHOIS);
    changeSettings(store, { registryIntervalMs: 2000, paces: { [WHOIS]: 10_000 } });
    const [rdap, whois] = queueViews(store);
    expect(rdap).toMatchObject({ server: HOST, waiting: 3, intervalMs: 2000, declaredMs: 2000, isLearned: false });
    expect(whois).toMatchObject({ server: WHOIS, waiting: 1, declaredMs: 10_000, pausedUntil: null });
    expect(rdap.throughAt).toBeGreaterThan(store.now());
  });

  it('say what a server that refused has taught, and until when it is left alone', () => {
    const budget = freshBudget({ intervalMs: 1000 });
    refused(budget, { intervalMs: 1000 }, 5 * MINUTE, Date.now());
    write(store, () => putBudget(store, HOST, budget));
    const [queue] = queueViews(store);
    expect(queue).toMatchObject({ server: HOST, waiting: 0, refusedTimes: 1, throughAt: null });
    expect(queue.refusedAt).not.toBeNull();
    expect(queue.pausedUntil).toBeGreaterThan(store.now());
  });

  it('are those asked for, where some are, also without anybody waiting', () => {
    wait(['tarnhives.org'], RDAP);
    expect(queueViews(store, [{ server: 'whois.other.test', waiting: 0 }])).toMatchObject([
      { server: 'whois.other.test', waiting: 0, throughAt: null },
    ]);
  });
});

describe('a batch', () => {
  it('counts its names by what is known, its own among those that wait, and those that cannot be asked', () => {
    const source = addSource(store, 'list', 'Pasted', { isBatch: true, depth: 'record', freshMs: 0 });
    countRows(store, source, { rows_read: 4, rows_repeated: 1, rows_set_aside: 1 });
    const { ids } = wait(['tarnhives.org', 'pellgatebees.org'], RDAP);
    wait(['ossenmere.org', 'quillmerehoney.org'], RDAP);
    const known = domainOfTest(store, 'wexcombe.org', {
      phase: 'active',
      phase_at: store.now() - MINUTE,
      phase_source: 'rdap x',
    });
    write(store, () => {
      for (const [line, id] of [...ids, known.id].entries()) putSighting(store, id, source, store.now(), line, {});
    });
    const batch = readBatch(store, source);
    if (!batch) throw new Error('no batch');
    const view = batchView(store, batch);
    expect(view).toMatchObject({ name: 'Pasted', read: 4, repeated: 1, setAside: 1, domains: 3, waiting: [] });
    expect(view.cells.map(({ phase, count }) => [phase, count])).toContainEqual(['active', 1]);
    // three wait beside the fourth of all that is asked there
    expect(view.lanes).toMatchObject([{ server: HOST, waiting: 4, mine: 2 }]);

    write(store, () => {
      putLookupProblem(store, { key: 'server', words: 'It does not resolve.', remedy: '' });
      suspendQueue(store, 'record', RDAP, 'server');
    });
    const later = batchView(store, batch);
    expect(later.waiting).toMatchObject([{ waitsFor: 'server', words: 'It does not resolve.', names: 2 }]);
    expect(later.lanes).toEqual([]);
  });

  it('is none where the list was not pasted to be checked', () => {
    expect(readBatch(store, addSource(store, 'list', 'A drop list', {}))).toBeNull();
  });
});
