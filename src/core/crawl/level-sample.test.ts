import { describe, expect, it } from 'vitest';
import { LevelSample, nextToRead } from './level-sample';

const at = (path: string) => `http://manual.example/${path}`;
const flat = (count: number) =>
  Array.from({ length: count }, (_, n) => at(`chapter-${String.fromCharCode(97 + n)}.html`));

function sampleOf(urls: string[]): LevelSample {
  const level = new LevelSample();
  level.add(urls);
  return level;
}

describe('LevelSample', () => {
  it('reads from all over a level whose pages are called one by one', () => {
    const urls = flat(24);
    const taken = sampleOf(urls)
      .take(6)
      .map(({ url }) => urls.indexOf(url));
    expect(taken).toHaveLength(6);
    // one of every four, not the first six
    expect(taken.map((n) => Math.floor(n / 4))).toEqual([0, 1, 2, 3, 4, 5]);
  });

  it('reads of each kind, most of the largest, and lets each page stand for its share', () => {
    const posts = Array.from({ length: 40 }, (_, n) => at(`posts/2019/${n}.html`));
    const members = Array.from({ length: 4 }, (_, n) => at(`people/${n}/`));
    const level = sampleOf([...posts, ...members]);
    const taken = level.take(6);
    expect(taken.filter(({ url }) => url.includes('/people/'))).toHaveLength(1);
    for (const page of taken) level.has(page, []);
    expect(level.sampled().map(({ standsFor }) => standsFor)).toEqual([8, 8, 8, 8, 8, 4]);
  });

  it('takes pages that are called links first, at most two, as standing for themselves', () => {
    const named = [at('liens.html'), at('our-links/'), at('Bibliography.html'), at('linksammelbox.html')];
    const level = sampleOf([...flat(20), ...named]);
    const taken = level.take(6);
    expect(taken.filter(({ isChosen }) => isChosen).map(({ url }) => url)).toEqual([named[0], named[1]]);
    for (const page of taken) level.has(page, []);
    expect(level.take(20).some(({ isChosen }) => isChosen)).toBe(false);
    expect(level.sampled().slice(0, 2)).toEqual([
      { standsFor: 1, fresh: [] },
      { standsFor: 1, fresh: [] },
    ]);
  });

  it('reads no page twice', () => {
    const level = sampleOf(flat(10));
    const urls: string[] = [];
    while (level.unread > 0)
      for (const page of level.take(4)) {
        level.has(page, []);
        urls.push(page.url);
      }
    expect(new Set(urls).size).toBe(10);
    expect(urls).toHaveLength(10);
  });
});

describe('nextToRead', () => {
  it('looks at each level once, then where pages led on, or stand for most', () => {
    const [first, second] = [sampleOf(flat(20)), new LevelSample()];
    expect(nextToRead([first, second])).toBe(first);
    for (const page of first.take(6)) first.has(page, []);
    second.add(flat(26).slice(20));
    expect(nextToRead([first, second])).toBe(second);
    second.has({ url: at('chapter-u.html'), isChosen: false }, []);
    second.has({ url: at('chapter-v.html'), isChosen: false }, []);
    expect(nextToRead([first, second])).toBe(first);
    for (const page of first.take(6)) first.has(page, []);
    // two of six were read of the second, twelve of twenty of the first
    expect(nextToRead([first, second])).toBe(second);
    first.has(first.take(1)[0], flat(40).slice(30));
    expect(nextToRead([first, second])).toBe(first);
  });

  it('ends when all is read', () => {
    expect(nextToRead([new LevelSample()])).toBeUndefined();
  });
});
