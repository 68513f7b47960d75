import { registrableDomain } from '../../../../../../core/names/domain';
import { siblingsOf } from '../../../../../../services/dossier/siblings';
import { getEngine, getStore } from '../../../../../server';
import { handle, notFound } from '../../../../respond';

/** What a name says by itself: words, runner-up, sayability, spelling risks, twin, subject, and the same name under other endings. */
export const GET = handle(async (_request, { name }) => {
  const domain = registrableDomain(decodeURIComponent(name));
  if (!domain) throw notFound(`registrable domain "${name.slice(0, 80)}"`);
  const reading = await getEngine().readName(domain.name, domain.ending);
  return Response.json({ ...reading, ...siblingsOf(await getStore(), domain.name, domain.ending, reading.twin) });
});
