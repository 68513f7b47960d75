import { expect, it } from 'vitest';
import { addJob } from '../base/jobs';
import { knex, run } from '../base/query';
import { freshStore } from '../base/testing';
import { sourceOfTest } from '../testing';
import { lastReadings } from './readings';

it('venues and link exports are told with how they were read last', async () => {
  const store = await freshStore();
  const read = (
    kind: 'venue' | 'links' | 'list',
    name: string,
    ...ended: [state: 'done' | 'failed' | 'running' | 'cancelled', at: number | null][]
  ) => {
    const id = sourceOfTest(store, kind, name);
    for (const [state, at] of ended) {
      const job = addJob(store, { kind, sourceId: id, params: {} });
      const error = state === 'failed' ? 'it answered 401' : null;
      run(store, knex('jobs').where('id', job).update({ state, finished_at: at, error }));
    }
    return id;
  };
  read('list', 'Sunday drops', ['done', 9]);
  read('venue', 'Umberley Lots', ['failed', 3], ['done', 5], ['cancelled', 6], ['running', null]);
  read('venue', 'Coombe', ['done', 4], ['failed', 7]);
  read('links', 'Export', ['running', null]);
  const gone = read('links', 'Taken back', ['done', 8]);
  run(store, knex('sources').where('id', gone).update({ undone_at: 9 }));
  // what comes after a reading is not one
  addJob(store, { kind: 'measure', sourceId: 2, params: {} });
  expect(lastReadings(store)).toEqual([
    { kind: 'venue', name: 'Coombe', rows: 0, at: 7, error: 'it answered 401' },
    { kind: 'venue', name: 'Umberley Lots', rows: 0, at: 5, error: null },
    { kind: 'links', name: 'Export', rows: 0, at: null, error: null },
  ]);
});
