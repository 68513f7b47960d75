import fc from 'fast-check';
import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { type CalendarEntry, deadlineCalendar } from '../formats/calendar';
import { intoDays, nextDay, startOfDay, zonedTime } from './days';
import { type DeadlineFacts, deadlinesOf } from './deadline';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const NOW = Date.UTC(2026, 10, 20, 8);
const facts = (part: Partial<DeadlineFacts> = {}): DeadlineFacts => ({
  domainId: 7,
  name: 'pellgatehives.org',
  isTaken: false,
  expiresAt: null,
  window: null,
  listedDropAt: null,
  askAt: null,
  recordSource: null,
  listings: [],
  ...part,
});

describe('deadlinesOf', () => {
  it('renew what is owned, in place of the expiry of its record', () => {
    const owned = { isTaken: true, expiresAt: NOW + 5 * DAY, renewal: { at: NOW + 4 * DAY, words: ' for 12 EUR' } };
    expect(deadlinesOf(facts(owned), NOW).map(({ kind, words }) => [kind, words])).toEqual([
      ['renewal', 'renew it for 12 EUR'],
    ]);
    const asked = {
      key: '1-b1',
      until: NOW + 1000,
      buyer: 'Hale',
      words: ', offers 150 EUR',
      venue: 'Saltmarch Exchange',
    };
    expect(
      deadlinesOf(facts({ ...owned, inquiries: [asked, { ...asked, key: '1-b2', until: NOW - 1 }] }), NOW)[0],
    ).toMatchObject({
      kind: 'answer',
      at: NOW + 1000,
      words: 'Hale waits for an answer, offers 150 EUR',
      origin: 'as Saltmarch Exchange says',
    });
    expect(deadlinesOf(facts({ ...owned, renewal: null }), NOW).map(({ kind }) => kind)).toEqual(['expiry']);
  });

  it('tells closings, price steps, drops, expiries and re-checks, in order of time', () => {
    const all = deadlinesOf(
      facts({
        isTaken: true,
        expiresAt: NOW + 90 * HOUR,
        askAt: NOW + HOUR,
        window: { from: NOW + 50 * HOUR, to: NOW + 52 * HOUR, isConditional: false, reasons: ['expired 70 days ago'] },
        listings: [
          {
            kind: 'falling',
            words: 'falling, 140 EUR',
            venue: 'Saltmarch Exchange',
            sourceId: 3,
            closingAt: NOW + 30 * HOUR,
            nextStep: { at: NOW + 20 * HOUR, words: 'to 105 EUR' },
          },
        ],
      }),
      NOW,
    );
    expect(all.map(({ kind }) => kind)).toEqual(['re-check', 'price-step', 'closing', 'drop', 'expiry']);
    expect(new Set(all.map(({ uid }) => uid)).size).toBe(5);
    expect(all[3]).toMatchObject({ until: NOW + 52 * HOUR, origin: 'expired 70 days ago' });
    expect(all[1].words).toBe('price falls at Saltmarch Exchange: to 105 EUR');
  });
  it('keeps the name of a deadline while its time moves, and drops what is over', () => {
    const drop = (from: number) =>
      deadlinesOf(facts({ window: { from, to: from + HOUR, isConditional: false, reasons: [] } }), NOW);
    expect(drop(NOW + HOUR)[0].uid).toBe(drop(NOW + 30 * HOUR)[0].uid);
    expect(drop(NOW - 3 * HOUR)).toEqual([]);
    expect(drop(NOW - HOUR / 2)).toHaveLength(1);
  });
  it('does not expect the drop of a name whose owner may well renew', () => {
    const window = { from: NOW + HOUR, to: NOW + 2 * HOUR, isConditional: true, reasons: [] };
    expect(deadlinesOf(facts({ isTaken: true, window }), NOW)).toEqual([]);
    expect(deadlinesOf(facts({ listedDropAt: NOW + HOUR }), NOW)[0]).toMatchObject({
      kind: 'drop',
      origin: 'as a list says',
    });
  });
});

describe('days of a zone', () => {
  it('are 23 and 25 hours long when clocks change', () => {
    const length = (key: string, zone: string) => (startOfDay(nextDay(key), zone) - startOfDay(key, zone)) / HOUR;
    expect(length('2027-03-28', 'Europe/London')).toBe(23);
    expect(length('2026-10-25', 'Europe/London')).toBe(25);
    expect(length('2026-11-20', 'Europe/London')).toBe(24);
    // midnight itself is skipped here
    expect(length('2026-09-06', 'America/Santiago')).toBe(23);
    expect(zonedTime(startOfDay('2026-09-06', 'America/Santiago'), 'America/Santiago').time).toBe('01:00');
  });
  it('hold what a clock there shows', () => {
    const at = Date.UTC(2026, 9, 25, 0, 30);
    expect(zonedTime(at, 'Europe/London')).toEqual({ day: '2026-10-25', time: '01:30' });
    expect(zonedTime(at + HOUR, 'Europe/London')).toEqual({ day: '2026-10-25', time: '01:30' });
    expect(zonedTime(Date.UTC(2026, 10, 20, 23, 5), 'Pacific/Auckland')).toEqual({ day: '2026-11-21', time: '12:05' });
    expect(() => zonedTime(at, 'Merrow/Vale')).toThrow(RangeError);
  });
  it('take every item once, in order, each within its day', () => {
    const zone = fc.constantFrom(
      'UTC',
      'Europe/London',
      'America/St_Johns',
      'Asia/Kathmandu',
      'Pacific/Auckland',
      'America/Santiago',
    );
    const moments = fc.array(fc.integer({ min: 0, max: 400 * 24 * 60 }), { minLength: 1, maxLength: 30 });
    fc.assert(
      fc.property(zone, moments, (name, minutes) => {
        const items = minutes.sort((a, b) => a - b).map((minute) => ({ at: NOW + minute * 60_000 }));
        const days = intoDays(items, name);
        expect(days.flatMap((day) => day.items)).toEqual(items);
        for (const { key, from, to, items: inside } of days) {
          expect(zonedTime(from, name).day).toBe(key);
          expect(zonedTime(from - 60_000, name).day < key).toBe(true);
          for (const { at } of inside) {
            expect(zonedTime(at, name).day).toBe(key);
            expect(at >= from && at < to).toBe(true);
          }
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('the calendar', () => {
  const entry = (part: Partial<CalendarEntry> = {}): CalendarEntry => ({
    uid: 'drop-7',
    kind: 'drop',
    at: Date.UTC(2026, 9, 25, 0, 30),
    until: Date.UTC(2026, 9, 25, 2, 30),
    name: 'pellgatehives.org',
    words: 'expected to drop',
    origin: 'expired 70 days ago; pending delete of 5 days, and more; "quoted"\nnext line',
    sequence: 3,
    changedAt: NOW,
    isCancelled: false,
    ...part,
  });
  const read = (entries: CalendarEntry[], minutes = 90) => {
    const text = deadlineCalendar(entries, minutes, NOW, (name) => `http://127.0.0.1:4310/domains/${name}`);
    const calendar = new ICAL.Component(ICAL.parse(text));
    return { text, calendar, events: calendar.getAllSubcomponents('vevent').map((one) => new ICAL.Event(one)) };
  };

  it('is read by a parser of another hand, with times, texts and alarms as they are', () => {
    const { text, calendar, events } = read([entry()]);
    expect(text.endsWith('END:VCALENDAR\r\n')).toBe(true);
    expect(text.replaceAll('\r\n', '')).not.toMatch(/[\r\n]/);
    expect(calendar.getFirstPropertyValue('version')).toBe('2.0');
    expect(calendar.getFirstPropertyValue('prodid')).toContain('Jam Ladle');
    const [event] = events;
    expect(event.uid).toBe('drop-7@jam-ladle');
    expect(event.sequence).toBe(3);
    expect(event.summary).toBe('pellgatehives.org expected to drop');
    expect(event.description).toBe(entry().origin);
    expect(event.startDate.toJSDate().getTime()).toBe(entry().at);
    expect(event.endDate.toJSDate().getTime()).toBe(entry().until);
    const alarm = event.component.getFirstSubcomponent('valarm');
    expect(String(alarm?.getFirstPropertyValue('trigger'))).toBe('-PT1H30M');
    expect(alarm?.getFirstPropertyValue('action')).toBe('DISPLAY');
    expect(event.component.getFirstPropertyValue('url')).toBe('http://127.0.0.1:4310/domains/pellgatehives.org');
  });
  it('keeps to the lengths and ends of lines of RFC 5545', () => {
    const { text } = read([
      entry({ origin: 'ä'.repeat(300), words: 'closes at Saltmarch Exchange: auction, 140 EUR' }),
    ]);
    for (const line of text.trimEnd().split('\r\n')) {
      expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
      expect(line).not.toMatch(/[\r\n]/);
    }
  });
  it('has no alarm where none is wanted, nor for a re-check, and tells what is cancelled', () => {
    expect(read([entry()], 0).events[0].component.getFirstSubcomponent('valarm')).toBeNull();
    expect(
      read([entry({ kind: 're-check', until: null })]).events[0].component.getFirstSubcomponent('valarm'),
    ).toBeNull();
    const cancelled = read([entry({ isCancelled: true })]).events[0].component;
    expect(cancelled.getFirstPropertyValue('status')).toBe('CANCELLED');
  });
  it('is a calendar also when there is nothing in it', () => {
    expect(read([]).events).toEqual([]);
  });
});
