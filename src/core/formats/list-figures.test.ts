import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chooseCount } from '../measures/counts';
import {
  CPC,
  chooseFigures,
  LIST_FIGURES,
  type ListFigure,
  type ListStatement,
  packFigures,
  poolFigure,
  scoreNames,
  statedCounts,
  statedFigures,
  unpackFigures,
} from './list-figures';
import { UNTOLD } from './told';

const value = fc.oneof(fc.constant(Number.NaN), fc.nat(1e9), fc.double({ min: 0, max: 1e6, noNaN: true }));
const figures = fc.record({
  values: fc.array(value, { minLength: LIST_FIGURES.length, maxLength: LIST_FIGURES.length }),
  currency: fc.constantFrom(null, 'EUR', 'SEK'),
});

/** What a source states, read at some time. */
function stated(sourceId: number, at: number, of: Partial<Record<ListFigure, number>>): ListStatement {
  const values = LIST_FIGURES.map((figure) => of[figure] ?? Number.NaN);
  return { sourceId, source: `list ${sourceId}`, at, figures: { values, currency: null } };
}

describe('figures that lists state', () => {
  it('come out of their packing as they went in', () => {
    fc.assert(
      fc.property(figures, ({ values, currency }) => {
        const packed = packFigures({ values, currency });
        if (values.every(Number.isNaN)) {
          expect(packed).toBeNull();
          return;
        }
        const back = unpackFigures(packed ?? '');
        expect(Array.from(back.values)).toEqual(values.map((one) => (Object.is(one, -0) ? 0 : one)));
        expect(back.currency).toBe(Number.isNaN(values[CPC]) ? null : currency);
      }),
    );
    const some = LIST_FIGURES.map((_, n) => [4, 12][n] ?? (n === CPC ? 85 : Number.NaN));
    expect(packFigures({ values: some, currency: 'EUR' })).toBe('4,12,,,,85EUR');
  });

  it('count each by itself: those of the list that was read last', () => {
    const old = stated(1, 10, { listTraffic: 900, listPosition: 3 });
    const recent = stated(2, 20, { listTraffic: 40 });
    const { listTraffic, listPosition, listScore } = chooseFigures([old, recent], 'together');
    expect([listTraffic?.value, listTraffic?.from.source]).toEqual([40, 'list 2']);
    expect([listPosition?.value, listPosition?.from.source]).toEqual([3, 'list 1']);
    expect(listScore).toBeUndefined();
    expect(chooseFigures([recent, old], 'newest').listTraffic?.value).toBe(40);
  });

  it('count by the rule that the person chose', () => {
    const lists = [
      stated(1, 10, { listTraffic: 900, listPosition: 7 }),
      stated(2, 20, { listTraffic: 40, listPosition: 9 }),
    ];
    const values = (rule: Parameters<typeof chooseFigures>[1]) => {
      const { listTraffic, listPosition } = chooseFigures(lists, rule);
      return [listTraffic?.value, listPosition?.value];
    };
    // a better position is a smaller one
    expect(values('largest')).toEqual([900, 7]);
    expect(values({ source: 'list 1' })).toEqual([900, 7]);
    expect(values({ source: 'list 2' })).toEqual([40, 9]);
    expect(values({ source: 'no such list' })).toEqual([40, 9]);
  });

  it('stand beside the counts of indexes where they are of links', () => {
    const lists = [stated(1, 10, { listReferringDomains: 12 }), stated(2, 20, { listTraffic: 3 })];
    expect(statedCounts(lists)).toEqual([
      expect.objectContaining({ source: 'list 1', kind: 'list', at: 10, referringDomains: 12, backlinks: null }),
    ]);
    const together = { backlinks: 5, referringDomains: 4 };
    expect(chooseCount(statedCounts(lists), together, 'largest').referringDomains).toBe(12);
    expect(chooseCount(statedCounts(lists), together, 'together').referringDomains).toBe(4);
  });

  it('hold the price of a click in the user’s currency, where a rate is known', () => {
    const click = (currency: string | null) => {
      const [from] = [stated(1, 1, { listCpc: 250 })];
      return poolFigure('listCpc', { value: 250, currency, from }, { home: 'EUR', worth: { GBP: 1.2 } });
    };
    expect([click(null), click('EUR'), click('GBP'), click('SEK')]).toEqual([2.5, 2.5, 3, null]);
  });

  it('are those of the columns that a list has, scores where their names have a place', () => {
    const columns = ['domain', 'traffic', 'score', 'score', 'score'] as const;
    const told = ['Domain', 'Visits', 'Pull', 'Reach', 'Weight'].map((title) => ({ ...UNTOLD, title }));
    expect(scoreNames(columns, told)).toEqual(['Pull', 'Reach', 'Weight']);
    expect(statedFigures(columns, told, { Pull: 2, Reach: 0 })).toEqual(['listTraffic', 'listScore', 'listScore3']);
  });
});
