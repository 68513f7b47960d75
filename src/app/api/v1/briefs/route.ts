import { listBriefs, saveBrief } from '../../../../store/shortlist/briefs';
import { getEngine, getStore } from '../../../server';
import { route } from '../../respond';

export const GET = route('GET /briefs', async () => ({ briefs: listBriefs(await getStore()) }));

export const POST = route('POST /briefs', async ({ body }) => {
  const brief = body;
  const id = saveBrief(await getStore(), brief);
  if (brief.subjectWords.length > 0) await getEngine().briefsChanged();
  return { id };
});
