import { registrableDomain } from '../../../../../../core/names/domain';
import { siblingsOf } from '../../../../../../services/dossier/siblings';
import { getEngine, getStore } from '../../../../../server';
import { notFound, route } from '../../../../respond';

/** What a name says by itself: words, runner-up, sayability, spelling risks, twin, subject, and the same name under other endings. */
export const GET = route('GET /domains/{name}/reading', async ({ params: { name } }) => {
  const domain = registrableDomain(decodeURIComponent(name));
  if (!domain) throw notFound(`registrable domain "${name.slice(0, 80)}"`);
  const reading = await getEngine().readName(domain.name, domain.ending);
  return { ...reading, ...siblingsOf(await getStore(), domain.name, domain.ending, reading.twin) };
});
