import { describe, expect, it } from 'vitest';
import { countKnown } from './known';
import { indexOf, row } from './testing';

describe('of how many domains a fact is known', () => {
  const { columns } = indexOf(
    [
      row(1, { strength: 4, trust: 2, registrar: 'Coombe Names', age: 1_000_000 }),
      row(2, { strength: 0, venue: null }),
      row(3),
    ],
    [
      [7, 1],
      [7, 3],
      [8, 3],
    ],
  );

  it('counts figures, nought among them, times, choices and sets', () => {
    expect(countKnown(columns, 'strength')).toBe(2);
    expect(countKnown(columns, 'trust')).toBe(1);
    expect(countKnown(columns, 'trustShare')).toBe(1);
    expect(countKnown(columns, 'age')).toBe(1);
    expect(countKnown(columns, 'registrar')).toBe(1);
    // in two sources, and one domain
    expect(countKnown(columns, 'source')).toBe(2);
    expect(countKnown(columns, 'tag')).toBe(0);
  });

  it('is all of them for what every row has, and not told for what is looked for when it is asked about', () => {
    for (const fact of ['name', 'length', 'ending', 'phase', 'words', 'judged'] as const)
      expect([fact, countKnown(columns, fact)]).toEqual([fact, 3]);
    expect(countKnown(columns, 'nameSubject')).toBeNull();
  });
});
