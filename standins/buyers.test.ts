import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BUYER_TEMPERS, type Buyer, buyersFor, type SellerAnswer, talkAt, WAITS_MS } from './buyers';
import { SaleRoom } from './sale-room';

const HOUR = 3_600_000;
const buyer = (temper: Buyer['temper'], limitMinor = 10_000): Buyer => ({
  id: 'b1',
  name: 'Hale and Pinch',
  temper,
  limitMinor,
  comesAt: 0,
});
const counter = (amountMinor: number, at = HOUR): SellerAnswer => ({ act: 'counter', amountMinor, at });
const LATER = 40 * HOUR;

describe('buyers', () => {
  it('deal by their tempers', () => {
    expect(talkAt(buyer('eager'), 9000, [], 0)).toMatchObject({ state: 'agreed', offerMinor: 9000 });
    expect(talkAt(buyer('eager'), 20_000, [], 0)).toMatchObject({ state: 'open', offerMinor: 9000 });
    expect(talkAt(buyer('patient'), 20_000, [], 0)).toMatchObject({ state: 'open', offerMinor: 5000 });
    expect(talkAt(buyer('patient'), 20_000, [counter(15_000)], LATER)).toMatchObject({
      state: 'open',
      offerMinor: 7500,
    });
    expect(talkAt(buyer('patient'), 20_000, [counter(9500)], LATER)).toMatchObject({
      state: 'agreed',
      offerMinor: 9500,
    });
    expect(talkAt(buyer('firm'), 20_000, [counter(9500)], LATER)).toMatchObject({ state: 'gone' });
    expect(talkAt(buyer('firm'), 20_000, [counter(8500)], LATER)).toMatchObject({ state: 'agreed' });
    expect(talkAt(buyer('dreamer'), 20_000, [], 0)).toMatchObject({ offerMinor: 2000 });
    expect(talkAt(buyer('dreamer'), 20_000, [counter(2100)], LATER)).toMatchObject({ state: 'gone' });
    expect(talkAt(buyer('curious'), 20_000, [], 0)).toMatchObject({ offerMinor: null });
    expect(talkAt(buyer('curious'), 20_000, [counter(9000)], LATER)).toMatchObject({ state: 'agreed' });
  });

  it('think for hours, and leave when nobody answers', () => {
    expect(talkAt(buyer('patient'), 20_000, [counter(9500)], HOUR + 1)).toMatchObject({ state: 'countered' });
    expect(talkAt(buyer('patient'), 20_000, [], WAITS_MS + 1)).toMatchObject({ state: 'gone' });
    expect(talkAt(buyer('patient'), 20_000, [counter(9000, WAITS_MS + 5)], WAITS_MS * 2)).toMatchObject({
      state: 'gone',
    });
  });

  it('never pay more than it is worth to them, never offer less than before, never turn back from an end', () => {
    const amounts = fc.array(fc.integer({ min: 100, max: 40_000 }), { maxLength: 6 });
    fc.assert(
      fc.property(
        fc.constantFrom(...BUYER_TEMPERS),
        fc.integer({ min: 1000, max: 30_000 }),
        fc.integer({ min: 100, max: 60_000 }),
        amounts,
        (temper, limit, ask, list) => {
          const answers = list.map((amount, n) => counter(amount, (1 + n * 12) * HOUR));
          let before = 0;
          let ended: string | null = null;
          for (let at = 0; at < 8 * 24 * HOUR; at += 3 * HOUR) {
            const talk = talkAt(buyer(temper, limit), ask, answers, at);
            if (!talk) continue;
            if (ended) expect(talk.state).toBe(ended);
            if (talk.state === 'agreed') expect(talk.offerMinor).toBeLessThanOrEqual(Math.max(limit, ask * 0.1 + 100));
            if (talk.offerMinor !== null && talk.state !== 'agreed') {
              expect(talk.offerMinor).toBeGreaterThanOrEqual(before);
              before = talk.offerMinor;
            }
            if (talk.state === 'agreed' || talk.state === 'gone') ended = talk.state;
          }
        },
      ),
    );
  });
});

describe('the room where names are sold', () => {
  const put = (room: SaleRoom, key: string, domain: string, now = 0, askMinor = 200) =>
    JSON.parse(
      String(
        room.answer('v.com', 'EUR', 'PUT', key, JSON.stringify({ domain, askMinor, currency: 'EUR', text: 't' }), now)
          .body,
      ),
    );
  const look = (room: SaleRoom, path: string, now: number) =>
    JSON.parse(String(room.answer('v.com', 'EUR', 'GET', path, '', now).body));

  it('takes a sale once, and only of what is the customer’s', () => {
    const room = new SaleRoom(
      null,
      (domain) => domain !== 'other.org',
      () => {},
    );
    expect(put(room, 'key-00001', 'mine.org')).toMatchObject({ state: 'listed', inquiries: [] });
    expect(put(room, 'key-00001', 'mine.org')).toMatchObject({ state: 'listed' });
    expect(put(room, 'key-00001', 'mine.org', 0, 300)).toHaveProperty('error');
    expect(put(room, 'key-00002', 'mine.org')).toMatchObject({
      state: 'refused',
      reason: 'it is offered here already',
    });
    expect(put(room, 'key-00003', 'other.org')).toMatchObject({ state: 'refused' });
  });

  it('sells it to one of those who come, and knows it all after a start', () => {
    const path = join(mkdtempSync(join(tmpdir(), 'sales-')), 'journal');
    const sold: string[] = [];
    const room = new SaleRoom(
      path,
      () => true,
      (domain) => sold.push(domain),
    );
    const names = Array.from({ length: 24 }, (_, n) => `sold${n}.org`);
    for (const [n, name] of names.entries()) put(room, `key-0000${n}`, name);
    const DAYS = 30;
    for (let day = 0; day < DAYS; day++)
      for (const [n] of names.entries())
        for (const { inquiry, state, offerMinor } of look(room, `key-0000${n}`, day * 24 * HOUR).inquiries)
          if (state === 'open') {
            const body = JSON.stringify(
              offerMinor === null ? { inquiry, act: 'counter', amountMinor: 500 } : { inquiry, act: 'accept' },
            );
            const answer = room.answer(
              'v.com',
              'EUR',
              'PUT',
              `key-0000${n}/answers/answer-${n}-${day}-${inquiry}`,
              body,
              day * 24 * HOUR,
            );
            expect(answer.status).toBe(200);
            // who was there beside has lost it by now
            if (offerMinor !== null) break;
          }
    const again = new SaleRoom(
      path,
      () => true,
      () => {},
    );
    for (const [n] of names.entries()) {
      const sale = look(room, `key-0000${n}`, DAYS * 24 * HOUR);
      expect(look(again, `key-0000${n}`, DAYS * 24 * HOUR)).toEqual(sale);
      expect(sale.state).toBe('sold');
      expect(sale.inquiries.filter(({ state }: { state: string }) => state === 'agreed')).toHaveLength(1);
      expect(sale.feesMinor).toBe(Math.round(sale.finalMinor / 10));
    }
    expect(new Set(sold).size).toBe(24);
  });

  it('is told nothing by who is not there any more, and takes back what nobody has bought', () => {
    const room = new SaleRoom(
      null,
      () => true,
      () => {},
    );
    put(room, 'key-00001', 'mine.org', 0, 9_999_900);
    const [first] = buyersFor('v.com mine.org', 1, 0);
    const late = first.comesAt + WAITS_MS + HOUR;
    const answer = room.answer(
      'v.com',
      'EUR',
      'PUT',
      'key-00001/answers/answer-01',
      JSON.stringify({ inquiry: first.id, act: 'accept' }),
      late,
    );
    expect(answer.status).toBe(409);
    expect(JSON.parse(String(room.answer('v.com', 'EUR', 'DELETE', 'key-00001', '', late).body)).state).toBe(
      'withdrawn',
    );
    expect(room.answer('v.com', 'EUR', 'DELETE', 'key-00001', '', late).status).toBe(409);
  });
});
