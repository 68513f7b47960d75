import { describe, expect, it } from 'vitest';
import { Connection } from '../connections/connection';
import { Settings } from '../settings/settings';
import { ABILITIES, ABILITY_SPECS, setBy } from './abilities';
import { HAVES, PURPOSE_NAMES } from './purposes';
import { abilityStates, type Gathered, inOrder } from './states';
import type { Tried, Tries } from './tried';

const settings = Settings.parse({ archiveTimeMap: 'http://archive.test/{url}', currency: 'EUR', rates: { GBP: 1.15 } });
const tried = (given: Partial<Tried> = {}): Tried => ({
  ability: 'history',
  at: 5,
  outcome: 'works',
  asked: 'Which captures?',
  came: '',
  elapsedMs: 4,
  understood: ['2 captures.'],
  problem: null,
  setBy: setBy('history', settings),
  ...given,
});
const stateOf = (ability: string, tries: Tries = {}, quoted: { currency: string; offers: number }[] = []) =>
  abilityStates(settings, { tries, quoted, gathered: [] }).find((state) => state.ability === ability);

describe('how an ability stands', () => {
  it('is not set up where nobody is named, and not tried where nobody was asked', () => {
    expect(stateOf('search')).toMatchObject({ state: 'unset', words: ABILITY_SPECS.search.takes, at: null });
    expect(stateOf('dns')).toMatchObject({ state: 'untried' });
    expect(stateOf('history')).toMatchObject({ state: 'untried', at: null });
  });

  it('is what came when it was tried as it is set now', () => {
    expect(stateOf('history', { history: tried() })).toEqual({
      ability: 'history',
      state: 'works',
      words: '2 captures.',
      at: 5,
    });
    const problem = { field: null, words: 'It answered 500.' };
    expect(stateOf('history', { history: tried({ outcome: 'nonsense', problem }) })).toMatchObject({
      state: 'fails',
      words: 'It answered 500.',
    });
    expect(stateOf('history', { history: tried({ setBy: 'another' }) })).toMatchObject({
      state: 'untried',
      words: expect.stringContaining('otherwise'),
      at: null,
    });
  });

  const described = (use: 'listings' | 'figures') =>
    Connection.parse({
      id: 'withy',
      title: 'Withy',
      use,
      address: 'https://api.withy.test/{domain}',
      format: 'json',
      fields: {},
    });
  const read = (part: Partial<Gathered> = {}): Gathered => ({
    kind: 'venue',
    name: 'Umberley Lots',
    rows: 1200,
    at: 7,
    error: null,
    ...part,
  });
  const byReading = (ability: 'venues' | 'backlinks', gathered: Gathered[], connections: Connection[] = []) =>
    abilityStates({ ...settings, connections }, { tries: {}, quoted: [], gathered }).find(
      (one) => one.ability === ability,
    );

  it('is, of venues and backlink data, how they were read last', () => {
    const { takes } = ABILITY_SPECS.venues;
    expect(byReading('venues', [read({ kind: 'links' })])).toMatchObject({ state: 'unset', words: takes });
    expect(byReading('venues', [read(), read({ name: 'Coombe', rows: 1, at: 3 })])).toEqual({
      ability: 'venues',
      state: 'works',
      words: '2 venues with 1,201 names, the last Umberley Lots.',
      at: 7,
    });
    expect(byReading('venues', [read(), read({ name: 'Coombe', at: 3, error: 'it answered 401' })])).toMatchObject({
      state: 'fails',
      words: 'Coombe: it answered 401',
      at: 3,
    });
    expect(byReading('venues', [read({ at: null })])).toMatchObject({
      state: 'untried',
      words: 'Umberley Lots is being read.',
    });
    expect(byReading('venues', [], [described('listings')])).toMatchObject({
      state: 'untried',
      words: 'Withy is described; its listings were not read yet.',
    });
    expect(byReading('backlinks', [read({ kind: 'links', name: 'Export' })], [described('figures')])).toMatchObject({
      state: 'works',
      words: '1 link export with 1,200 rows, the last Export. Withy is asked for figures.',
    });
  });

  it('is, of currencies, whether every price that is open has a rate', () => {
    expect(stateOf('currency')).toMatchObject({ state: 'untried' });
    expect(stateOf('currency', {}, [{ currency: 'EUR', offers: 1200 }])).toMatchObject({
      state: 'works',
      words: 'All 1,200 open prices are in EUR.',
    });
    const both = [
      { currency: 'EUR', offers: 3 },
      { currency: 'GBP', offers: 2 },
    ];
    expect(stateOf('currency', {}, both)).toMatchObject({ state: 'works', words: expect.stringContaining('1 other') });
    expect(stateOf('currency', {}, [...both, { currency: 'USD', offers: 1 }])).toMatchObject({
      state: 'fails',
      words: 'No rate is set for USD (1 price): unknown in EUR.',
    });
  });
});

describe('the order of abilities', () => {
  it('begins with what somebody needs, and leaves none out', () => {
    const states = abilityStates(settings, { tries: {}, quoted: [], gathered: [] });
    expect(inOrder(states, []).map(({ ability }) => ability)).toEqual([...ABILITIES]);
    const told = inOrder(states, ['told']).map(({ ability }) => ability);
    expect(told[0]).toBe('mail');
    expect(told.toSorted()).toEqual([...ABILITIES].sort());
  });

  it('knows for each what it is needed for, and each purpose needs one or is something one has', () => {
    for (const ability of ABILITIES) expect(ABILITY_SPECS[ability].purposes.length, ability).toBeGreaterThan(0);
    for (const purpose of PURPOSE_NAMES)
      expect(
        HAVES.includes(purpose) || ABILITIES.some((ability) => ABILITY_SPECS[ability].purposes.includes(purpose)),
        purpose,
      ).toBe(true);
  });
});
