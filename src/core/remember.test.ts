import { describe, expect, it } from 'vitest';
import { remember } from './remember';

describe('remember', () => {
  it('answers a text once, nothing found as well, and forgets when there are too many', () => {
    const asked: string[] = [];
    const of = remember((text) => {
      asked.push(text);
      return text === 'none' ? undefined : text.length;
    }, 2);
    expect([of('ab'), of('ab'), of('none'), of('none')]).toEqual([2, 2, undefined, undefined]);
    expect(asked).toEqual(['ab', 'none']);
    of('c');
    of('ab');
    expect(asked).toEqual(['ab', 'none', 'c', 'ab']);
  });
});
