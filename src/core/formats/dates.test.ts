import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type DateOrder, orderOf, parseDate } from './dates';

describe('parseDate', () => {
  const NOW = Date.UTC(2026, 10, 29, 10);
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
    ['05/11/2026', null],
    ['05/05/2026', '2026-05-05T00:00:00.000Z'],
    ['28-Nov-26', '2026-11-28T00:00:00.000Z'],
    ['28 novembre 2026 14h30', '2026-11-28T14:30:00.000Z'],
    ['28. November 2026 um 14:30 Uhr', '2026-11-28T14:30:00.000Z'],
    ['28 de noviembre de 2026', '2026-11-28T00:00:00.000Z'],
    ['Nov 24, 2026, 2:00 PM PST', '2026-11-24T22:00:00.000Z'],
    ['11/28/2026 12:05 am', '2026-11-28T00:05:00.000Z'],
    ['2026-11-28 14:00 UTC+2', '2026-11-28T12:00:00.000Z'],
    ['2026-11-28T14:00:00.123+0530', '2026-11-28T08:30:00.000Z'],
    ['2026-11-28T14:00:00 America/New_York', '2026-11-28T19:00:00.000Z'],
    ['Sat Nov 28 2026 14:00:00 GMT+0100 (Central European Standard Time)', '2026-11-28T13:00:00.000Z'],
    ['20261128T140000Z', '2026-11-28T14:00:00.000Z'],
    ['1795161650', '2026-11-20T08:00:50.000Z'],
    ['1795161650133', '2026-11-20T08:00:50.133Z'],
    ['46354.75', '2026-11-28T18:00:00.000Z'],
    ['2d 5h', '2026-12-01T15:00:00.000Z'],
    ['in 3 hours', '2026-11-29T13:00:00.000Z'],
    ['1 day, 04:12:33', '2026-11-30T14:12:33.000Z'],
    ['5 minutes ago', '2026-11-29T09:55:00.000Z'],
    ['noch 2 Tage', '2026-12-01T10:00:00.000Z'],
    ['tomorrow 14:00', '2026-11-30T14:00:00.000Z'],
    ['14:00', null],
    ['12', null],
    ['2026-11-28T14:00:00.000', '2026-11-28T14:00:00.000Z'],
    ['24 Foo 2026', null],
    ['', null],
  ];
  it.each(cases)('reads %j as %j', (text, iso) => {
    const at = parseDate(text, { order: null, now: NOW });
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

describe('the order of a column', () => {
  it('is told by the days that can be no month', () => {
    expect(orderOf(['05/11/2026', '28/11/2026', ''])).toEqual({ order: 'day-first', ambiguous: 1 });
    expect(orderOf(['05-11-26', '11-28-26'])).toEqual({ order: 'month-first', ambiguous: 1 });
    expect(orderOf(['05/11/2026', '06/11/2026'])).toEqual({ order: null, ambiguous: 2 });
    expect(orderOf(['5.11.2026', '2026-11-05'])).toEqual({ order: null, ambiguous: 0 });
  });
  it('is the order in which its dates are read, and what does not go by it is not read', () => {
    const read = (text: string, order: DateOrder) => {
      const at = parseDate(text, { order, now: null });
      return at === null ? null : new Date(at).toISOString().slice(0, 16);
    };
    expect(read('05/11/2026 2:30 PM', 'day-first')).toBe('2026-11-05T14:30');
    expect(read('05/11/2026', 'month-first')).toBe('2026-05-11T00:00');
    expect(read('11/28/2026', 'day-first')).toBeNull();
    expect(read('5.11.2026', 'month-first')).toBe('2026-11-05T00:00');
  });
  it('does not concern zones and times that are left, which titles name', () => {
    const given = { order: null, now: Date.UTC(2026, 10, 29), zone: -300 };
    expect(parseDate('2026-11-28 14:00', given)).toBe(Date.UTC(2026, 10, 28, 19));
    expect(parseDate('2026-11-28', given)).toBe(Date.UTC(2026, 10, 28));
    expect(parseDate('2026-11-28 14:00Z', given)).toBe(Date.UTC(2026, 10, 28, 14));
    expect(parseDate('26:10:05', { ...given, isLeft: true })).toBe(Date.UTC(2026, 10, 30, 2, 10, 5));
    expect(parseDate('26:10:05', given)).toBeNull();
  });
});
