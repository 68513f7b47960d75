import { deadlinesIn } from '../../../../services/deadlines/deadlines';
import { readSettings } from '../../../../store/base/settings';
import { getEngine, getStore } from '../../../server';
import { route } from '../../respond';

/** Deadlines in order of time: `scope` mine (watched by hand or shortlisted), near (with near misses) or all, `kinds` by commas, `hours` ahead. */
export const GET = route('GET /deadlines', async ({ query }) => {
  const store = await getStore();
  const { deadlines, total } = await deadlinesIn(store, getEngine(), query);
  return { timeZone: readSettings(store).timeZone, total, deadlines };
});
