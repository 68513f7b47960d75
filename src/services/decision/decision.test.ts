import { beforeEach, describe, expect, it } from 'vitest';
import type { ResaleWorth } from '../../core/worth/resale';
import type { Store } from '../../store/base/database';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { putRankings } from '../../store/portfolio/rankings';
import { addToShortlist, changeShortlist } from '../../store/shortlist/shortlist';
import { briefOfTest, domainOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { decisionsOn } from './decision';

const SOLD: ResaleWorth = { lowMinor: 20_000, medianMinor: 30_000, highMinor: 40_000, near: [] };
const NAMES = ['tarnhives.org', 'wexcombe.org', 'pellgatehives.org'];
let store: Store;
const rows = () => NAMES.map((name) => domainOfTest(store, name, { phase: 'active' }));
const engine = () =>
  engineOfTest({
    readNames: async (names) => names.map(() => null) as never,
    resaleWorth: async (names) => names.map((name) => (name === NAMES[1] ? null : SOLD)),
  });

beforeEach(async () => {
  store = await freshStore();
});

describe('what a decision rests on', () => {
  it('is asked of the engine once for all names', async () => {
    const asked = engine();
    const decisions = await decisionsOn(store, asked, briefOfTest(store, { purpose: 'resell' }), rows());
    expect(decisions.map(({ name }) => name)).toEqual(NAMES);
    expect([...asked.asked].sort()).toEqual(['readNames', 'resaleWorth']);
  });

  it('is worth what similar names sold for, in the currency of the brief, and a maximum from it', async () => {
    changeSettings(store, { rates: { GBP: 1.25 } });
    const brief = briefOfTest(store, { purpose: 'resell', currency: 'GBP' });
    const [first, second] = await decisionsOn(store, engine(), brief, rows());
    expect(first).toMatchObject({ currency: 'GBP', worth: { lowMinor: 16_000, highMinor: 32_000, by: 'sales' } });
    expect(first.maximumMinor).toBeGreaterThan(0);
    expect(first.maximumMinor).toBeLessThan(32_000);
    expect(second).toMatchObject({ worth: null, maximumMinor: null, priceMinor: null, rivalsMinor: null });
  });

  it('goes by what the person said before what is suggested, and never above the maximum that was set', async () => {
    const brief = briefOfTest(store, { purpose: 'resell' });
    const [row] = rows();
    addToShortlist(store, brief.id, [row.id]);
    changeShortlist(store, brief.id, row.id, {
      worthLowMinor: 50_000,
      worthHighMinor: 90_000,
      maximumBidMinor: 7000,
    });
    const [decision] = await decisionsOn(store, engine(), brief, [row]);
    expect(decision).toMatchObject({
      worth: { lowMinor: 50_000, highMinor: 90_000, by: 'yours' },
      maximumMinor: 7000,
    });
  });

  it('goes by visits that would come back where the brief is for that and they are worth more', async () => {
    const brief = briefOfTest(store, { purpose: 'rebuild' });
    const [row] = rows();
    putRankings(
      store,
      [
        {
          name: NAMES[0],
          line: 1,
          phrase: 'raising queens',
          position: 1,
          searches: 100_000,
          clickMinor: 300,
          currency: 'EUR',
          competition: 0,
          at: null,
        },
      ],
      'Autumn',
    );
    const [decision] = await decisionsOn(store, engine(), brief, [row]);
    expect(decision.worth?.by).toBe('visits');
    expect(decision.worth?.highMinor).toBeGreaterThan(40_000);
  });

  it('while the engine starts, says what it can', async () => {
    const [decision] = await decisionsOn(store, engineOfTest(), briefOfTest(store), rows());
    expect(decision).toMatchObject({ name: NAMES[0], worth: null });
  });
});
