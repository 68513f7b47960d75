import { describe, expect, it } from 'vitest';
import { readAmount } from './typed-amount';

describe('readAmount', () => {
  it.each([
    ['140', 14000],
    ['1,250', 125000],
    ['1 250.50', 125050],
    ['12,5', 1250],
    ['', null],
    ['  ', null],
    ['much', undefined],
    ['-5', undefined],
    ['1.234567', undefined],
  ])('reads %j', (text, minor) => expect(readAmount(text)).toBe(minor));
});
