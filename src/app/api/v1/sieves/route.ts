import { formatView, parseView } from '../../../../core/pool/conditions';
import { listSieves, saveSieve } from '../../../../store/sieves';
import { getStore } from '../../../server';
import { handle, Problem, readJson } from '../../respond';
import { SieveSchema } from '../../schemas';

export const GET = handle(async () => Response.json({ sieves: listSieves(await getStore()) }));

/** Keeps a sieve; one of the same name is replaced. */
export const POST = handle(async (request) => {
  const { name, view } = await readJson(request, SieveSchema);
  const parsed = parseView(new URLSearchParams(view));
  if (parsed.problems.length > 0) throw new Problem(400, 'The request makes no sense', parsed.problems.join('. '));
  return Response.json({ id: saveSieve(await getStore(), name, formatView(parsed).toString()) }, { status: 201 });
});
