import { BriefFileSchema } from '../../../../../contracts/briefs';
import { takeBriefFile } from '../../../../../services/briefs/brief-file';
import { getEngine, getStore } from '../../../../server';
import { handle, readJson } from '../../../respond';

/** Takes a brief in that was exported elsewhere. */
export const POST = handle(async (request) => {
  const file = await readJson(request, BriefFileSchema);
  const { id, ids, problems } = takeBriefFile(await getStore(), file);
  await getEngine().setMembers('shortlist', id, ids, true);
  await getEngine().briefsChanged();
  return Response.json({ id, shortlisted: ids.length, problems }, { status: 201 });
});
