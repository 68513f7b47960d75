import { describe, expect, it } from 'vitest';
import { type Entry, nextWords } from './entry';

const way = (part: object) => ({ kind: 'bid', costMinor: 4000, feesMinor: 1500, refusal: null, ...part });
const entry = (part: object) =>
  ({
    stage: 'wanted', order: null, ways: [way({})], way: 0, mostMinor: 7000, maximumBidMinor: null, note: '',
    maximum: { maximumMinor: 7000 }, bid: { isIn: true, winChance: 0.62, surplusMinor: 3140 }, ...part,
  }) as unknown as Entry; // biome-ignore format: one entry
const next = (part: object) => nextWords(entry(part), 'EUR');

describe('what is to be done next about a name', () => {
  it('is what the plan takes, with its chance and what it brings', () => {
    expect(next({})).toBe('62% to win, brings 31 EUR');
    expect(next({ ways: [way({ kind: 'buy' })] })).toBe('62% to be had, brings 31 EUR');
  });

  it('is why the plan leaves it out', () => {
    const out = { bid: { isIn: false } };
    expect(next({ ...out, maximum: { maximumMinor: 0 } })).toBe('not worth its fees');
    expect(next({ ...out, maximum: { maximumMinor: 2000 } })).toBe('25 EUR, over its maximum');
    expect(next({ ...out, maximumBidMinor: 2400 })).toBe('over your maximum');
    expect(next(out)).toBe('left out: others bring more');
  });

  it('is what is missing, before anything can be planned', () => {
    expect(next({ maximum: null, bid: null })).toBe('say what it is worth to you');
    expect(next({ ways: [], way: null, bid: null })).toBe('no way to have it is known');
    expect(next({ ways: [way({ refusal: 'reserved by the registrar' })] })).toBe('reserved by the registrar');
    expect(next({ bid: null })).toBe('set a maximum bid');
  });

  it('is where its order stands, and up to what more pays when it is outbid', () => {
    expect(next({ order: 'leading at 60 EUR' })).toBe('leading at 60 EUR');
    expect(next({ order: 'outbid at 9 GBP' })).toBe('outbid: up to 70 EUR pays');
    expect(next({ order: 'outbid at 9 GBP', mostMinor: 2000 })).toBe('outbid at 9 GBP');
    expect(next({ stage: 'waiting' })).toBe('wait for the outcome');
    expect(next({ stage: 'let go' })).toBe('nothing more');
  });
});
