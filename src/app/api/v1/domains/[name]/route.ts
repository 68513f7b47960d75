import { registrableDomain } from '../../../../../core/names/domain';
import { readDossier } from '../../../../../services/dossier/dossier';
import { currentBrief } from '../../../../server';
import { notFound, route } from '../../../respond';

export const GET = route('GET /domains/{name}', async ({ params: { name } }) => {
  const { store, brief } = await currentBrief();
  const domain = registrableDomain(decodeURIComponent(name));
  const dossier = domain && (await readDossier(store, domain.name, brief.id));
  if (!dossier) throw notFound(`domain "${name.slice(0, 80)}" in the pool`);
  return dossier;
});
