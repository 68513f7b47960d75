import { formatView, parseView } from '../../../../core/pool/conditions';
import { recordNew } from '../../../../store/domains/acts';
import { listSieves, saveSieve } from '../../../../store/pool/sieves';
import { getStore } from '../../../server';
import { Problem, route } from '../../respond';

export const GET = route('GET /sieves', async () => ({ sieves: listSieves(await getStore()) }));

/** Keeps a sieve under a name of its own; one that is there is changed under its number. */
export const POST = route('POST /sieves', async ({ body }) => {
  const { name, view } = body;
  const parsed = parseView(new URLSearchParams(view));
  if (parsed.problems.length > 0) throw new Problem(400, 'The request makes no sense', parsed.problems.join('. '));
  const store = await getStore();
  if (listSieves(store).some((sieve) => sieve.name === name))
    throw new Problem(
      409,
      'The name is taken',
      `A sieve is kept as "${name}" already.`,
      'Choose another name, or open that one and change it.',
    );
  const { result: id, act } = recordNew(
    store,
    { kind: 'sieve', words: `kept sieve "${name}": kept` },
    () => saveSieve(store, name, formatView(parsed).toString()),
    (added) => [{ table: 'sieves', where: { id: added } }],
  );
  return { id, act };
});
