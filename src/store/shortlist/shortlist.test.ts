import { beforeEach, describe, expect, it } from 'vitest';
import { actingAs } from '../../core/work/actor';
import { type Store, write } from '../base/database';
import { knex, run } from '../base/query';
import { freshStore } from '../base/testing';
import { placeOrder } from '../orders/orders';
import { briefOfTest, domainOfTest } from '../testing';
import { type Brief, deleteBrief, ensureBrief, listBriefs, saveBrief } from './briefs';
import {
  addToShortlist,
  changeShortlist,
  readShortlist,
  shortlistedFor,
  shortlistIds,
  takeOffShortlist,
} from './shortlist';

let store: Store;
let brief: Brief;
beforeEach(async () => {
  store = await freshStore();
  brief = briefOfTest(store);
});
const domain = (name: string) => domainOfTest(store, `${name}.org`).id;
const names = (id = brief.id) => readShortlist(store, id).map((entry) => entry.domain.name);

describe('a shortlist', () => {
  it('takes a domain once, in the order they came, for each brief by itself', () => {
    const [one, two] = [domain('tarnhives'), domain('wexcombe')];
    expect(addToShortlist(store, brief.id, [one, two, one])).toEqual([one, two]);
    expect(addToShortlist(store, brief.id, [two])).toEqual([]);
    const other = briefOfTest(store, { name: 'Apiaries' }).id;
    addToShortlist(store, other, [two]);
    expect(names()).toEqual(['tarnhives.org', 'wexcombe.org']);
    expect(shortlistedFor(store, two).map(({ briefId }) => briefId)).toEqual([brief.id, other]);
    expect(shortlistIds(store, brief.id)).toEqual(new Set([one, two]));
  });

  it('gives back what was said of one that was taken off, and says what it was', () => {
    const id = domain('tarnhives');
    addToShortlist(store, brief.id, [id]);
    const [before] = readShortlist(store, brief.id);
    expect(
      changeShortlist(store, brief.id, id, { stage: 'wanted', note: 'ask Mara', maximumBidMinor: 900 }),
    ).toMatchObject({
      stage: before.stage,
      note: '',
    });
    expect(write(store, () => takeOffShortlist(store, brief.id, id))).toMatchObject({ note: 'ask Mara' });
    expect(write(store, () => takeOffShortlist(store, brief.id, id))).toBeNull();
    expect(changeShortlist(store, brief.id, id, { note: 'x' })).toBeNull();
    expect(names()).toEqual([]);
    addToShortlist(store, brief.id, [id]);
    expect(readShortlist(store, brief.id)).toMatchObject([
      { stage: 'wanted', note: 'ask Mara', maximumBidMinor: 900, addedAt: before.addedAt },
    ]);
  });

  it('says who put a name on it, also after it was taken off, and of one kept before that was known', () => {
    const [hers, sieved] = ['tarnhives', 'ossencomb'].map(domain);
    actingAs('Mara', () => addToShortlist(store, brief.id, [hers]));
    actingAs('the sieve Bees', () => addToShortlist(store, brief.id, [sieved]));
    const who = () => readShortlist(store, brief.id).map(({ addedBy }) => addedBy);
    expect(who()).toEqual(['Mara', 'the sieve Bees']);
    write(store, () => takeOffShortlist(store, brief.id, hers));
    addToShortlist(store, brief.id, [hers]);
    expect(who()).toContain('Mara');
    const kept = JSON.stringify({ ...readShortlist(store, brief.id)[0], domain: undefined, addedBy: undefined });
    write(store, () => takeOffShortlist(store, brief.id, hers));
    write(store, () => run(store, knex('shortlist_removed').update({ entry: kept })));
    addToShortlist(store, brief.id, [hers]);
    expect(who()).toContain('you');
  });

  it('changes what is named and leaves the rest', () => {
    const id = domain('tarnhives');
    addToShortlist(store, brief.id, [id]);
    changeShortlist(store, brief.id, id, { worthLowMinor: 100, worthHighMinor: 200, feesMinor: 30 });
    changeShortlist(store, brief.id, id, { worthHighMinor: null });
    expect(shortlistedFor(store, id)).toMatchObject([{ worthLowMinor: 100, worthHighMinor: null, feesMinor: 30 }]);
  });
});

describe('briefs', () => {
  const rich = {
    name: 'Everything', purpose: 'rebuild', subjectWords: ['hive'], trustedSites: ['https://quillmere.org/'], excludedEndings: ['info'],
    budgetMinor: 1, currency: 'GBP', risk: 'bold', feesMinor: 2, requiredWords: ['bee'], unwantedWords: ['car'], languages: ['de'], countries: ['at'],
    fromAt: 3, untilAt: 4, limits: { mostSpamRisk: 40 }, marginPercent: 5, months: 6, renewalMinor: 7, interestPercent: 8,
    mix: { resell: 1, rebuild: 2, redirect: 0, prospect: 0 }, weights: null,
  } as const; // biome-ignore format: one brief

  it('keep all that is said of them', () => {
    const id = saveBrief(store, rich as never);
    expect(listBriefs(store).find((one) => one.id === id)).toMatchObject(rich);
    saveBrief(store, { ...rich, name: 'Less', limits: {}, mix: null } as never, id);
    expect(listBriefs(store).find((one) => one.id === id)).toMatchObject({ name: 'Less', limits: {}, mix: null });
    expect(listBriefs(store)).toHaveLength(2);
  });

  it('of one name are one', () => {
    expect(() => briefOfTest(store)).toThrow(/UNIQUE/);
  });

  it('stay while they have a shortlist or orders', () => {
    const empty = briefOfTest(store, { name: 'Empty' }).id;
    expect(deleteBrief(store, empty)).toBe(true);
    expect(deleteBrief(store, empty)).toBe(false);
    addToShortlist(store, brief.id, [domain('tarnhives')]);
    expect(deleteBrief(store, brief.id)).toBe(false);
    const ordered = briefOfTest(store, { name: 'Ordered' }).id;
    placeOrder(store, {
      briefId: ordered, domainId: domain('wexcombe'), venue: 'v', url: null, kind: 'buy', amountMinor: 1, currency: 'EUR', ratePpm: 1_000_000,
      feesMinor: 0, closesAt: null, sendAt: null, way: 'by hand',
    }); // biome-ignore format: one order
    expect(deleteBrief(store, ordered)).toBe(false);
  });

  it('are one at least', async () => {
    const other = await freshStore();
    ensureBrief(other);
    ensureBrief(other);
    expect(listBriefs(other).map(({ name }) => name)).toEqual(['First brief']);
  });
});
