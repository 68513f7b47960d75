import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { foldWord, Lexicon } from './lexicon';
import { packLexicon, unpackLexicon } from './lexicon-file';

const word = fc.stringMatching(/^[a-z]{1,12}$/);
const words = fc.uniqueArray(fc.tuple(word, fc.integer({ min: 1, max: 255 })), { selector: ([text]) => text });

describe('Lexicon', () => {
  it('knows each word with its cost, and no other, also when it was packed', () => {
    fc.assert(
      fc.property(words, fc.array(word), (known, others) => {
        const sorted = [...known].sort(([a], [b]) => (a < b ? -1 : 1));
        const made = Lexicon.of(
          sorted.map(([text]) => text),
          sorted.map(([, steps]) => steps / 10),
        );
        for (const lexicon of [made, unpackLexicon(packLexicon(made))]) {
          for (const [text, steps] of known) expect(lexicon.costOf(text)).toBeCloseTo(steps / 10, 5);
          for (const text of others)
            if (!known.some(([one]) => one === text)) expect(lexicon.costOf(text)).toBe(Number.POSITIVE_INFINITY);
        }
      }),
    );
  });

  it('takes no bytes that are none of its own', () => {
    expect(() => unpackLexicon(new Uint8Array(7))).toThrow('no table');
    expect(() => unpackLexicon(Uint8Array.from([3, 0, 0, 0, 0]))).toThrow('no nodes');
  });
});

describe('foldWord', () => {
  it.each([
    ['Käse', 'de', ['kase', 'kaese']],
    ['Straße', 'de', ['strasse']],
    ['gîte', 'fr', ['gite']],
    ['œuvre', 'fr', ['oeuvre']],
    ['año', 'es', ['ano']],
    ['hive', 'en', ['hive']],
  ] as const)('writes %s in plain letters', (text, language, forms) =>
    expect(foldWord(text, language).sort()).toEqual([...forms].sort()),
  );
});
