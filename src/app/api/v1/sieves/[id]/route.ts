import { formatView, parseView } from '../../../../../core/pool/conditions';
import { changeSieve, deleteSieve } from '../../../../../store/sieves';
import { getEngine, getStore } from '../../../../server';
import { handle, notFound, Problem, readId, readJson } from '../../../respond';
import { SieveChangeSchema } from '../../../schemas';

export const PATCH = handle(async (request, { id }) => {
  const change = await readJson(request, SieveChangeSchema);
  if (change.view !== undefined) {
    const parsed = parseView(new URLSearchParams(change.view));
    if (parsed.problems.length > 0) throw new Problem(400, 'The request makes no sense', parsed.problems.join('. '));
    change.view = formatView(parsed).toString();
  }
  const sieve = changeSieve(await getStore(), readId(id), change);
  if (!sieve) throw notFound(`sieve ${id}`);
  if (sieve.lastAt === null && change.view !== undefined) await getEngine().setMembers('fresh', sieve.id, null, false);
  return Response.json(sieve);
});

export const DELETE = handle(async (_request, { id }) => {
  const sieve = deleteSieve(await getStore(), readId(id));
  if (!sieve) throw notFound(`sieve ${id}`);
  await getEngine().setMembers('fresh', sieve.id, null, false);
  return Response.json(sieve);
});
