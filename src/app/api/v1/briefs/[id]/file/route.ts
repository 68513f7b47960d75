import { briefFile } from '../../../../../../services/briefs/brief-file';
import { getStore } from '../../../../../server';
import { asFile, notFound, readId, route } from '../../../../respond';

/** A brief with its sieves, shortlist and notes as one file. */
export const GET = route('GET /briefs/{id}/file', async ({ params: { id } }) => {
  const file = briefFile(await getStore(), readId(id));
  if (!file) throw notFound(`brief ${id}`);
  const name = file.brief.name.replace(/[^\p{L}\p{N}]+/gu, '-').slice(0, 60);
  return asFile(`${name}.brief.json`, file);
});
