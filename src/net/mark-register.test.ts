import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NetError } from './errors';
import { readMarks } from './mark-register';

const answer = (marks: unknown) => JSON.stringify({ register: 'Register', marks });

describe('readMarks', () => {
  it('reads marks, what may be missing left empty, and nothing that could turn a line', () => {
    expect(readMarks(answer([{ number: '1', mark: '\u202eHoney\u0007 Harbour', classes: [29, 30] }]), 'x')).toEqual([
      { register: 'Register', number: '1', mark: 'Honey Harbour', owner: '', classes: '29, 30', status: 'registered' },
    ]);
  });
  it.each([
    ['no JSON', '<html>'],
    ['something else', '{"marks":1}'],
    ['a class that is none', answer([{ number: '1', mark: 'x', classes: [46] }])],
    ['more marks than anybody looks at', answer(Array.from({ length: 1001 }, () => ({ number: '1', mark: 'x' })))],
  ])('refuses %s', (_, text) => expect(() => readMarks(text, 'x')).toThrow(NetError));
  it('never fails but by saying so', () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.json()), (text) => {
        try {
          readMarks(text, 'x');
        } catch (error) {
          expect(error).toBeInstanceOf(NetError);
        }
      }),
    );
  });
});
