import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pointerOf, pointerParts, reach, type Tree, textAt, textOf } from './tree';

describe('places in a tree', () => {
  it('are those of RFC 6901, section 5', () => {
    const tree = { foo: ['bar', 'baz'], '': 0, 'a/b': 1, 'c%d': 2, 'm~n': 8, ' ': 7 };
    expect(reach(tree, '')).toBe(tree);
    expect(reach(tree, '/foo')).toEqual(['bar', 'baz']);
    expect(reach(tree, '/foo/0')).toBe('bar');
    expect(reach(tree, '/a~1b')).toBe(1);
    expect(reach(tree, '/c%d')).toBe(2);
    expect(reach(tree, '/m~0n')).toBe(8);
    expect(reach(tree, '/ ')).toBe(7);
    expect(reach(tree, '/foo/2')).toBeUndefined();
    expect(reach(tree, '/nobody')).toBeUndefined();
  });

  it('lead through a list to the first element that has the name: XML has lists only where there are several', () => {
    const tree: Tree = { item: [{ note: 'a' }, { price: '12' }, { price: '13' }] };
    expect(textAt(tree, '/item/price')).toBe('12');
    expect(textAt({ item: { price: '12' } }, '/item/price')).toBe('12');
  });

  it('name nothing that an object has from elsewhere', () => {
    expect(reach({}, '/constructor')).toBeUndefined();
    expect(reach({ a: 'b' }, '/a/length')).toBeUndefined();
  });

  it('a pointer made of parts leads to where they lead', () => {
    fc.assert(
      fc.property(fc.array(fc.string(), { minLength: 1, maxLength: 5 }), fc.string(), (parts, leaf) => {
        const tree = parts.reduceRight<Tree>((inner, part) => Object.fromEntries([[part, inner]]), leaf);
        expect(pointerParts(pointerOf(parts))).toEqual(parts);
        expect(reach(tree, pointerOf(parts))).toBe(leaf);
      }),
    );
  });
});

describe('texts', () => {
  it('of numbers cannot be misread as grouped', () => {
    expect(textOf(1.234)).toBe('1.2340');
    expect(textOf(12.5)).toBe('12.5');
    expect(textOf(1234)).toBe('1234');
  });

  it('of elements of XML leave their attributes aside', () => {
    expect(textOf({ '#text': '12.50', '@currency': 'EUR' })).toBe('12.50');
    expect(textOf(['29', '30'])).toBe('29, 30');
    expect(textOf({ a: 'b' })).toBe('');
    expect(textOf(null)).toBe('');
  });
});
