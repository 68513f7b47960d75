import { describe, expect, it } from 'vitest';
import { readBid } from './stages';

describe('readBid', () => {
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
  ])('reads %j', (text, minor) => expect(readBid(text)).toBe(minor));
});
