import { readMailbox } from '../../../../../core/formats/mailbox';
import type { Store } from '../../../../../store/base/database';
import { dropMailboxPasswords } from '../../../../../store/base/mailbox-keys';
import { recordAct, type Touched } from '../../../../../store/domains/acts';
import { changeWatch, dropWatch, listWatches, readWatch } from '../../../../../store/sources/watches';
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

/** What no watched mail folder needs any more. */
function forgetUnusedPasswords(store: Store): void {
  dropMailboxPasswords(
    store,
    listWatches(store).flatMap(({ kind, target }) => (kind === 'mail' ? (readMailbox(target)?.account ?? []) : [])),
  );
}

export const DELETE = route('DELETE /watches/{id}', async ({ params: { id } }) => {
  const store = await getStore();
  const watch = readWatch(store, readId(id));
  if (!watch) throw notFound(`watch ${id}`);
  const { act } = recordAct(store, { kind: 'watch', words: `${watch.name}: forgotten` }, touched(watch.id), () =>
    dropWatch(store, watch.id),
  );
  if (watch.kind === 'mail') forgetUnusedPasswords(store);
  return answered(200, { act });
});
