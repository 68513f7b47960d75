import { FeedLookSchema } from '../../../../../../contracts/sources';
import { getEngine } from '../../../../../server';
import { handle, readJson } from '../../../../respond';

/** Fetches what a venue hands out and says what it is. */
export const POST = handle(async (request) => {
  const { url } = await readJson(request, FeedLookSchema);
  return Response.json(await getEngine().previewVenue(url));
});
