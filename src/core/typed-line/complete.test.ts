import { describe, expect, it } from 'vitest';
import { completionsOf, insteadOf, phrasesOf } from './complete';

const PHRASES = phrasesOf(
  {
    isTld: () => false,
    subjectOf: () => null,
    languages: [{ code: 'de', name: 'German' }],
    venues: ['Saltmarch Exchange'],
    tags: [{ id: 1, name: 'later' }],
    sources: [],
    currency: 'EUR',
    now: 0,
  },
  { tlds: ['com', 'co.uk'], subjects: ['Beekeeping'] },
);
const goesOn = (line: string) => completionsOf(line, PHRASES, 5).map(({ words }) => words);

describe('how a line may go on', () => {
  it('is by its last words, as many of them as a phrase begins with, and keeps what stands before', () => {
    expect(completionsOf('free, ref', PHRASES, 1)).toEqual([
      { words: 'referring domains', text: 'free, referring domains' },
    ]);
    expect(goesOn('org no hy')[0]).toBe('no hyphens');
    expect(goesOn('about bee')).toEqual(['about beekeeping']);
    expect(goesOn('free .c')).toEqual(['.com', '.co.uk']);
    expect(goesOn('auctions at salt')).toEqual(['at Saltmarch Exchange']);
    expect(goesOn('sorted by tru')).toEqual(expect.arrayContaining(['sorted by trust', 'sorted by trust share']));
  });

  it('is nothing where nothing is begun, or a phrase stands there whole', () => {
    expect(goesOn('')).toEqual([]);
    expect(goesOn('free, ')).toEqual([]);
    expect(goesOn('german')).toEqual([]);
    expect(completionsOf('t', PHRASES, 3)).toHaveLength(3);
  });

  it('offers what is a letter or two off in place of what is not known', () => {
    expect(insteadOf('hyphns', ['hyphens', 'digits'], 3)).toEqual(['hyphens']);
    expect(insteadOf('redemtion', PHRASES, 3)[0]).toBe('redemption');
    expect(insteadOf('zeppelin', PHRASES, 3)).toEqual([]);
    expect(insteadOf('fre', PHRASES, 3)).toEqual([]);
  });
});
