import { domainRow } from '../../../../../../../app/api/domain-row';
import { notesOf, setNoteRemoved } from '../../../../../../../store/domains/notes';
import { notFound, readId, route } from '../../../../../respond';

async function setRemoved(name: string, id: string, isRemoved: boolean) {
  const { store, row } = await domainRow(name);
  if (!setNoteRemoved(store, row.id, readId(id), isRemoved)) throw notFound(`note ${id}`);
  return { notes: notesOf(store, row.id) };
}

export const DELETE = route('DELETE /domains/{name}/notes/{id}', ({ params: { name, id } }) =>
  setRemoved(name, id, true),
);

/** Gives a note back that was taken away. */
export const POST = route('POST /domains/{name}/notes/{id}', ({ params: { name, id } }) => setRemoved(name, id, false));
