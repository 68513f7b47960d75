import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { carriedOutcome, tallyLog } from './access-log';

const line = (path: string, status = 301, program = 'Mozilla/5.0', time = '26/Nov/2026:23:40:01 +0100') =>
  `198.51.100.7 - - [${time}] "GET ${path} HTTP/1.1" ${status} 178 "http://tollbinders.org/old" "${program}"`;

describe('the log of a web server', () => {
  it('tells what old addresses got, by people', () => {
    const tally = tallyLog([
      line('/swarms.html'),
      line('/swarms.html', 308),
      line('/guide.html?page=2', 410),
      line('/', 200),
      line('/swarms.html', 301, 'Valebot/1.0'),
      '198.51.100.7 - - [26/Nov/2026:23:41:00 +0100] "HEAD /swarms.html HTTP/1.1" 301 0',
      '198.51.100.7 - - [26/Nov/2026:23:41:00 +0100] "GET http://umberleybees.org/old HTTP/1.1" 301 0',
      'no line of a log',
      '',
    ]);
    expect([...tally.moved]).toEqual([
      ['/swarms.html', 2],
      ['/old', 1],
    ]);
    expect([...tally.gone]).toEqual([['/guide.html?page=2', 1]]);
    expect(tally).toMatchObject({
      lines: 8,
      aside: 1,
      robots: 1,
      from: Date.UTC(2026, 10, 26, 22, 40, 1),
      to: Date.UTC(2026, 10, 26, 22, 41),
    });
  });

  it('is read whatever stands in it, and no line is lost', () => {
    const piece = fc.oneof(
      fc.string(),
      fc.constant(line('/a')),
      fc.string().map((text) => line(`/${text}`)),
      fc.constant(line('/a', 301, 'x\\"y')),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 20 }), (lines) => {
        const tally = tallyLog(lines);
        const counted = [...tally.moved.values(), ...tally.gone.values()].reduce((sum, one) => sum + one, 0);
        expect(counted + tally.aside + tally.robots).toBeLessThanOrEqual(tally.lines);
        expect(tally.lines).toBe(lines.filter((one) => one.trim() !== '').length);
      }),
    );
    expect(tallyLog([line('/a', 301, 'x', '99/Xyz/2026:00:00:00 +0000')]).aside).toBe(1);
    const endless = tallyLog([
      `198.51.100.7 - - [26/Nov/2026:23:40:01 +0100] "GET ${'/a'.repeat(40_000)}`,
      `"${'\\"'.repeat(9000)}`,
    ]);
    expect(endless).toMatchObject({ lines: 2, aside: 2 });
  });

  it('is held against the rules', () => {
    const hits = new Map([
      ['/swarms', 30],
      ['/guide', 10],
      ['/forgotten', 5],
      ['/gone', 2],
    ]);
    const rules = new Map([
      ['/swarms', { to: 'https://a.org/swarms', confidence: 0.9 }],
      ['/guide', { to: 'https://a.org/', confidence: 0.2 }],
      ['/gone', { to: null, confidence: 0 }],
    ]);
    expect(carriedOutcome(hits, rules)).toEqual({
      came: 47,
      moved: 40,
      relevant: 29,
      missed: [{ path: '/forgotten', requests: 5 }],
    });
  });
});
