import { registrableDomain } from '../../../../../../core/names/domain';
import { write } from '../../../../../../store/database';
import { findDomain } from '../../../../../../store/domains';
import { addQuestions, NOBODY, placeOf } from '../../../../../../store/questions';
import { getStore } from '../../../../../server';
import { handle, notFound } from '../../../../respond';

/** Asks about a domain before all others. Answers with its place in the queue. */
export const POST = handle(async (_request, { name }) => {
  const store = await getStore();
  const domain = registrableDomain(decodeURIComponent(name));
  const row = domain && findDomain(store, domain.name);
  if (!row) throw notFound(`domain "${name.slice(0, 80)}" in the pool`);
  write(store, () => addQuestions(store, NOBODY, [row.id], 'record', true));
  return Response.json({ place: placeOf(store, row.id) }, { status: 202 });
});
