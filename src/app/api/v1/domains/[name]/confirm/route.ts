import { registrableDomain } from '../../../../../../core/names/domain';
import { findDomain } from '../../../../../../store/domains';
import { getEngine, getStore } from '../../../../../server';
import { handle, notFound } from '../../../../respond';

/** Takes the verdict again now, down to the registrar, before all other questions. Answers with what it was and is. Takes seconds. */
export const POST = handle(async (_request, { name }) => {
  const store = await getStore();
  const domain = registrableDomain(decodeURIComponent(name));
  const row = domain && findDomain(store, domain.name);
  if (!row) throw notFound(`domain "${name.slice(0, 80)}" in the pool`);
  return Response.json(await getEngine().confirm(row.id));
});
