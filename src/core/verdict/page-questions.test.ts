import { describe, expect, it } from 'vitest';
import { answering, foundCount, questionLink } from './page-questions';

describe('questions that pages answer', () => {
  const pages = ['https://tarnhives.org/a', 'https://www.tarnhives.org/', 'https://guide.test/bees', 'https://guide.test/bees'].map((url) => ({ url, title: '' })); // biome-ignore format: one line
  const urls = (item: 'searched' | 'mentioned') => answering(item, 'tarnhives.org', pages).map(({ url }) => url);

  it('are answered by pages of the domain, or by those of others, each once', () => {
    expect(urls('searched')).toEqual(['https://tarnhives.org/a', 'https://www.tarnhives.org/']);
    expect(urls('mentioned')).toEqual(['https://guide.test/bees']);
  });

  it('count as many as a service says, and at least those that it names', () => {
    const found = { at: 0, who: 'Salt', pages: pages.slice(0, 2) };
    expect([null, 1, 40].map((total) => foundCount({ ...found, total }))).toEqual([2, 2, 40]);
  });

  it('open in a search of the person, escaped', () => {
    expect(questionLink('mentioned', 'tarnhives.org', 'https://find.test/?q={words}&x=1')).toBe(
      'https://find.test/?q=%22tarnhives.org%22%20-site%3Atarnhives.org&x=1',
    );
    expect(questionLink('searched', 'tarnhives.org', '')).toBeNull();
  });
});
