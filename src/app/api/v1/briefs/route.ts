import { listBriefs, saveBrief } from '../../../../store/briefs';
import { getStore } from '../../../server';
import { handle, readJson } from '../../respond';
import { BriefSchema } from '../../schemas';

export const GET = handle(async () => Response.json({ briefs: listBriefs(await getStore()) }));

export const POST = handle(async (request) => {
  const brief = await readJson(request, BriefSchema);
  return Response.json({ id: saveBrief(await getStore(), brief) }, { status: 201 });
});
