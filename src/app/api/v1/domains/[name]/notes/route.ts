import { addNote, notesOf } from '../../../../../../store/notes';
import { domainRow } from '../../../../domain-row';
import { handle, readJson } from '../../../../respond';
import { NoteSchema } from '../../../../schemas';

export const GET = handle(async (_request, { name }) => {
  const { store, row } = await domainRow(name);
  return Response.json({ notes: notesOf(store, row.id) });
});

export const POST = handle(async (request, { name }) => {
  const { text } = await readJson(request, NoteSchema);
  const { store, row } = await domainRow(name);
  return Response.json({ note: addNote(store, row.id, text) }, { status: 201 });
});
