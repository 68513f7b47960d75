import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { knex, run } from '../../store/base/query';
import { readSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { recordSettings, undoAct } from '../../store/domains/acts';
import { type Act, actOn, beginAction, readAction, tagNamed, undoSome } from '../../store/domains/marks';
import { noteHits, saveSieve } from '../../store/pool/sieves';
import { briefOfTest, domainOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { listLastActs, tellEngine } from './acts';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

const act = (one: Act, ids: number[]): number => {
  const id = beginAction(store, one);
  actOn(store, id, one, ids);
  return id;
};
const words = () => listLastActs(store).map((one) => one.words);

describe('the last acts', () => {
  it('say what was done to which domains, by the names of tags and briefs, the latest first', () => {
    const brief = briefOfTest(store).id;
    const tag = tagNamed(store, 'to ask Mara');
    const [one, two] = ['tarnhives.org', 'pellgatebees.org'].map((name) => domainOfTest(store, name).id);
    const acts: Act[] = [
      { kind: 'judge', judged: 'keep' },
      { kind: 'judge', judged: 'not-yet' },
      { kind: 'tag', tag },
      { kind: 'untag', tag },
      { kind: 'shortlist', brief },
      { kind: 'unshortlist', brief },
      { kind: 'watch' },
      { kind: 'unwatch' },
    ];
    for (const each of acts) act(each, [one]);
    act({ kind: 'judge', judged: 'spam' }, [one, two]);
    expect(words()).toEqual([
      '2 domains: judged spam',
      'tarnhives.org: watched no more',
      'tarnhives.org: watched',
      'tarnhives.org: removed from the shortlist of Hives',
      'tarnhives.org: put on the shortlist of Hives',
      'tarnhives.org: not tagged to ask Mara any more',
      'tarnhives.org: tagged to ask Mara',
      'tarnhives.org: judged no more',
      'tarnhives.org: judged keep',
    ]);
  });

  it('stand among each other by time, of both kinds, and say when they were taken back', () => {
    const { isDryRun } = readSettings(store);
    recordSettings(store, 'The dry run', { isDryRun: !isDryRun });
    const id = act({ kind: 'judge', judged: 'keep' }, [domainOfTest(store, 'tarnhives.org').id]);
    run(
      store,
      knex('actions')
        .where({ id })
        .update({ at: store.now() + 1000 }),
    );
    const [action, setting] = listLastActs(store);
    expect(action).toMatchObject({ kind: 'action', id, undoneAt: null });
    expect(setting).toMatchObject({ kind: 'act', undoneAt: null });
    undoAct(store, setting.id);
    const found = readAction(store, id);
    if (!found) throw new Error('the action is not kept');
    expect(undoSome(store, found, 10)).toHaveLength(1);
    expect(undoSome(store, found, 10)).toEqual([]);
    expect(listLastActs(store).map(({ undoneAt }) => undoneAt !== null)).toEqual([true, true]);
    expect(readSettings(store).isDryRun).toBe(isDryRun);
  });

  it('are the last sixty', () => {
    const { id } = domainOfTest(store, 'tarnhives.org');
    for (let n = 0; n < 70; n++) act({ kind: n % 2 === 0 ? 'watch' : 'unwatch' }, [id]);
    const ids = listLastActs(store).map((one) => one.id);
    expect(ids).toEqual(Array.from({ length: 60 }, (_, n) => ids[0] - n));
  });
});

describe('what was changed beside the engine', () => {
  it('is told to it by the kind of act: members of kept sieves, prices, words of briefs', async () => {
    const { id: domain } = domainOfTest(store, 'tarnhives.org');
    const sieve = saveSieve(store, 'Old and clean', 'c=age:10..');
    noteHits(store, sieve, [domain], store.now(), false);
    const members: [string, number, number[] | null, boolean][] = [];
    const engine = engineOfTest({
      setMembers: async (fact, set, ids, isIn) => {
        members.push([fact, set, ids, isIn]);
        return {};
      },
      settingsChanged: async () => ({}),
      briefsChanged: async () => ({}),
    });
    await tellEngine(store, engine, 'sieve');
    // first nobody, then those that are new to it
    expect(members.map(([fact, set, , isIn]) => [fact, set, isIn])).toEqual([
      ['fresh', sieve, false],
      ['fresh', sieve, true],
    ]);
    expect(members.map(([, , ids]) => ids)).toEqual([null, [domain]]);
    await tellEngine(store, engine, 'settings');
    await tellEngine(store, engine, 'brief');
    expect(engine.asked.slice(-2)).toEqual(['settingsChanged', 'briefsChanged']);
  });
});
