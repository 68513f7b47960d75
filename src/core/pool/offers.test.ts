import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ListingKind } from '../formats/list-fields';
import { PoolColumns } from './columns';
import type { Group, SievePart } from './conditions';
import { bareRow } from './facts';
import { cheapestOffer, type OfferCondition } from './further-offers';
import { type FurtherOffer, OFFER_FACTS } from './offer';
import { PoolIndex } from './query';
import { fromSnapshot, paddedBytes, takeSnapshot } from './snapshot';

const NOW = 1_800_000_000;
const splitter = { starts: () => undefined } as never;
const given = { nowSeconds: NOW, lastVisit: 0, splitter, valuesOf: () => [], subjectOf: () => null };

type Offers = readonly FurtherOffer[];

/** A pool whose rows show the cheapest of their offers, as the database does. */
function poolOf(rows: readonly Offers[]): PoolIndex {
  const columns = new PoolColumns();
  rows.forEach((offers, n) => {
    const shown = cheapestOffer(offers);
    const further = offers.filter((offer) => offer !== shown);
    columns.put({ ...bareRow(n + 1, `n${n}.org`, 'org'), ...(shown ?? {}), offers: offers.length || null, further });
  });
  return new PoolIndex(columns);
}
const ask = (index: PoolIndex, parts: SievePart[], sorts: Parameters<PoolIndex['query']>[0]['sorts'] = []) =>
  index.query({ parts, sorts, offset: 0, limit: 200, histograms: [] }, given);

const offer = (part: Partial<FurtherOffer> = {}): FurtherOffer => ({
  listing: 'auction',
  venue: 'Quillmere',
  price: 20,
  bids: 1,
  closing: NOW + 3600,
  ...part,
});
const priceTo = (max: number, keepUnknown = false): OfferCondition => ({
  type: 'range',
  fact: 'price',
  min: null,
  max,
  keepUnknown,
});
const isKind = (...values: ListingKind[]): OfferCondition => ({
  type: 'choice',
  fact: 'listing',
  values,
  not: false,
  keepUnknown: false,
});

describe('conditions on offers', () => {
  const rows: Offers[] = [
    [offer({ listing: 'auction', price: 5 }), offer({ listing: 'buy-now', venue: 'Harrowgate', price: 60 })],
    [offer({ listing: 'buy-now', venue: 'Harrowgate', price: 30 }), offer({ price: 45 })],
    [offer({ listing: 'buy-now', price: 90, closing: null })],
    [],
    [offer({ listing: 'buy-now', price: null })],
  ];

  it('find what any open offer has, not only the cheapest', () => {
    expect(ask(poolOf(rows), [isKind('buy-now')]).ids).toEqual([1, 2, 3, 5]);
  });

  it('want all of it of the same offer', () => {
    // the first is to be had for 5, but not bought
    const { ids, offers } = ask(poolOf(rows), [isKind('buy-now'), priceTo(40)]);
    expect(ids).toEqual([2]);
    expect(offers).toEqual({});
  });

  it('say which other offer let a row through, and sort by it', () => {
    const sorts = [{ fact: 'price' as const, descending: false }];
    const { ids, offers } = ask(poolOf(rows), [isKind('buy-now'), priceTo(100)], sorts);
    expect(ids).toEqual([2, 1, 3]);
    expect(offers).toEqual({ 1: rows[0][1] });
  });

  it('count an unlisted name nowhere as unknown, and an offer without a price as one', () => {
    const { ids, parts } = ask(poolOf(rows), [priceTo(10, true)]);
    expect(ids).toEqual([1, 5]);
    expect(parts[0].unknown).toBe(1);
  });

  it('forget an offer that has ended', () => {
    const ended = [offer({ price: 3 }), offer({ listing: 'buy-now', price: 9, closing: NOW - 1 })];
    expect(ask(poolOf([ended]), [isKind('buy-now')]).ids).toEqual([]);
  });

  it('keep all offers in a snapshot and without some rows', () => {
    const index = poolOf(rows);
    const { header, arrays } = takeSnapshot(index.columns);
    const size = arrays.reduce((sum, { byteLength }) => sum + paddedBytes(byteLength), 0);
    const bytes = new Uint8Array(size);
    let at = 0;
    for (const array of arrays) {
      bytes.set(new Uint8Array(array.buffer, array.byteOffset, array.byteLength), at);
      at += paddedBytes(array.byteLength);
    }
    const again = new PoolIndex(fromSnapshot(JSON.parse(JSON.stringify(header)), bytes));
    expect(ask(again, [isKind('buy-now')]).ids).toEqual([1, 2, 3, 5]);
    const fewer = new PoolIndex(index.columns.without([2]));
    expect(ask(fewer, [isKind('buy-now'), priceTo(100)]).offers).toEqual({ 1: rows[0][1] });
  });

  const anyOffer: fc.Arbitrary<FurtherOffer> = fc.record({
    listing: fc.constantFrom<ListingKind>('auction', 'buy-now', 'falling', 'offer'),
    venue: fc.constantFrom('Quillmere', 'Harrowgate', null),
    price: fc.option(fc.integer({ min: 0, max: 9 })),
    bids: fc.option(fc.nat(4)),
    closing: fc.option(fc.integer({ min: NOW + 1, max: NOW + 40 * 3600 })),
  });
  const anyCondition: fc.Arbitrary<OfferCondition> = fc.oneof(
    fc.record({
      type: fc.constant('range' as const),
      fact: fc.constantFrom('price' as const, 'bids' as const, 'closing' as const),
      min: fc.option(fc.nat(5)),
      max: fc.option(fc.integer({ min: 2, max: 30 })),
      keepUnknown: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('choice' as const),
      fact: fc.constant('listing' as const),
      values: fc.subarray(['auction', 'buy-now', 'falling']),
      not: fc.boolean(),
      keepUnknown: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('choice' as const),
      fact: fc.constant('venue' as const),
      values: fc.subarray(['Quillmere', 'Harrowgate']),
      not: fc.boolean(),
      keepUnknown: fc.boolean(),
    }),
  );

  /** The same, said as plainly as it can be. */
  const has = (one: FurtherOffer, condition: OfferCondition): boolean => {
    const value = one[condition.fact];
    if (value === null) return condition.keepUnknown;
    if (condition.type === 'choice') return condition.values.includes(String(value)) !== condition.not;
    const figure = condition.fact === 'closing' ? (Number(value) - NOW) / 3600 : Number(value);
    return (condition.min === null || figure >= condition.min) && (condition.max === null || figure <= condition.max);
  };
  const passesAll = (offers: Offers, conditions: readonly OfferCondition[]) =>
    offers.some((one) => conditions.every((condition) => has(one, condition)));

  it('let through just what one offer has all of, and count what each keeps out, whatever is asked', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(anyOffer, { maxLength: 3 }), { minLength: 1, maxLength: 40 }),
        fc.array(anyCondition, { minLength: 1, maxLength: 4 }),
        fc.array(anyCondition, { maxLength: 2 }),
        (pool, conditions, either) => {
          const group: Group = { type: 'group', mode: 'any', parts: either };
          const passes = (offers: Offers, leftOut?: OfferCondition) =>
            passesAll(
              offers,
              conditions.filter((condition) => condition !== leftOut),
            ) &&
            (either.length === 0 || either.some((condition) => passesAll(offers, [condition])));
          const { ids, parts, offers } = ask(poolOf(pool), [...conditions, group]);
          const expected = pool.flatMap((row, n) => (passes(row) ? n + 1 : []));
          expect(ids).toEqual(expected);
          conditions.forEach((condition, n) => {
            if (conditions.length === 1) return;
            const without = pool.filter((row) => passes(row, condition)).length;
            expect(parts[n].alone).toBe(without - expected.length);
          });
          for (const id of ids) {
            const shown = cheapestOffer(pool[id - 1]);
            const isShown = shown !== null && conditions.every((condition) => has(shown, condition));
            expect(offers[id] === undefined).toBe(isShown);
            if (offers[id]) expect(conditions.every((condition) => has(offers[id], condition))).toBe(true);
          }
        },
      ),
      { numRuns: 400 },
    );
  });

  it('are all conditions on facts of an offer', () => {
    for (const fact of OFFER_FACTS) expect(Object.keys(offer())).toContain(fact);
  });
});
