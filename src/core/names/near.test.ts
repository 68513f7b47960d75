import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { nearLabels } from './near';

describe('labels one edit away', () => {
  it('are those with a letter less, more, another, or two swapped', () => {
    const near = nearLabels('hive');
    for (const one of ['hve', 'hives', 'hise', 'ihve', 'hi-ve']) expect(near).toContain(one);
    for (const one of ['hive', '-hive', 'hive-', 'hove2', '']) expect(near).not.toContain(one);
  });

  it('never exceed what a label may be, and work both ways', () => {
    expect(nearLabels('a'.repeat(63)).every(({ length }) => length <= 63)).toBe(true);
    const label = fc.stringMatching(/^[a-z0-9]{2,8}$/);
    fc.assert(
      fc.property(label, fc.nat(), (one, pick) => {
        const near = nearLabels(one);
        expect(new Set(near).size).toBe(near.length);
        expect(nearLabels(near[pick % near.length])).toContain(one);
      }),
    );
  });
});
