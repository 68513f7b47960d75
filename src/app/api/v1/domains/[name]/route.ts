import { registrableDomain } from '../../../../../core/names/domain';
import { readDossier } from '../../../../../services/dossier/dossier';
import { currentBrief } from '../../../../server';
import { handle, notFound } from '../../../respond';

export const GET = handle(async (_request, { name }) => {
  const { store, brief } = await currentBrief();
  const domain = registrableDomain(decodeURIComponent(name));
  const dossier = domain && (await readDossier(store, domain.name, brief.id));
  if (!dossier) throw notFound(`domain "${name.slice(0, 80)}" in the pool`);
  return Response.json(dossier);
});
