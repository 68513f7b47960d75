import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseDate, parseNumber, parsePrice } from './values';

describe('parseDate', () => {
  const cases: [text: string, iso: string | null][] = [
    ['2026-11-24', '2026-11-24T00:00:00.000Z'],
    ['2026-11-24T18:05:06Z', '2026-11-24T18:05:06.000Z'],
    ['2026-11-24 18:05', '2026-11-24T18:05:00.000Z'],
    ['2026-11-24T18:05:06+02:00', '2026-11-24T16:05:06.000Z'],
    ['24.11.2026', '2026-11-24T00:00:00.000Z'],
    ['24.11.2026 18:05', '2026-11-24T18:05:00.000Z'],
    ['11/24/2026', '2026-11-24T00:00:00.000Z'],
    ['24/11/2026', '2026-11-24T00:00:00.000Z'],
    ['2026/11/24', '2026-11-24T00:00:00.000Z'],
    ['20261124', '2026-11-24T00:00:00.000Z'],
    ['24-Nov-2026', '2026-11-24T00:00:00.000Z'],
    ['Tue, 24 Nov 2026 18:05:06 GMT', '2026-11-24T18:05:06.000Z'],
    ['November 24, 2026', '2026-11-24T00:00:00.000Z'],
    ['31.06.2026', null],
    ['2026-13-01', null],
    ['soon', null],
    ['24 Foo 2026', null],
    ['', null],
  ];
  it.each(cases)('reads %j as %j', (text, iso) => {
    const at = parseDate(text);
    expect(at === null ? null : new Date(at).toISOString()).toBe(iso);
  });
  it('gives back any ISO time', () => {
    fc.assert(
      fc.property(fc.date({ min: new Date(0), max: new Date('2150-01-01'), noInvalidDate: true }), (date) => {
        expect(parseDate(date.toISOString())).toBe(Math.floor(date.getTime() / 1000) * 1000);
      }),
    );
  });
});

describe('parseNumber', () => {
  const cases: [text: string, value: number | null][] = [
    ['1234', 1234],
    ['1,234', 1234],
    ['1.234', 1234],
    ['1 234 567', 1234567],
    ['1,234,567.5', 1234567.5],
    ['1.234.567,5', 1234567.5],
    ['4.5', 4.5],
    ['4,5', 4.5],
    ['0.125', 0.125],
    ['1.2k', 1200],
    ['1.234k', 1234],
    ['3M', 3e6],
    ['-7', -7],
    ['1,23,4', null],
    ['twelve', null],
    ['', null],
    ['-', null],
  ];
  it.each(cases)('reads %j as %j', (text, value) => expect(parseNumber(text)).toBe(value));
});

describe('parsePrice', () => {
  const cases: [text: string, minor: number | null, currency: string | null][] = [
    ['$1,250', 125000, 'USD'],
    ['12,50 €', 1250, 'EUR'],
    ['£9.99', 999, 'GBP'],
    ['EUR 140', 14000, 'EUR'],
    ['69', 6900, null],
    ['offer', null, null],
    ['-5', null, null],
  ];
  it.each(cases)('reads %j', (text, minor, currency) => {
    expect(parsePrice(text)).toEqual(minor === null ? null : { minor, currency });
  });
});
