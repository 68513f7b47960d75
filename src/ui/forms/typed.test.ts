import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { amount, day, lines, linesOf, number, numberOrNone, sentBy, someAmount, words, wordsOf } from './typed';

const said = (schema: z.ZodType, typed: unknown) => schema.safeParse(typed).error?.issues.map(({ message }) => message);

describe('what is typed', () => {
  it('as words is parted by commas, semicolons and white space', () => {
    expect(wordsOf(' bees, honey;hive\n wax ')).toEqual(['bees', 'honey', 'hive', 'wax']);
    expect(words.parse('')).toEqual([]);
  });

  it('one a line is read without the empty ones', () => {
    expect(linesOf(' ^/links \r\n\n^/shop/\n')).toEqual(['^/links', '^/shop/']);
    expect(lines.parse('')).toEqual([]);
  });

  it.each([
    ['500', 50_000],
    ['12,5', 1250],
    ['', null],
  ])('as an amount, %j, comes to %j minor units', (typed, minor) => expect(amount().parse(typed)).toBe(minor));

  it('as an amount is told what it is when it is none, or has to be some', () => {
    expect(said(amount('the budget'), 'much')).toEqual(['The budget is no amount: write it as 500 or 500.50.']);
    expect(said(someAmount('the sum'), '')).toEqual(['Write the sum as 140 or 140.50.']);
    expect(said(someAmount('the sum'), '0')).toEqual(['Write the sum as 140 or 140.50.']);
  });

  it.each([
    ['3', {}, 3],
    [' 2,5 ', {}, 2.5],
    ['', {}, null],
  ])('as a number or none, %j, is %j', (typed, bounds, value) => expect(numberOrNone(bounds).parse(typed)).toBe(value));

  it.each([
    ['', {}, 'Write a number.'],
    ['few', {}, '"few" is no number.'],
    ['0', { least: 1 }, 'At least 1.'],
    ['11', { most: 10 }, 'A number from 0 to 10.'],
    ['1.5', { isWhole: true }, 'A whole number.'],
  ])('as a number, %j, is refused', (typed, bounds, message) => expect(said(number(bounds), typed)).toEqual([message]));

  it('as a day begins at midnight in UTC', () => {
    expect(day.parse('2026-11-26')).toBe(Date.UTC(2026, 10, 26));
    expect(day.parse('')).toBeNull();
    expect(said(day, 'soon')).toEqual(['Write the day as 2026-11-26.']);
  });
});

describe('what goes with a call', () => {
  const contract = z.object({ endings: z.array(z.string().regex(/^[a-z]+$/, 'an ending is written like org')) });
  const typed = sentBy(z.object({ endings: words }), contract);

  it('is held against its contract, and what is wrong is said where it was typed', () => {
    expect(typed.parse({ endings: 'org, net' })).toEqual({ endings: ['org', 'net'] });
    const { error } = typed.safeParse({ endings: 'org, n3t' });
    expect(error?.issues).toMatchObject([{ path: ['endings', 1], message: 'an ending is written like org' }]);
  });
});
