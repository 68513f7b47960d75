import { recordAct, type Touched } from '../../../../../store/domains/acts';
import { changeWatch, dropWatch, readWatch } from '../../../../../store/sources/watches';
import { getStore } from '../../../../server';
import { answered, notFound, readId, route } from '../../../respond';

const MINUTE = 60_000;

const touched = (id: number): Touched[] => [
  { table: 'watches', where: { id } },
  { table: 'watched_files', where: { watch_id: id } },
];

export const PATCH = route('PATCH /watches/{id}', async ({ params: { id }, body }) => {
  const { isOn, everyMinutes } = body;
  const store = await getStore();
  const everyMs = everyMinutes === undefined ? undefined : everyMinutes * MINUTE;
  const change = { ...(isOn !== undefined && { isOn }), ...(everyMs !== undefined && { everyMs }) };
  const watch = readWatch(store, readId(id));
  if (!watch) throw notFound(`watch ${id}`);
  const how = isOn === undefined ? 'looked at in other intervals' : isOn ? 'looked at again' : 'at rest';
  const { act } = recordAct(store, { kind: 'watch', words: `${watch.name}: ${how}` }, touched(watch.id), () =>
    changeWatch(store, watch.id, change),
  );
  return { watch: readWatch(store, watch.id), act };
});

export const DELETE = route('DELETE /watches/{id}', async ({ params: { id } }) => {
  const store = await getStore();
  const watch = readWatch(store, readId(id));
  if (!watch) throw notFound(`watch ${id}`);
  const { act } = recordAct(store, { kind: 'watch', words: `${watch.name}: forgotten` }, touched(watch.id), () =>
    dropWatch(store, watch.id),
  );
  return answered(200, { act });
});
