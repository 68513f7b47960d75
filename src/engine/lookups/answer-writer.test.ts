import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { knex, run } from '../../store/base/query';
import { freshStore } from '../../store/base/testing';
import { lastPulse, type Question } from '../../store/lifecycle/questions';
import { domainOfTest } from '../../store/testing';
import { AnswerWriter } from './answer-writer';

let store: Store;
let changed: number[][];
let told: unknown[];
let writer: AnswerWriter;

beforeEach(async () => {
  store = await freshStore();
  changed = [];
  told = [];
  writer = new AnswerWriter(store, { error: (of: unknown) => told.push(of) } as never, (ids) => changed.push(ids));
});

const about = (domainId: number) => ({ domainId, name: `name${domainId}.org` }) as Question;
const strengthOf = (id: number) => store.raw.prepare('SELECT strength FROM domains WHERE id = ?').pluck().get(id);
const setStrength = (id: number, strength: number) => () =>
  run(store, knex('domains').where({ id }).update({ strength }));

describe('answers of a moment', () => {
  it('are written together, and told once they are on disk', () => {
    const ids = ['tarnhives.org', 'wexcombe.org'].map((name) => domainOfTest(store, name).id);
    const done: unknown[] = [];
    for (const id of ids)
      writer.add({ question: about(id), act: setStrength(id, 40), done: () => done.push(strengthOf(id)) });
    expect(writer.waiting).toBe(2);
    expect(writer.flush().map(({ domainId }) => domainId)).toEqual(ids);
    expect(done).toEqual([40, 40]);
    expect(changed).toEqual([ids]);
    expect(lastPulse(store)).toBeGreaterThan(0);
    expect([writer.waiting, writer.flush()]).toEqual([0, []]);
    expect(changed).toHaveLength(1);
  });

  it('do not fail together: one that cannot be written is told of, and the others are', () => {
    const [good, bad] = ['tarnhives.org', 'wexcombe.org'].map((name) => domainOfTest(store, name).id);
    const done: number[] = [];
    writer.add({ question: about(bad), act: () => { throw new Error('no such column'); }, done: () => done.push(bad) }); // biome-ignore format: one answer
    writer.add({ question: about(good), act: setStrength(good, 7), done: () => done.push(good) });
    // both questions are free to be asked again
    expect(writer.flush()).toHaveLength(2);
    expect(strengthOf(good)).toBe(7);
    expect(changed).toEqual([[good]]);
    expect(done).toEqual([bad, good]);
    expect(told.map((one) => (one as { name?: string }).name)).toEqual([undefined, `name${bad}.org`]);
  });

  it('stay where the disk is full, and are written when there is space', () => {
    const { id } = domainOfTest(store, 'tarnhives.org');
    let isFull = true;
    const act = () => {
      if (isFull) throw Object.assign(new Error('database or disk is full'), { code: 'SQLITE_FULL' });
      setStrength(id, 9)();
    };
    writer.add({ question: about(id), act });
    expect(() => writer.flush()).toThrow('full');
    expect([writer.waiting, changed]).toEqual([1, []]);
    isFull = false;
    writer.flush();
    expect([writer.waiting, strengthOf(id)]).toEqual([0, 9]);
  });
});
