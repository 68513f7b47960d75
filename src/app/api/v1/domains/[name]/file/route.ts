import { domainRow } from '../../../../../../app/api/domain-row';
import { readDossier } from '../../../../../../services/dossier/dossier';
import { dossierFile } from '../../../../../domains/report';
import { currentBrief } from '../../../../../server';
import { notFound, route } from '../../../../respond';

/** The dossier to keep: as one HTML file that needs nothing else, or as JSON. */
export const GET = route('GET /domains/{name}/file', async ({ query: { format }, params: { name } }) => {
  const { store, row } = await domainRow(name);
  const { brief } = await currentBrief();
  const dossier = await readDossier(store, row.name, brief.id);
  if (!dossier) throw notFound(`domain "${row.name}"`);
  const text =
    format === 'html'
      ? dossierFile(store, row, dossier)
      : `${JSON.stringify({ madeAt: new Date(store.now()).toISOString(), ...dossier }, null, 1)}\n`;
  return new Response(text, {
    headers: {
      'content-type': format === 'html' ? 'text/html; charset=utf-8' : 'application/json; charset=utf-8',
      'content-disposition': `attachment; filename="${row.name}.${format}"`,
    },
  });
});
