import { domainRow } from '../../../../../../../app/api/domain-row';
import { rebuildMarkdown } from '../../../../../../../core/rebuild/markdown';
import { rebuildPlan } from '../../../../../../../services/rebuild/rebuild';
import { route } from '../../../../../respond';

/** The plan of a rebuild as Markdown. */
export const GET = route('GET /domains/{name}/rebuild/file', async ({ params: { name } }) => {
  const { store, row } = await domainRow(name);
  const { pages, unplaced, measures, subjects, outline, steps } = await rebuildPlan(store, row);
  const text = rebuildMarkdown({
    name: row.name,
    at: store.now(),
    plan: { pages, unplaced, measures },
    subjects,
    outline,
    steps,
  });
  return new Response(text, {
    headers: {
      'content-type': 'text/markdown; charset=utf-8',
      'content-disposition': `attachment; filename="${row.name}-rebuild.md"`,
    },
  });
});
