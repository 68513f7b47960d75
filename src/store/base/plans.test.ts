import { expect, it, vi } from 'vitest';
import { registeredName } from '../domains/domains';
import { queuedCandidates } from '../links/measure-queue';
import { listHoldings, moneyEntries } from '../portfolio/holdings';
import type { Store } from './database';
import { freshStore } from './testing';

/** How SQLite goes about what is asked of it, a line a step. */
function plansOf(store: Store, ask: () => unknown): string[] {
  const prepare = store.raw.prepare.bind(store.raw);
  const spy = vi.spyOn(store.raw, 'prepare');
  ask();
  const texts = spy.mock.calls.map(([text]) => text);
  spy.mockRestore();
  return texts.flatMap((text) => {
    const values = Array(text.split('?').length - 1).fill(1);
    const steps = prepare(`EXPLAIN QUERY PLAN ${text}`).all(...values) as { detail: string }[];
    return steps.map(({ detail }) => detail);
  });
}

it.each([
  ['what is owned', listHoldings],
  ['sums of what is owned', moneyEntries],
  ['what waits to be measured', (store: Store) => queuedCandidates(store, 40)],
  ['a registered name with a past', registeredName],
])('%s is read without walking over all domains', async (_, ask) => {
  const store = await freshStore();
  const plans = plansOf(store, () => ask(store));
  expect(plans).not.toHaveLength(0);
  // a walk by id ends at the first that is registered
  expect(plans.filter((step) => /^SCAN (d|domains)\b/.test(step) && step !== 'SCAN domains')).toEqual([]);
  expect(plans.filter((step) => /^SEARCH d USING INTEGER PRIMARY KEY/.test(step)).length).toBeGreaterThan(0);
  await store.close();
});
