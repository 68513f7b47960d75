import { isDeepStrictEqual } from 'node:util';
import { type Settings, withNewNames, withOldNames, withoutKeys } from '../../../../core/settings/settings';
import { readSettings } from '../../../../store/base/settings';
import { recordSettings } from '../../../../store/domains/acts';
import { getEngine, getStore } from '../../../server';
import { route } from '../../respond';

/** Rates that are typed are of now, where nobody says otherwise. */
const datedRates = <Change extends Partial<Settings>>(change: Change, before: Settings, now: number): Change =>
  change.rates && change.ratesAt === undefined && !isDeepStrictEqual(change.rates, before.rates)
    ? { ...change, ratesAt: now }
    : change;

/** Settings that figures of the pool are made by. */
const READ_BY_POOL = ['currency', 'rates', 'accounts', 'countRule'] as const;

export const GET = route('GET /settings', async () => withOldNames(withoutKeys(readSettings(await getStore()))));

export const PATCH = route('PATCH /settings', async ({ body }) => {
  const store = await getStore();
  const before = readSettings(store);
  const change = datedRates(withNewNames(body), before, store.now());
  const { result: changed, act } = recordSettings(store, `settings: ${Object.keys(change).join(', ')}`, change);
  if (READ_BY_POOL.some((key) => key in change)) await getEngine().settingsChanged();
  // which count is sorted by is written with the measures
  if (before.countRule !== changed.countRule || before.countFactor !== changed.countFactor)
    await getEngine().addJob({ kind: 'measure', sourceId: null, params: { ids: [], all: true } });
  return { ...withOldNames(withoutKeys(changed)), act };
});
