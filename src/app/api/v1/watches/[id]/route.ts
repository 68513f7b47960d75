import { changeWatch, dropWatch, readWatch } from '../../../../../store/watches';
import { getStore } from '../../../../server';
import { handle, notFound, readId, readJson } from '../../../respond';
import { WatchChangeSchema } from '../../../schemas';

const MINUTE = 60_000;

export const PATCH = handle(async (request, { id }) => {
  const { isOn, everyMinutes } = await readJson(request, WatchChangeSchema);
  const store = await getStore();
  const everyMs = everyMinutes === undefined ? undefined : everyMinutes * MINUTE;
  const change = { ...(isOn !== undefined && { isOn }), ...(everyMs !== undefined && { everyMs }) };
  if (!changeWatch(store, readId(id), change)) throw notFound(`watch ${id}`);
  return Response.json({ watch: readWatch(store, readId(id)) });
});

export const DELETE = handle(async (_request, { id }) => {
  if (!dropWatch(await getStore(), readId(id))) throw notFound(`watch ${id}`);
  return new Response(null, { status: 204 });
});
