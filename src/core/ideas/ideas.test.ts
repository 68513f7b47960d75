import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SayabilityModel } from '../names/sayable';
import { pluralTwin } from '../names/spelling';
import { splitterOf } from '../names/testing';
import { Best } from './best';
import { patternNear } from './near';
import { countIdeas, type IdeaPattern, JOINTS, makeIdeas, type Slot, sharedLetters } from './pattern';
import { cutPlaces, wordOf } from './places';
import { readPlaces } from './read-places';
import { runIdeas } from './run';

const slot = (words: string[], isOptional = false): Slot => ({ title: 'own', words, isOptional });
const PATTERN: IdeaPattern = {
  slots: [slot(['hive', 'bee']), slot(['yard', 'notes'])],
  isAnyOrder: false,
  withTwins: false,
  joints: ['joined'],
  endings: ['org'],
  mostLetters: 63,
};
const twin = (word: string) => pluralTwin(word, [word]);
const labels = (more: Partial<IdeaPattern>) => [...makeIdeas({ ...PATTERN, ...more }, twin)].map(({ label }) => label);

describe('the ideas of a pattern', () => {
  it('are the words of its slots put together', () => {
    expect(labels({})).toEqual(['hiveyard', 'hivenotes', 'beeyard', 'beenotes']);
    expect(labels({ joints: ['hyphen'] })[0]).toBe('hive-yard');
    expect(labels({ isAnyOrder: true })).toContain('yardhive');
    expect(labels({ withTwins: true })).toEqual(expect.arrayContaining(['hiveyards', 'hivenote']));
    expect(labels({ slots: [slot(['hive']), slot(['yard'], true)] })).toEqual(['hiveyard', 'hive']);
    expect(labels({ mostLetters: 7 })).toEqual(['beeyard']);
  });

  it('overlap where letters are shared, and only there', () => {
    expect(sharedLetters('meadow', 'owl')).toBe(2);
    expect(sharedLetters('hive', 'yard')).toBe(0);
    expect(sharedLetters('owl', 'owl')).toBe(0);
    expect(labels({ slots: [slot(['meadow', 'hive']), slot(['owl'])], joints: ['overlap'] })).toEqual(['meadowl']);
  });

  it('come once each, within the length, as labels, and never more than were counted', () => {
    const words = fc.array(fc.stringMatching(/^[a-z0-9]{1,6}$/), { maxLength: 5 });
    const slots = fc.array(fc.record({ title: fc.constant('own'), words, isOptional: fc.boolean() }), { maxLength: 4 });
    const joints = fc.subarray([...JOINTS], { minLength: 1 });
    fc.assert(
      fc.property(
        slots,
        joints,
        fc.boolean(),
        fc.boolean(),
        fc.integer({ min: 2, max: 20 }),
        (given, how, any, twins, most) => {
          const pattern = {
            slots: given,
            joints: how,
            isAnyOrder: any,
            withTwins: twins,
            endings: ['org'],
            mostLetters: most,
          };
          const made = [...makeIdeas(pattern, twin)].map(({ label }) => label);
          expect(new Set(made).size).toBe(made.length);
          expect(made.length).toBeLessThanOrEqual(countIdeas(pattern));
          for (const label of made) {
            expect(label.length).toBeLessThanOrEqual(most);
            expect(label).toMatch(/^[a-z0-9](?:[a-z0-9-]*[a-z0-9])?$/);
          }
        },
      ),
    );
  });
});

describe('the best of many', () => {
  it('are those that sorting all would give', () => {
    const items = fc.array(
      fc.record({ score: fc.integer({ min: 0, max: 20 }), label: fc.stringMatching(/^[a-z]{1,3}$/) }),
    );
    fc.assert(
      fc.property(items, fc.integer({ min: 0, max: 12 }), (all, most) => {
        const best = new Best<{ score: number; label: string }>(most);
        for (const item of all) best.add(item);
        const sorted = [...all].sort(
          (a, b) => b.score - a.score || (a.label < b.label ? -1 : a.label > b.label ? 1 : 0),
        );
        expect(best.sorted()).toEqual(sorted.slice(0, most));
      }),
    );
  });
});

describe('judging', () => {
  const counts = [
    'hive',
    'yard',
    'bee',
    'notes',
    'therapist',
    'rapist',
    'the',
    'pen',
    'island',
    'is',
    'land',
    'queen',
  ].map((word, n) => ({ word, count: 10_000 - 100 * n }));
  const judges = {
    splitter: splitterOf(counts),
    sayable: new SayabilityModel(counts),
    commonness: (word: string) => Math.log1p(counts.find((one) => one.word === word)?.count ?? 0),
    briefWords: new Set(['hive', 'bee']),
  };
  const judged = (slots: Slot[], kept = 50) => {
    const steps = runIdeas({ ...PATTERN, slots }, judges, 1_000_000, kept);
    let step = steps.next();
    while (!step.done) step = steps.next();
    return step.value;
  };

  it('holds down what reads as something else, and says as what', () => {
    const { best } = judged([slot(['the', 'queen']), slot(['rapist', 'hive'])]);
    const [first] = best;
    expect(first).toMatchObject({ label: 'thehive', readsAs: null });
    expect(best.find(({ label }) => label === 'therapist')).toMatchObject({ readsAs: 'therapist' });
    expect(best.at(-1)?.label).toBe('therapist');
  });

  it('prefers words of the brief, short and plain ones', () => {
    const order = judged([slot(['hive', 'pen']), slot(['yard', 'xqzvk'])]).best.map(({ label }) => label);
    expect(order.indexOf('hiveyard')).toBeLessThan(order.indexOf('penyard'));
    expect(order.indexOf('hiveyard')).toBeLessThan(order.indexOf('hivexqzvk'));
  });

  it('counts what was made, and keeps no more than wanted', () => {
    const many = Array.from({ length: 60 }, (_, n) => `w${n}`);
    const { best, made } = judged([slot(many), slot(many)], 25);
    expect(made).toBeGreaterThan(3400);
    expect(best).toHaveLength(25);
    // those that were not read could not have come among them
    expect(best).toEqual(judged([slot(many), slot(many)], 5000).best.slice(0, 25));
    const scores = best.map(({ score }) => score);
    expect(scores).toEqual([...scores].sort((a, b) => b - a));
  });
});

describe('places', () => {
  it('are read from a table, cut by size and growth, the largest first', () => {
    const { places, aside } = readPlaces(
      'place,people,growth\nÖssen Mere,"12,000",1.5%\nPellgate,900,-0.4\nBig,2000000,2\n,5,5\n',
    );
    expect(aside).toHaveLength(1);
    expect(places[0]).toEqual({ word: 'ossenmere', title: 'Össen Mere', people: 12_000, growthPercent: 1.5 });
    const none = { leastPeople: null, mostPeople: null, leastGrowthPercent: null };
    expect(cutPlaces(places, none).map(({ word }) => word)).toEqual(['big', 'ossenmere', 'pellgate']);
    expect(
      cutPlaces(places, { ...none, mostPeople: 1_000_000, leastGrowthPercent: 0 }).map(({ word }) => word),
    ).toEqual(['ossenmere']);
    expect(wordOf('Saint-Ossen 2')).toBe('saintossen2');
  });
});

describe('ideas near a name', () => {
  const near = (words: string[], brief: string[] = []) => patternNear({ words, ending: 'eu' }, brief) as IdeaPattern;
  const made = (pattern: IdeaPattern) => [...makeIdeas(pattern, () => null)].map(({ label }) => label);

  it('keep its words, in either number, with a word around and with other endings', () => {
    const pattern = near(['pellgate', 'hive']);
    const all = made(pattern);
    expect(all).toEqual(
      expect.arrayContaining(['pellgatehive', 'pellgatehives', 'pellgate-hive', 'mypellgatehive', 'pellgatenotes']),
    );
    expect(all.every((label) => label.includes('pellgate'))).toBe(true);
    expect(pattern.endings[0]).toBe('eu');
    expect(pattern.endings).toContain('com');
    expect(countIdeas(pattern)).toBeLessThan(60_000);
  });

  it('change a word of the brief for another of it, and no other word', () => {
    const all = made(near(['pellgate', 'hives'], ['hive', 'swarm', 'two words']));
    expect(all).toContain('pellgateswarm');
    expect(made(near(['pellgate', 'hives'], ['swarm']))).not.toContain('pellgateswarm');
  });

  it('are none where no word can stand in a label, and few for a long name', () => {
    expect(patternNear({ words: ['蜂', '-'], ending: 'org' }, [])).toBeNull();
    expect(near(['a', 'b', 'c', 'd', 'e']).slots).toHaveLength(4);
  });
});
