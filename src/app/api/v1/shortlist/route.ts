import { domainView, viewRules } from '../../../../services/pool/views';
import { listBriefs } from '../../../../store/shortlist/briefs';
import { addToShortlist, readShortlist } from '../../../../store/shortlist/shortlist';
import { currentBrief, getEngine, getStore } from '../../../server';
import { namedRows } from '../../domain-row';
import { notFound, route } from '../../respond';

export const GET = route('GET /shortlist', async ({ query }) => {
  const { store, brief } = await currentBrief();
  const entries = readShortlist(store, query.brief ?? brief.id);
  const rules = viewRules(store);
  return {
    entries: entries.map((entry) => ({ ...entry, domain: domainView(entry.domain, true, rules) })),
  };
});

export const POST = route('POST /shortlist', async ({ body }) => {
  const { briefId, names } = body;
  const store = await getStore();
  if (!listBriefs(store).some((brief) => brief.id === briefId)) throw notFound(`brief ${briefId}`);
  const rows = namedRows(store, names);
  const added = new Set(
    addToShortlist(
      store,
      briefId,
      rows.map((row) => row.id),
    ),
  );
  await getEngine().setMembers('shortlist', briefId, [...added], true);
  return { added: rows.filter((row) => added.has(row.id)).map((row) => row.name) };
});
