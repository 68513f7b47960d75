import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Settings } from '../../core/settings/settings';
import { type Store, write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { forgetBudget, readBudgets } from '../../store/lifecycle/budgets';
import { lookupProblems } from '../../store/lifecycle/lookup-problems';
import { LookupProblems } from './problems';
import { ServerBudgets } from './server-budgets';

const HOST = 'rdap.registry.test';
const FINE = { outcome: 'found', retryAfterMs: null, isDropped: false, elapsedMs: 20, detail: '' };
const DROPPED = { ...FINE, outcome: 'failed', isDropped: true, elapsedMs: 0, detail: 'the connection broke' };
let store: Store;
let settings: Settings;
let passed: string[];
let budgets: ServerBudgets;

beforeEach(async () => {
  store = await freshStore();
  passed = [];
  settings = Settings.parse({ registryIntervalMs: 500, paces: { 'slow.test': 9000 } });
  budgets = make();
});
const make = () => new ServerBudgets(store, () => settings, new LookupProblems(store, (key) => passed.push(key)));

describe('how often a server may be asked', () => {
  it('is what is declared of it, or of all, also when that is changed to more', () => {
    expect(budgets.of(HOST).budget.intervalMs).toBe(500);
    expect(budgets.of('slow.test').budget.intervalMs).toBe(9000);
    settings = { ...settings, registryIntervalMs: 2000 };
    expect(budgets.of(HOST)).toMatchObject({ declared: { intervalMs: 2000 }, budget: { intervalMs: 2000 } });
  });

  it('is learned from refusals, written when it changed, and known again after a restart', () => {
    expect(budgets.note(HOST, FINE, Date.now())).toBe(true);
    expect(budgets.note(HOST, { ...FINE, outcome: 'refused', retryAfterMs: 60_000 }, Date.now())).toBe(false);
    expect(budgets.of(HOST).budget.pausedUntil).toBeGreaterThan(Date.now() + 50_000);
    expect(readBudgets(store).size).toBe(0);
    budgets.keep();
    expect(readBudgets(store).get(HOST)).toMatchObject({ refusedTimes: 1 });
    const again = make();
    expect(again.of(HOST).budget).toMatchObject({ refusedTimes: 1, learnedMs: budgets.of(HOST).budget.learnedMs });
  });

  it('is as declared again where a person took back what was learned, unless it has just changed', () => {
    budgets.note(HOST, { ...FINE, outcome: 'refused', retryAfterMs: 60_000 }, Date.now());
    budgets.keep();
    expect(budgets.of(HOST).budget.learnedMs).not.toBeNull();
    write(store, () => forgetBudget(store, HOST));
    budgets.touch(HOST);
    budgets.forgetTakenBack();
    expect(budgets.of(HOST).budget.learnedMs).not.toBeNull();
    budgets.keep();
    write(store, () => forgetBudget(store, HOST));
    budgets.forgetTakenBack();
    expect(budgets.of(HOST).budget).toMatchObject({ learnedMs: null, intervalMs: 500 });
  });
});

describe('a server that cannot be reached', () => {
  it('is a problem from the second broken connection on, with what to do, until it answers', () => {
    expect(budgets.note(HOST, DROPPED, Date.now())).toBe(false);
    expect(lookupProblems(store)).toEqual([]);
    budgets.note(HOST, DROPPED, Date.now());
    expect(lookupProblems(store)).toMatchObject([
      { key: `server ${HOST}`, words: `${HOST} cannot be reached: the connection broke.` },
    ]);
    expect(lookupProblems(store)[0].remedy).not.toBe('');
    budgets.note(HOST, FINE, Date.now());
    expect(lookupProblems(store)).toEqual([]);
    expect(passed).toEqual([`server ${HOST}`]);
  });
});

describe('pauses of a machine whose clock is set back', () => {
  const HOUR = 3_600_000;
  const NOON = Date.UTC(2026, 10, 20, 12);

  beforeEach(() => {
    vi.useFakeTimers({ toFake: ['Date'], now: NOON });
    budgets = make();
    budgets.note(HOST, { ...FINE, outcome: 'refused', retryAfterMs: 60_000 }, NOON);
  });
  afterEach(() => vi.useRealTimers());

  it('last as long as they were to, while it runs', () => {
    expect(budgets.of(HOST).budget.pausedUntil).toBe(NOON + 60_000);
    vi.setSystemTime(NOON - HOUR);
    budgets.followClock();
    const { pausedUntil, refusedAt } = budgets.of(HOST).budget;
    // the clock that only goes forward went on a little
    expect(Math.abs(pausedUntil - (NOON - HOUR + 60_000))).toBeLessThan(5000);
    expect(Math.abs((refusedAt ?? 0) - (NOON - HOUR))).toBeLessThan(5000);
    budgets.followClock();
    expect(budgets.of(HOST).budget.pausedUntil).toBe(pausedUntil);
  });

  it('and where it was set back while nothing ran', () => {
    budgets.keep();
    vi.setSystemTime(NOON - 24 * HOUR);
    const after = make();
    const { pausedUntil } = after.of(HOST).budget;
    expect(pausedUntil).toBe(NOON - 24 * HOUR + 60_000);
    after.keep();
    // written down, so that it is not moved a second time
    vi.setSystemTime(NOON - 24 * HOUR + 1000);
    expect(make().of(HOST).budget.pausedUntil).toBe(pausedUntil);
  });

  it('end where it is set forward', () => {
    vi.setSystemTime(NOON + HOUR);
    budgets.followClock();
    expect(budgets.isLeftAlone(HOST)).toBe(false);
  });
});
