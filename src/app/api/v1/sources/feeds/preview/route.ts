import { getEngine } from '../../../../../server';
import { route } from '../../../../respond';

/** Fetches what a venue hands out and says what it is. */
export const POST = route('POST /sources/feeds/preview', async ({ body }) => {
  const { url } = body;
  return await getEngine().previewVenue(url);
});
