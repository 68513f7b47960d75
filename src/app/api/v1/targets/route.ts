import { csvLine } from '../../../../core/formats/csv';
import { deadTargets, eachLinkingPage } from '../../../../store/crawl/pages';
import { getStore } from '../../../server';
import { route } from '../../respond';
import { streamText } from '../../stream';

/** Dead pages on living domains: as JSON, or with every linking page as CSV. */
export const GET = route('GET /targets', async ({ query: { format } }) => {
  const store = await getStore();
  if (format === 'json') return { targets: deadTargets(store) };
  function* lines(): Generator<string> {
    yield csvLine(['dead_page', 'status', 'linking_page', 'title', 'anchor', 'nofollow', 'contact']);
    for (const row of eachLinkingPage(store))
      yield csvLine([
        row.target,
        row.status,
        row.page,
        row.title,
        row.anchor,
        row.nofollow ? 'yes' : 'no',
        row.contact,
      ]);
  }
  return streamText(lines(), 'text/csv; charset=utf-8', 'dead-targets.csv');
});
