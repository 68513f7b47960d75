import { beforeEach, describe, expect, it } from 'vitest';
import type { NameReading, NameToRead } from '../contracts/names';
import type { PoolQuery } from '../core/pool/query';
import { type Store, write } from '../store/base/database';
import { freshStore } from '../store/base/testing';
import { findDomain, putDomain, readDomains } from '../store/domains/domains';
import { type Brief, listBriefs, saveBrief } from '../store/shortlist/briefs';
import { addToShortlist, readShortlist } from '../store/shortlist/shortlist';
import { deadlinesIn } from './deadlines/deadlines';
import { similarNames } from './dossier/similar';
import { fitFor, fitsFor, fitsOf } from './fit/fit';
import { learningOf } from './learning/learning';
import { planFor } from './plan/plan';
import { targetsFor } from './prospecting/prospects';
import { engineOfTest } from './testing';

let store: Store;
let brief: Brief;

beforeEach(async () => {
  store = await freshStore();
  const id = saveBrief(store, {
    name: 'Hives',
    purpose: 'resell',
    subjectWords: ['hive'],
    trustedSites: [],
    excludedEndings: [],
    budgetMinor: 500_000,
    currency: 'EUR',
  });
  brief = listBriefs(store).find((one) => one.id === id) as Brief;
});

/** Reads names as the engine does, with words that stand between hyphens. */
const readNames = async (names: readonly NameToRead[]): Promise<NameReading[]> =>
  names.map(({ name, ending }) => {
    const label = name.slice(0, -ending.length - 1);
    const words = label.split('-');
    const starts = words.map((_, n) => words.slice(0, n).join('-').length + (n > 0 ? 1 : 0));
    return {
      label,
      split: { words, starts, confidence: 1, runnerUp: null },
      sayability: 80,
      hard: [],
      spelling: [],
      twin: null,
      subject: { subject: null, confidence: 0, words: [], runnerUp: null },
    };
  });

function put(count: number): number[] {
  const ids: number[] = [];
  write(store, () => {
    for (let n = 0; n < count; n++)
      ids.push(putDomain(store, { name: `pellgate-hive-${n}.org`, ending: 'org' }, true, 1).id);
  });
  return ids;
}
const answerOf = (ids: number[]) => ({
  ids,
  names: ids.map(() => ({ starts: [0], matches: [] })),
  said: [],
  offers: {},
  total: ids.length,
});

describe('the engine is asked', () => {
  it('once for the names of a shortlist of fifty, and each fit is that of its name', async () => {
    addToShortlist(store, brief.id, put(50));
    const engine = engineOfTest({ readNames });
    const rows = readShortlist(store, brief.id).map(({ domain }) => domain);
    const fits = await fitsFor(engine, rows, brief);
    expect(engine.asked).toEqual(['readNames']);
    expect(fits).toHaveLength(50);
    const alone = await fitFor(engineOfTest({ readNames }), rows[7], brief);
    expect(fits[7]).toMatchObject(alone);
    expect(fits.reduce((sum, { first }) => sum + first, 0)).toBeCloseTo(1, 5);
  });

  it('a few times for the outcomes of three hundred decisions', async () => {
    const ids = put(300);
    const engine = engineOfTest({ readNames, queryPool: async () => answerOf(ids) as never });
    await learningOf(store, engine, brief);
    expect(engine.asked.length).toBeLessThanOrEqual(3);
    expect(engine.asked).toContain('readNames');
  });

  it('not once a name for a plan', async () => {
    addToShortlist(store, brief.id, put(40));
    const engine = engineOfTest({ readNames });
    await planFor(store, engine, brief);
    expect(engine.asked.length).toBeLessThanOrEqual(2);
  });

  it('in vain while it starts: fits are told without the names, targets and outcomes without the pool', async () => {
    const rows = readDomains(store, put(3));
    const starting = engineOfTest();
    const fits = await fitsOf(starting, rows, brief);
    expect(fits).toHaveLength(3);
    const told = await fitsOf(engineOfTest({ readNames }), rows, brief);
    expect(told[0].parts).not.toEqual(fits[0].parts);
    expect(await targetsFor(store, starting)).toEqual([]);
    expect((await learningOf(store, starting, brief)).suggestions).toEqual([]);
  });
});

describe('names like another', () => {
  it('are those one letter away, then those that share all words, then fewer', async () => {
    write(store, () => {
      for (const name of ['tarn-hive', 'tarn-hives', 'tarn-mill', 'old-hive'])
        putDomain(store, { name: `${name}.org`, ending: 'org' }, true, 1);
    });
    const idOf = (name: string) => findDomain(store, name)?.id ?? 0;
    const asked: string[] = [];
    const engine = engineOfTest({
      readNames,
      queryPool: async ({ parts }: PoolQuery) => {
        const words = parts.flatMap((part) => (part.type === 'text' ? part.values : []));
        asked.push(words.join(' '));
        return answerOf(words.length === 1 && words[0] === 'hive' ? [idOf('old-hive.org')] : []) as never;
      },
    });
    const found = await similarNames(store, engine, 'tarn-hive.org', 'org');
    expect(found.map(({ name, why }) => [name, why])).toEqual([
      ['tarn-hives.org', 'one letter away'],
      ['old-hive.org', 'also says hive'],
    ]);
    expect(asked[0]).toBe('tarn hive');
  });
});

describe('deadlines', () => {
  it('of the whole pool are counted by the index, and those of one’s own without it', async () => {
    const queries: PoolQuery[] = [];
    const engine = engineOfTest({
      queryPool: async (query) => {
        queries.push(query);
        return { ...answerOf([]), total: 7 } as never;
      },
    });
    const all = await deadlinesIn(store, engine, { scope: 'all', kinds: ['closing', 'drop'], hours: 48 });
    expect(all).toEqual({ deadlines: [], total: 14 });
    expect(queries.map(({ sorts }) => sorts[0].fact).sort()).toEqual(['closing', 'drop']);
    await deadlinesIn(store, engine, { scope: 'mine', kinds: ['drop'], hours: 48 });
    expect(queries).toHaveLength(2);
  });
});
