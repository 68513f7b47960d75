import { takeBriefFile } from '../../../../../services/briefs/brief-file';
import { getEngine, getStore } from '../../../../server';
import { route } from '../../../respond';

/** Takes a brief in that was exported elsewhere. */
export const POST = route('POST /briefs/file', async ({ body }) => {
  const file = body;
  const { id, ids, problems } = takeBriefFile(await getStore(), file);
  await getEngine().setMembers('shortlist', id, ids, true);
  await getEngine().briefsChanged();
  return { id, shortlisted: ids.length, problems };
});
