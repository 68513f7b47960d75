import { listSieves, saveSieve } from '../../../../../store/sieves';
import { freeName } from '../../../../free-name';
import { getStore } from '../../../../server';
import { viewOfFile } from '../../../../sieve-file';
import { handle, Problem, readJson } from '../../../respond';
import { SieveFileSchema } from '../../../schemas';

/** Keeps a sieve from a shared file, under another name where its own is taken. What it names that is not here is left out and said. */
export const POST = handle(async (request) => {
  const file = await readJson(request, SieveFileSchema);
  const store = await getStore();
  const { view, problems, isEmpty } = viewOfFile(store, file);
  if (isEmpty && problems.length > 0) throw new Problem(400, 'The file holds no sieve', `${problems.join('. ')}.`);
  const name = freeName(
    file.name,
    listSieves(store).map((sieve) => sieve.name),
  );
  return Response.json({ id: saveSieve(store, name, view), name, view, problems }, { status: 201 });
});
