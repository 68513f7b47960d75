import { deadPagesTable } from '../../../../services/exports/lists/work';
import { deadTargets } from '../../../../store/crawl/pages';
import { getStore } from '../../../server';
import { exportAnswer } from '../../export-answer';
import { route } from '../../respond';

/** Dead pages on living domains: as JSON, or with every linking page as a file. */
export const GET = route('GET /targets', async ({ query: { format } }) => {
  const store = await getStore();
  return format === 'json' ? { targets: deadTargets(store) } : exportAnswer(deadPagesTable(store), format);
});
