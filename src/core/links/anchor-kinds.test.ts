import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ANCHOR_KINDS } from './anchor-kind-names';
import { anchorKind, isNaming } from './anchor-kinds';

const NAME = 'ossenmerebeeclub.org';
const SUBJECT = new Set(['bee', 'hive', 'swarm']);

describe('anchorKind', () => {
  it.each([
    ['Ossenmere Bee Club', 'name'],
    ['the bee club', 'subject'],
    ['bee club', 'name'],
    ['http://ossenmerebeeclub.org/x', 'address'],
    ['ossenmerebeeclub.org', 'address'],
    ['www.ossenmerebeeclub.org', 'address'],
    ['click here', 'generic'],
    ['', 'generic'],
    ['best casino bonus', 'money'],
    ['casino at Ossenmere Bee Club', 'money'],
    ['казино онлайн', 'other-script'],
    ['swarms in spring', 'subject'],
    ['a list of places', 'other'],
  ])('of "%s"', (anchor, kind) => expect(anchorKind(anchor, NAME, SUBJECT)).toBe(kind));

  it('does not call the own script of a name another', () => {
    expect(anchorKind('казино', 'xn--80aaxitdbjk.com')).not.toBe('other-script');
  });

  it('finds one kind for any text, and naming is of the kinds that name', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 60 }), (text) => {
        const kind = anchorKind(text, NAME, SUBJECT);
        expect(ANCHOR_KINDS).toContain(kind);
        if (kind === 'name' || kind === 'generic') expect(isNaming(text.trim(), NAME)).toBe(true);
      }),
    );
  });
});
