import { domainRow } from '../../../../../../app/api/domain-row';
import { addNote, notesOf } from '../../../../../../store/domains/notes';
import { route } from '../../../../respond';

export const GET = route('GET /domains/{name}/notes', async ({ params: { name } }) => {
  const { store, row } = await domainRow(name);
  return { notes: notesOf(store, row.id) };
});

export const POST = route('POST /domains/{name}/notes', async ({ params: { name }, body }) => {
  const { text } = body;
  const { store, row } = await domainRow(name);
  return { note: addNote(store, row.id, text) };
});
