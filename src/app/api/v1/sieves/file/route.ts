import { freeName } from '../../../../../core/free-name';
import { viewOfFile } from '../../../../../services/pool/sieve-file';
import { listSieves, saveSieve } from '../../../../../store/pool/sieves';
import { getStore } from '../../../../server';
import { Problem, route } from '../../../respond';

/** Keeps a sieve from a shared file, under another name where its own is taken. What it names that is not here is left out and said. */
export const POST = route('POST /sieves/file', async ({ body }) => {
  const file = body;
  const store = await getStore();
  const { view, problems, isEmpty } = viewOfFile(store, file);
  if (isEmpty && problems.length > 0) throw new Problem(400, 'The file holds no sieve', `${problems.join('. ')}.`);
  const name = freeName(
    file.name,
    listSieves(store).map((sieve) => sieve.name),
  );
  return { id: saveSieve(store, name, view), name, view, problems };
});
