import { domainRow } from '../../../../../../app/api/domain-row';
import { NoteSchema } from '../../../../../../contracts/domains';
import { addNote, notesOf } from '../../../../../../store/domains/notes';
import { handle, readJson } from '../../../../respond';

export const GET = handle(async (_request, { name }) => {
  const { store, row } = await domainRow(name);
  return Response.json({ notes: notesOf(store, row.id) });
});

export const POST = handle(async (request, { name }) => {
  const { text } = await readJson(request, NoteSchema);
  const { store, row } = await domainRow(name);
  return Response.json({ note: addNote(store, row.id, text) }, { status: 201 });
});
