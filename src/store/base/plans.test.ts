import { expect, it, vi } from 'vitest';
import { registeredName } from '../domains/domains';
import { queuedCandidates } from '../links/measure-queue';
import { heldBy } from '../links/warc';
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

it('what a visit of a web archive found again is looked for by its sum', async () => {
  const store = await freshStore();
  const visit = {
    domain: 'tarnhives.org',
    at: 5,
    url: 'http://tarnhives.org/',
    digest: 'sha1:a',
    status: 200,
    refersTo: null,
  };
  expect(plansOf(store, () => heldBy(store, visit))).toEqual([
    'SEARCH warc_captures USING INDEX warc_captures_digest (domain=? AND digest=? AND at<?)',
  ]);
  await store.close();
});
