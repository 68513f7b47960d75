import { expect, it } from 'vitest';
import { tally } from './tally';

it('counts words, what is said most first, and keeps the order of those said as often', () => {
  expect(tally(['bad past', 'too dear', 'dull', 'too dear', 'dull'])).toEqual([
    ['too dear', 2],
    ['dull', 2],
    ['bad past', 1],
  ]);
  expect(tally([])).toEqual([]);
});
