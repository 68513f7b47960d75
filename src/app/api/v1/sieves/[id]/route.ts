import { formatView, parseView } from '../../../../../core/pool/conditions';
import { recordAct } from '../../../../../store/domains/acts';
import { changeSieve, deleteSieve, readSieve } from '../../../../../store/pool/sieves';
import { getEngine, getStore } from '../../../../server';
import { notFound, Problem, readId, route } from '../../../respond';

export const PATCH = route('PATCH /sieves/{id}', async ({ params: { id }, body }) => {
  const change = body;
  if (change.view !== undefined) {
    const parsed = parseView(new URLSearchParams(change.view));
    if (parsed.problems.length > 0) throw new Problem(400, 'The request makes no sense', parsed.problems.join('. '));
    change.view = formatView(parsed).toString();
  }
  const store = await getStore();
  const before = readSieve(store, readId(id));
  if (!before) throw notFound(`sieve ${id}`);
  const { result: sieve, act } = recordAct(
    store,
    { kind: 'sieve', words: `kept sieve "${before.name}": changed` },
    [{ table: 'sieves', where: { id: before.id } }],
    () => changeSieve(store, before.id, change),
  );
  if (!sieve) throw notFound(`sieve ${id}`);
  if (sieve.lastAt === null && change.view !== undefined) await getEngine().setMembers('fresh', sieve.id, null, false);
  return { ...sieve, act };
});

export const DELETE = route('DELETE /sieves/{id}', async ({ params: { id } }) => {
  const store = await getStore();
  const before = readSieve(store, readId(id));
  if (!before) throw notFound(`sieve ${id}`);
  const { result: sieve, act } = recordAct(
    store,
    { kind: 'sieve', words: `kept sieve "${before.name}": deleted` },
    [{ table: 'sieves', where: { id: before.id } }],
    () => deleteSieve(store, before.id),
  );
  if (!sieve) throw notFound(`sieve ${id}`);
  await getEngine().setMembers('fresh', sieve.id, null, false);
  return { ...sieve, act };
});
