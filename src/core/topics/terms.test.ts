import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { alike } from './alike';
import { cosine, mainWords, singular, sizeOf, type Terms, termsOf } from './terms';

const words = fc.array(fc.constantFrom('hive', 'swarm', 'queen', 'mead', 'skep', 'comb', 'printing', 'lead'), {
  maxLength: 40,
});
const text = words.map((list) => list.join(' '));
const asTerms = (given: Record<string, number>): Terms => new Map(Object.entries(given));

describe('words of a text', () => {
  it('are counted in lower case and one number, without those that every page has', () => {
    expect([...termsOf('The Hives and the hive: HIVES! Welcome to our home page')]).toEqual([['hive', 3]]);
    expect(termsOf('bee’s bees’ bees').get('bee')).toBe(3);
    expect([...termsOf('a an it is')]).toEqual([]);
    expect(termsOf('Königin und Waben').has('königin')).toBe(true);
    expect(termsOf(`${'x'.repeat(41)} hive`).size).toBe(1);
  });

  it('stop at what one page may have, whatever is in it', () => {
    expect(sizeOf(termsOf('hive '.repeat(200_000)))).toBe(40_000);
    expect(termsOf('’'.repeat(150_000)).size).toBe(0);
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (given) => {
        for (const [word, count] of termsOf(given)) {
          expect(word).toBe(word.toLowerCase());
          expect(count).toBeGreaterThan(0);
        }
      }),
    );
  });

  it('are the same whatever the order, and add up', () => {
    fc.assert(
      fc.property(text, text, (a, b) => {
        const both = termsOf(`${a} ${b}`);
        expect(sizeOf(both)).toBe(sizeOf(termsOf(a)) + sizeOf(termsOf(b)));
        expect(new Map([...both].sort())).toEqual(new Map([...termsOf(`${b} ${a}`)].sort()));
      }),
    );
  });

  it('come the commonest first, ties by the alphabet', () => {
    expect(mainWords(asTerms({ skep: 1, hive: 3, comb: 1, mead: 2 }), 3)).toEqual(['hive', 'mead', 'comb']);
  });
});

describe('the singular', () => {
  it('is made by the regular rules, and of what is none, nothing', () => {
    const pairs = { hives: 'hive', boxes: 'box', churches: 'church', bees: 'bee', diaries: 'diary', queens: 'queen', glass: 'glass', virus: 'virus', axis: 'axis', gas: 'gas', pies: 'pie', 'skep’s': 'skep', 'bees’': 'bee' }; // biome-ignore format: pairs
    for (const [many, one] of Object.entries(pairs)) expect(singular(many), many).toBe(one);
  });

  it('is its own singular', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-z]{2,12}$/), (word) => {
        const once = singular(word);
        expect(once.length).toBeLessThanOrEqual(word.length);
        // a word that ends in two of them may be cut again; nothing is cut to nothing
        expect(singular(once).length).toBeGreaterThan(0);
      }),
    );
  });
});

describe('how alike texts are', () => {
  it('is the same both ways, between nothing in common and the same', () => {
    fc.assert(
      fc.property(text, text, (one, other) => {
        const [a, b] = [termsOf(one), termsOf(other)];
        const alikeEnglish = (one: Terms, other: Terms) =>
          alike({ terms: one, language: 'en' }, { terms: other, language: 'en' });
        for (const measure of [cosine, alikeEnglish]) {
          const value = measure(a, b);
          expect(value).toBeCloseTo(measure(b, a), 9);
          expect(value).toBeGreaterThanOrEqual(0);
          expect(value).toBeLessThanOrEqual(1 + 1e-9);
          expect(measure(a, a)).toBeCloseTo(1, 9);
          const isApart = [...a.keys()].every((word) => !b.has(word)) && a.size > 0 && b.size > 0;
          if (isApart && measure === cosine) expect(value).toBe(0);
        }
      }),
    );
    expect(cosine(new Map(), new Map())).toBe(1);
    expect(cosine(new Map(), asTerms({ hive: 1 }))).toBe(0);
  });

  it('counts words that all texts have little', () => {
    const [a, b] = [asTerms({ map: 4, skep: 1 }), asTerms({ map: 4, meteor: 1 })];
    expect(cosine(a, b)).toBeGreaterThan(0.7);
    expect(cosine(a, b, (word) => (word === 'map' ? 0.05 : 1))).toBeLessThan(0.1);
  });

  it('grows little with repeats: a word said a hundred times is not a hundred words', () => {
    const once = cosine(asTerms({ hive: 1, mead: 1 }), asTerms({ hive: 1, comb: 1 }));
    const often = cosine(asTerms({ hive: 100, mead: 1 }), asTerms({ hive: 100, comb: 1 }));
    expect(often).toBeGreaterThan(once);
    expect(often).toBeLessThan(1);
  });
});
