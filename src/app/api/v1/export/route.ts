import { z } from 'zod';
import { EXPORT_FORMATS } from '../../../../core/formats/exports';
import { parseView, USUAL_COLUMNS } from '../../../../core/pool/conditions';
import { decidedTable, isOfBrief } from '../../../../services/exports/lists/decided';
import { briefOf, domainsTable, shortlistTable } from '../../../../services/exports/lists/domains';
import {
  entriesTable,
  holdingsTable,
  ledgerTable,
  ordersTable,
  outcomesTable,
} from '../../../../services/exports/lists/money';
import {
  batchTable,
  deadlinesTable,
  deadPagesTable,
  ideasTable,
  pageLinksTable,
  planTable,
  prospectsTable,
  sourcesTable,
} from '../../../../services/exports/lists/work';
import type { ExportTable } from '../../../../services/exports/table';
import type { Brief } from '../../../../store/shortlist/briefs';
import { currentBrief, getEngine, getStore } from '../../../server';
import { formOf } from '../../bodies';
import { exportAnswer } from '../../export-answer';
import { notFound, Problem, route } from '../../respond';

/**
 * A list as a file. Rows of a pool view (`c`, `sort` and `columns` as in the pool's address; `shown=1`: only the columns that it shows, in
 * their order), the shortlist of a brief, or another list by its name. Streamed; there is no cap.
 */
export const GET = route('GET /export', async ({ request, query }) => {
  const { what, format, id } = query;
  const { store, engine, briefs, brief: current } = await currentBrief();
  const brief = query.brief === undefined ? current : briefOf(store, query.brief);
  if (!brief) throw notFound(`brief ${query.brief}`);
  const found = (table: ExportTable | null): ExportTable => {
    if (!table) throw notFound(`${what} ${id ?? ''}`.trim());
    return table;
  };
  const { searchParams } = request.nextUrl;
  const tables: Record<typeof what, () => ExportTable | Promise<ExportTable>> = {
    pool: async () => {
      const shown = query.shown === '1' ? shownIn(searchParams) : null;
      return poolTable(await viewIds(searchParams), shown, 'pool', brief);
    },
    shortlist: () => shortlistTable(store, brief, request.nextUrl.origin),
    sources: () => sourcesTable(store),
    batch: () => found(batchTable(store, id ?? 0)),
    plan: () => planTable(store, engine, brief),
    orders: () => ordersTable(store, query.brief ?? null),
    ledger: () => ledgerTable(store, query.brief === undefined ? briefs : [brief]),
    portfolio: () => holdingsTable(store),
    money: () => entriesTable(store),
    outcomes: () => outcomesTable(store),
    ideas: () => found(ideasTable(store, id ?? 0)),
    deadlines: () => deadlinesTable(store, engine, query),
    'dead-pages': () => deadPagesTable(store),
    prospects: () => prospectsTable(store),
    'page-links': () => found(pageLinksTable(store, id ?? 0)),
  };
  return exportAnswer(await tables[what](), format);
});

/**
 * Rows of what is selected: a form with `format` and `which`, JSON of either `{ids}` or `{view, except}` (a pool view, and ids that
 * are left out of it); with `columns`, as in the pool's address, only those, in their order.
 */
export const POST = route('POST /export', async ({ request }) => {
  const form = await formOf(request);
  const format = z.enum(EXPORT_FORMATS).parse(String(form.get('format') ?? 'csv'));
  const which = SelectionSchema.parse(JSON.parse(String(form.get('which') ?? '{}')));
  let ids: number[];
  if ('ids' in which) ids = which.ids;
  else {
    const except = new Set(which.except);
    ids = (await viewIds(new URLSearchParams(which.view))).filter((id) => !except.has(id));
  }
  const columns = form.get('columns');
  const shown = columns === null ? null : shownIn(new URLSearchParams({ columns: String(columns) }));
  return exportAnswer(await poolTable(ids, shown, 'selected', null), format);
});

/** @param brief whose fit and worth the columns show; none: the current one. */
async function poolTable(ids: number[], shown: string[] | null, name: 'pool' | 'selected', brief: Brief | null) {
  if (!isOfBrief(shown)) return domainsTable(await getStore(), ids, shown, name);
  const { store, engine, brief: current } = await currentBrief();
  return decidedTable(store, engine, brief ?? current, ids, shown);
}

const SelectionSchema = z.union([
  z.object({ ids: z.array(z.number().int().positive()).max(1_000_000) }),
  z.object({ view: z.string().max(20_000), except: z.array(z.number().int().positive()).max(100_000) }),
]);

/** Ids of the columns that a view shows. */
function shownIn(query: URLSearchParams): string[] {
  const { columns } = parseView(query);
  return columns?.shown.map(({ id }) => id) ?? [...USUAL_COLUMNS];
}

/** One question fixes the rows; later changes to the pool cannot shift a row out of the file. */
async function viewIds(query: URLSearchParams): Promise<number[]> {
  const { parts, sorts, problems } = parseView(query);
  if (problems.length > 0) throw new Problem(400, 'The request makes no sense', problems.join('. '));
  const { ids } = await getEngine().queryPool({ parts, sorts, offset: 0, limit: 5_000_000, histograms: [] });
  return ids;
}
