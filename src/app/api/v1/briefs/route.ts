import { BriefSchema } from '../../../../contracts/briefs';
import { listBriefs, saveBrief } from '../../../../store/shortlist/briefs';
import { getEngine, getStore } from '../../../server';
import { handle, readJson } from '../../respond';

export const GET = handle(async () => Response.json({ briefs: listBriefs(await getStore()) }));

export const POST = handle(async (request) => {
  const brief = await readJson(request, BriefSchema);
  const id = saveBrief(await getStore(), brief);
  if (brief.subjectWords.length > 0) await getEngine().briefsChanged();
  return Response.json({ id }, { status: 201 });
});
