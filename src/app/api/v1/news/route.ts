import { newsSince } from '../../../../services/news/news';
import { getStore } from '../../../server';
import { route } from '../../respond';

/** What happened since a moment, for whoever shows it as it happens. */
export const GET = route('GET /news', async ({ query: { since, kinds } }) => {
  const store = await getStore();
  return { now: store.now(), news: newsSince(store, since, kinds) };
});
