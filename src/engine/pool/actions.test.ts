import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { statement } from '../../store/base/statement';
import { readDomains } from '../../store/domains/domains';
import { type Act, listTags, tagNamed, wakeSnoozed } from '../../store/domains/marks';
import { eachMember } from '../../store/domains/pool-rows.sql';
import { act, undoAction } from './actions';
import { addBriefForTest, poolOf } from './actions.fixtures';

describe('actions', () => {
  it('judge many, a part at a time, and give everything back', async () => {
    const { store, pool, ids } = await poolOf(1300);
    const which = { parts: [], except: [ids[0]] };
    const spam = { kind: 'judge', judged: 'spam', reason: 'a test' } as const;
    const first = await act(store, pool, spam, which);
    expect(first.changed).toBe(1299);
    expect(await act(store, pool, spam, which)).toMatchObject({ changed: 0 });
    const marked = async (judged: string) =>
      (
        await pool.idsOf({
          parts: [{ type: 'choice', fact: 'judged', values: [judged], not: false, keepUnknown: false }],
        })
      ).length;
    expect(await marked('spam')).toBe(1299);
    const second = await act(store, pool, { kind: 'judge', judged: 'clean' }, { ids: [ids[5]] });
    expect(readDomains(store, [ids[5]])[0]).toMatchObject({ judged: 'clean', judged_reason: null });
    expect(await undoAction(store, pool, second.action)).toBe(1);
    expect(readDomains(store, [ids[5]])[0]).toMatchObject({ judged: 'spam', judged_reason: 'a test' });
    expect(await undoAction(store, pool, first.action)).toBe(1299);
    expect(await marked('spam')).toBe(0);
    expect(await undoAction(store, pool, first.action)).toBe(0);
    expect(await undoAction(store, pool, 999)).toBeNull();
  });

  it('wakes what was put off when its time has come', async () => {
    const { store, pool, ids } = await poolOf(3);
    await act(store, pool, { kind: 'judge', judged: 'snoozed', until: 5000 }, { ids: [ids[1]] });
    expect(wakeSnoozed(store, 4999, 10)).toEqual([]);
    expect(wakeSnoozed(store, 5000, 10)).toEqual([ids[1]]);
    expect(readDomains(store, [ids[1]])[0]).toMatchObject({ judged: null, snoozed_until: null });
  });

  it('leaves the index and the database equal after any of them, done and undone', async () => {
    const { store, pool, ids } = await poolOf(6);
    const brief = addBriefForTest(store);
    const tags = ['bees', 'stars'].map((name) => tagNamed(store, name));
    const what: fc.Arbitrary<Act> = fc.oneof(
      fc.record({
        kind: fc.constant('judge' as const),
        judged: fc.constantFrom('keep' as const, 'pass' as const, 'not-yet' as const),
      }),
      fc.record({
        kind: fc.constantFrom('tag' as const, 'untag' as const),
        tag: fc.constantFrom(...tags),
      }) as fc.Arbitrary<Act>,
      fc.record({
        kind: fc.constantFrom('shortlist' as const, 'unshortlist' as const),
        brief: fc.constant(brief),
      }) as fc.Arbitrary<Act>,
    );
    const state = () => ({
      judged: statement(store.raw, 'SELECT id, judged FROM domains ORDER BY id').all(),
      tags: [...eachMember(store, 'tag')].sort(),
      shortlist: [...eachMember(store, 'shortlist')].sort(),
    });
    const inIndex = () => {
      const { columns } = pool.questions;
      const sets = (fact: 'tag' | 'shortlist') =>
        [...columns.members[fact].keys()]
          .flatMap((set) => ids.filter((id) => columns.isMember(fact, set, columns.rowOf(id))).map((id) => [set, id]))
          .sort();
      return { tags: sets('tag'), shortlist: sets('shortlist') };
    };
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(what, fc.subarray(ids)), { maxLength: 6 }), async (steps) => {
        const before = state();
        const done: number[] = [];
        for (const [one, some] of steps) done.push((await act(store, pool, one, { ids: some })).action);
        expect(inIndex()).toEqual({ tags: state().tags, shortlist: state().shortlist });
        for (const action of done.reverse()) await undoAction(store, pool, action);
        expect(state()).toEqual(before);
        expect(inIndex()).toEqual({ tags: before.tags, shortlist: before.shortlist });
      }),
      { numRuns: 40 },
    );
    expect(listTags(store).map(({ domains }) => domains)).toEqual([0, 0]);
  });
});
