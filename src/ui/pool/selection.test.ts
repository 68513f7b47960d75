import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EVERYTHING, isSelected, NOTHING, type Selection, selectedCount, toggled, whichOf, withIds } from './selection';

describe('Selection', () => {
  it('counts and names what it holds', () => {
    const some = withIds(NOTHING, [1, 2, 3], true);
    expect(selectedCount(some, 785_000)).toBe(3);
    expect(whichOf(some, [], false)).toEqual({ ids: [1, 2, 3] });
    const most = toggled(EVERYTHING, 7);
    expect(selectedCount(most, 785_000)).toBe(784_999);
    expect(isSelected(most, 7)).toBe(false);
    expect(isSelected(most, 8)).toBe(true);
    expect(whichOf(most, [], true)).toEqual({ parts: [], withExcluded: true, except: [7] });
  });

  it('holds what a plain set would after any clicks', () => {
    const universe = Array.from({ length: 12 }, (_, id) => id);
    const step = fc.oneof(
      fc.record({ toggle: fc.nat(11) }),
      fc.record({ add: fc.array(fc.nat(11)) }),
      fc.record({ drop: fc.array(fc.nat(11)) }),
      fc.constant('all' as const),
      fc.constant('none' as const),
    );
    fc.assert(
      fc.property(fc.array(step), (steps) => {
        let selection: Selection = NOTHING;
        let plain = new Set<number>();
        for (const one of steps) {
          if (one === 'all') [selection, plain] = [EVERYTHING, new Set(universe)];
          else if (one === 'none') [selection, plain] = [NOTHING, new Set()];
          else if ('toggle' in one) {
            selection = toggled(selection, one.toggle);
            if (!plain.delete(one.toggle)) plain.add(one.toggle);
          } else if ('add' in one) {
            selection = withIds(selection, one.add, true);
            for (const id of one.add) plain.add(id);
          } else {
            selection = withIds(selection, one.drop, false);
            for (const id of one.drop) plain.delete(id);
          }
        }
        expect(universe.filter((id) => isSelected(selection, id))).toEqual(universe.filter((id) => plain.has(id)));
        expect(selectedCount(selection, universe.length)).toBe(plain.size);
      }),
    );
  });
});
