import { beforeEach, describe, expect, it } from 'vitest';
import { Settings } from '../../core/settings/settings';
import { setBy } from '../../core/setup/abilities';
import type { Tried } from '../../core/setup/tried';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { undoAct } from '../../store/domains/acts';
import { domainOfTest, listingOfTest } from '../../store/testing';
import { ask, called, engineAnswers, serving } from './testing';

let store: Store;
beforeEach(async () => {
  ({ store } = await serving({ settingsChanged: () => ({}) }));
});

const tried = (part: Partial<Tried>): Tried => ({
  ability: 'history',
  at: 7,
  outcome: 'works',
  asked: 'Which captures?',
  came: 'HTTP 200',
  elapsedMs: 12,
  understood: ['2 captures.'],
  problem: null,
  setBy: '',
  ...part,
});
type Shown = { ability: string; state: string; words: string }[];
const stateOf = async (ability: string) =>
  ((await ask('GET /setup')).value.abilities as Shown).find((state) => state.ability === ability);

describe('set-up', () => {
  it('keeps the last try of each service, which counts for as long as it is set so', async () => {
    const archiveTimeMap = 'http://archive.test/{url}';
    engineAnswers({
      tryAbility: () => tried({ setBy: setBy('history', Settings.parse({ archiveTimeMap })) }),
    });
    const body = { ability: 'history', settings: { archiveTimeMap }, question: 'tarnhives.org' };
    expect((await ask('POST /setup/try', { body })).value).toMatchObject({ outcome: 'works' });
    expect(called('tryAbility')).toEqual([['history', { archiveTimeMap }, 'tarnhives.org']]);
    // it was tried, and not kept
    expect(readSettings(store).archiveTimeMap).toBe('');
    expect(await stateOf('history')).toMatchObject({ state: 'unset' });
    await ask('PATCH /settings', { body: { archiveTimeMap } });
    expect(await stateOf('history')).toMatchObject({ state: 'works', words: '2 captures.' });
    await ask('PATCH /settings', { body: { archiveTimeMap: 'http://other.test/{url}' } });
    expect(await stateOf('history')).toMatchObject({ state: 'untried' });
    expect(await ask('POST /setup/try', { body: { ...body, ability: 'honey' } })).toMatchObject({ status: 400 });
  });

  it('says which currencies are quoted without a rate', async () => {
    const { id } = domainOfTest(store, 'tarnhives.org');
    listingOfTest(store, id, { venue: 'Quayside Lots', currency: 'GBP', priceMinor: 900 });
    expect(await stateOf('currency')).toMatchObject({
      state: 'fails',
      words: expect.stringContaining('GBP (1 price)'),
    });
    await ask('PATCH /settings', { body: { rates: { GBP: 1.2 } } });
    expect(await stateOf('currency')).toMatchObject({ state: 'works' });
  });
});

describe('rates', () => {
  it('that are typed are of now, and a change of something else leaves their day alone', async () => {
    await ask('PATCH /settings', { body: { rates: { GBP: 1.2 } } });
    const { ratesAt } = readSettings(store);
    expect(ratesAt).toBeGreaterThan(0);
    await ask('PATCH /settings', { body: { ratesAt: 5 } });
    await ask('PATCH /settings', { body: { rates: { GBP: 1.2 }, crawlDelayMs: 900 } });
    expect(readSettings(store).ratesAt).toBe(5);
  });

  it('are taken from a table, with its day, beside those that it does not name; undone they are as before', async () => {
    await ask('PATCH /settings', { body: { rates: { GBP: 1.2, ZAR: 0.05 } } });
    const before = readSettings(store);
    const { value, status } = await ask('POST /rates', {
      file: 'currency,rate,date\nUSD,1.25,2026-11-27\nGBP,0.8,2026-11-27\nhoney,1,\n',
    });
    expect([status, value]).toMatchObject([
      201,
      { taken: 2, base: 'EUR', at: Date.UTC(2026, 10, 27), aside: [{ reason: '"honey" is no currency' }] },
    ]);
    expect(readSettings(store)).toMatchObject({
      rates: { USD: 0.8, GBP: 1.25, ZAR: 0.05 },
      ratesAt: Date.UTC(2026, 10, 27),
    });
    expect(called('settingsChanged').length).toBeGreaterThan(1);
    undoAct(store, Number(value.act));
    expect(readSettings(store)).toMatchObject({ rates: before.rates, ratesAt: before.ratesAt });
  });

  it('that cannot be read change nothing and say why', async () => {
    const before = readSettings(store);
    expect(await ask('POST /rates', { file: 'a,b\n1,2\n' })).toMatchObject({
      status: 400,
      value: { detail: expect.stringContaining('No line of titles') },
    });
    expect(readSettings(store)).toEqual(before);
  });
});
