import { SieveFileSchema } from '../../../../../contracts/sieves';
import { freeName } from '../../../../../core/free-name';
import { viewOfFile } from '../../../../../services/pool/sieve-file';
import { listSieves, saveSieve } from '../../../../../store/pool/sieves';
import { getStore } from '../../../../server';
import { handle, Problem, readJson } from '../../../respond';

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
