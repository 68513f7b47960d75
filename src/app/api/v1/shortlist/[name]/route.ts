import { findDomain } from '../../../../../store/domains';
import { changeShortlist, removeFromShortlist } from '../../../../../store/shortlist';
import { getEngine, getStore } from '../../../../server';
import { handle, notFound, readId, readJson } from '../../../respond';
import { ShortlistChangeSchema } from '../../../schemas';

async function domainId(name: string): Promise<number> {
  const row = findDomain(await getStore(), decodeURIComponent(name));
  if (!row) throw notFound(`domain "${name.slice(0, 80)}" in the pool`);
  return row.id;
}

/** Changes stage, maximum bid or note. Answers with the entry as it was, so that the change can be undone. */
export const PATCH = handle(async (request, { name }) => {
  const { briefId, ...change } = await readJson(request, ShortlistChangeSchema);
  const before = changeShortlist(await getStore(), briefId, await domainId(name), change);
  if (!before) throw notFound(`entry for "${name}" on that shortlist`);
  return Response.json({ before });
});

/** Takes a domain off. Answers with the entry as it was. */
export const DELETE = handle(async (request, { name }) => {
  const briefId = readId(request.nextUrl.searchParams.get('brief') ?? '');
  const id = await domainId(name);
  const before = removeFromShortlist(await getStore(), briefId, id);
  if (!before) throw notFound(`entry for "${name}" on that shortlist`);
  await getEngine().setMembers('shortlist', briefId, [id], false);
  return Response.json({ before });
});
