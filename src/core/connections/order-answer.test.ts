import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readAnswer } from './answer';
import { Connection, type Description, RESULTS } from './connection';
import { orderFilling, readOrderReply, resultOf } from './order-answer';
import { requestOf, requestText } from './request';
import { masked, secretsOf } from './template';
import { AnswerFault } from './tree';

const ORDER = {
  key: 'k-1',
  domain: 'tarnhives.org',
  kind: 'bid',
  amountMinor: 9000,
  currency: 'EUR',
  number: null,
} as const;
const described = (rest: object = {}): Connection =>
  Connection.parse({
    id: 'bids',
    title: 'Umberley bids',
    use: 'orders',
    venue: 'Umberley Lots',
    kinds: ['bid'],
    currency: 'EUR',
    address: 'https://api.umberleylots.example/bid?lot={domain}',
    format: 'json',
    fields: { result: { at: '/state' }, price: { at: '/price' }, closing: { at: '/ends' }, reason: { at: '/why' } },
    ...rest,
  });
const read = (value: object, rest: object = {}) => {
  const description = described(rest);
  return readOrderReply(description, readAnswer(JSON.stringify(value), 'json', description.entries, ''), ORDER, 0);
};

describe('the word that says how an order stands', () => {
  it.each([
    ['Winning', 'bid', 'leading'],
    ['OUT_BID', 'bid', 'outbid'],
    ['success', 'bid', 'waiting'],
    ['true', 'register', 'won'],
    ['pendingCreate', 'register', 'waiting'],
    ['success', 'buy', 'waiting'],
    ['Insufficient funds', 'buy', 'refused'],
    ['caught', 'backorder', 'won'],
  ] as const)('%s of a %s: %s', (word, kind, result) => expect(resultOf(word, {}, kind)).toBe(result));

  it('is nothing where nobody knows it, and what the description says it is', () => {
    expect(resultOf('', {}, 'bid')).toBeNull();
    expect(resultOf('perhaps', {}, 'bid')).toBeNull();
    expect(resultOf('Vorne', { leading: 'vorne, erster' }, 'bid')).toBe('leading');
    expect(resultOf('success', { refused: 'success' }, 'register')).toBe('refused');
  });

  it('never means a gain where only a refusal is meant', () => {
    const said = fc.constantFrom('not', 'un', 'no ');
    fc.assert(
      fc.property(said, fc.constantFrom('won', 'completed', 'registered', 'leading', 'success'), (no, word) => {
        expect(resultOf(`${no}${word}`, {}, 'register')).not.toBe('won');
      }),
    );
  });
});

describe('an answer about an order', () => {
  it('has its price in the currency of the order only', () => {
    expect(read({ state: 'winning', price: 41.5, ends: '2026-12-03T10:00:00Z' })).toEqual({
      result: 'leading',
      reason: null,
      number: null,
      priceMinor: 4150,
      closesAt: Date.UTC(2026, 11, 3, 10),
      bids: null,
    });
    expect(read({ state: 'winning', price: 'USD 41.50' }).priceMinor).toBeNull();
    expect(read({ state: 'winning', price: 4150 }, { isMinor: true }).priceMinor).toBe(4150);
  });

  it('about another domain, or without a word, is none', () => {
    const fields = { result: { at: '/state' }, domain: { at: '/lot' } };
    expect(() => read({ state: 'won', lot: 'umberbees.org' }, { fields })).toThrow('about umberbees.org');
    expect(read({ state: 'won', lot: 'TARNHIVES.org' }, { fields }).result).toBe('won');
    expect(() => read({ price: 3 })).toThrow('there is nothing');
    expect(() => read({ state: { deep: 1 } })).toThrow();
  });

  it('of any kind gives one of the results, or a fault', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const description: Description = described();
        try {
          const answer = readAnswer(JSON.stringify(value), 'json', '', '');
          expect(RESULTS).toContain(readOrderReply(description, answer, ORDER, 0).result);
        } catch (error) {
          expect(error).toBeInstanceOf(AnswerFault);
        }
      }),
    );
  });
});

describe('what is sent of an order', () => {
  it('is written as its place wants it, and stays one value', () => {
    const text = fc.string({ minLength: 1, maxLength: 30 });
    fc.assert(
      fc.property(text, text, (number, key) => {
        const one = described({
          method: 'POST',
          address: 'https://api.umberleylots.example/bid?n={number}',
          body: '{"n": "{number}", "sum": {minor}, "lot": "{domain}"}',
          headers: [{ name: 'x-key', value: '{key}' }],
          key,
        });
        const request = requestOf(one, orderFilling({ ...ORDER, number }));
        expect(JSON.parse(request.body ?? '')).toEqual({ n: number, sum: 9000, lot: 'tarnhives.org' });
        expect(new URL(request.address).searchParams.get('n')).toBe(number);
        expect(Object.keys(request.headers).sort()).toEqual(['accept', 'content-type', 'x-key']);
        expect(request.headers['x-key']).not.toMatch(/[\r\n]/);
      }),
    );
  });

  it('is shown without its secrets', () => {
    const one = described({
      headers: [{ name: 'x-key', value: '{key}' }],
      key: 'very-secret',
      login: 'basic',
      user: 'me',
      password: 'also-secret',
    });
    const shown = masked(requestText(requestOf(one, orderFilling(ORDER))), secretsOf(one));
    expect(shown).toContain('GET https://api.umberleylots.example/bid?lot=tarnhives.org');
    expect(shown).not.toMatch(/secret|bWU6/);
  });
});

describe('a description of orders', () => {
  it.each([
    ['venue', { venue: '' }, 'the name of the venue'],
    ['kinds', { kinds: [] }, 'what is ordered'],
    ['currency', { currency: '' }, 'which currency'],
    ['format', { format: 'feed' }, 'nothing of an order'],
    ['address', { address: 'https://api.umberleylots.example/bid' }, '{domain}'],
    [
      'paging',
      { address: 'https://api.umberleylots.example/{domain}?p={page}', paging: { by: 'page' } },
      'no further parts',
    ],
  ])('wants its %s', (field, rest, words) => {
    const { error } = Connection.safeParse({ ...described(), ...rest });
    expect(error?.issues.map(({ path, message }) => `${String(path[0])}: ${message}`).join()).toContain(field);
    expect(error?.issues.map(({ message }) => message).join()).toContain(words);
  });

  it('begins as a dry run', () => expect(described().isDry).toBe(true));
});
