import { Settings, withKeptKeys, withoutKeys } from '../../../../store/base/config';
import { readSettings } from '../../../../store/base/database';
import { recordSettings } from '../../../../store/domains/acts';
import { getEngine, getStore } from '../../../server';
import { handle, readJson } from '../../respond';

export const GET = handle(async () => Response.json(withoutKeys(readSettings(await getStore()))));

export const PATCH = handle(async (request) => {
  // defaults of the full schema must not fill what the change leaves out
  const given = (await request.clone().json()) as Record<string, unknown>;
  const parsed = await readJson(request, Settings.partial());
  const change: Partial<Settings> = Object.fromEntries(Object.entries(parsed).filter(([key]) => key in given));
  const store = await getStore();
  const before = readSettings(store);
  if (parsed.desks && 'desks' in change) change.desks = withKeptKeys(parsed.desks, before.desks);
  const { result: changed, act } = recordSettings(store, `settings: ${Object.keys(change).join(', ')}`, change);
  if ('currency' in change || 'rates' in change || 'desks' in change) await getEngine().settingsChanged();
  // which count is sorted by is written with the measures
  if (before.countRule !== changed.countRule || before.countFactor !== changed.countFactor)
    await getEngine().addJob({ kind: 'measure', sourceId: null, params: { ids: [], all: true } });
  return Response.json({ ...withoutKeys(changed), act });
});
