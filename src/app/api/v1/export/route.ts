import { Readable } from 'node:stream';
import { z } from 'zod';
import {
  domainColumns,
  EXPORT_FORMATS,
  EXPORT_TYPES,
  type ExportColumn,
  type ExportFormat,
  exportedText,
} from '../../../../core/formats/exports';
import { parseView, USUAL_COLUMNS } from '../../../../core/pool/conditions';
import type { DomainView } from '../../../../core/pool/domain-view';
import { exportedOpenDocument } from '../../../../services/exports/open-document';
import { exportedWorkbook } from '../../../../services/exports/workbook';
import { domainView, viewRules } from '../../../../services/pool/views';
import type { Store } from '../../../../store/base/database';
import { readDomains } from '../../../../store/domains/domains';
import { readShortlist } from '../../../../store/shortlist/shortlist';
import { currentBrief, getEngine, getStore } from '../../../server';
import { formOf } from '../../bodies';
import { Problem, route } from '../../respond';
import { streamText } from '../../stream';

const CHUNK = 1000;

interface ExportRow {
  view: DomainView;
  entry?: { stage: string; maximumBidMinor: number | null; note: string };
}

/** What a shortlist adds to its domains. */
const OF_ENTRY: ExportColumn<ExportRow>[] = [
  { title: 'stage', kind: 'text', of: ({ entry }) => entry?.stage ?? null, about: 'how far it is' },
  { title: 'maximum_bid', kind: 'money', of: ({ entry }) => entry?.maximumBidMinor ?? null, about: 'what you would pay at most, in your currency' },
  { title: 'note', kind: 'text', of: ({ entry }) => entry?.note ?? '', about: 'what you noted' },
]; // biome-ignore format: a column a line

/**
 * Rows of a pool view (`c`, `sort` and `columns` as in the pool's address) or, with `what=shortlist`, of a brief's shortlist. Streamed;
 * there is no cap. `shown=1`: only the columns that the view shows, in their order.
 */
export const GET = route('GET /export', async ({ request, query }) => {
  const { format } = query;
  const isShortlist = query.what === 'shortlist';
  const { searchParams } = request.nextUrl;
  const rows = isShortlist ? shortlistRows(query.brief) : rowsOf(await getStore(), await viewIds(searchParams));
  const shown = query.shown === '1' ? shownIn(searchParams) : null;
  return exported(rows, format, isShortlist ? 'shortlist' : 'pool', shown);
});

/**
 * Rows of what is selected: a form with `format` and `which`, JSON of either `{ids}` or `{view, except}` (a pool view, and ids that
 * are left out of it).
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
  return exported(rowsOf(await getStore(), ids), format, 'selected', null);
});

const SelectionSchema = z.union([
  z.object({ ids: z.array(z.number().int().positive()).max(1_000_000) }),
  z.object({ view: z.string().max(20_000), except: z.array(z.number().int().positive()).max(100_000) }),
]);

function exported(
  rows: AsyncIterable<ExportRow>,
  format: ExportFormat,
  name: 'pool' | 'shortlist' | 'selected',
  shown: string[] | null,
): Response {
  const ofDomain = domainColumns(shown).map(
    (column): ExportColumn<ExportRow> => ({ ...column, of: ({ view }) => column.of(view) }),
  );
  const columns = name === 'shortlist' ? [...ofDomain, ...OF_ENTRY] : ofDomain;
  if (format !== 'xlsx' && format !== 'ods')
    return streamText(exportedText(rows, columns, format), EXPORT_TYPES[format], `${name}.${format}`);
  const book = (format === 'xlsx' ? exportedWorkbook : exportedOpenDocument)(rows, columns, name);
  return new Response(Readable.toWeb(book) as ReadableStream, {
    headers: {
      'content-type': EXPORT_TYPES[format],
      'content-disposition': `attachment; filename="${name}.${format}"`,
    },
  });
}

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

async function* rowsOf(store: Store, ids: number[]): AsyncGenerator<ExportRow> {
  const rules = viewRules(store);
  for (let at = 0; at < ids.length; at += CHUNK)
    for (const row of readDomains(store, ids.slice(at, at + CHUNK))) yield { view: domainView(row, false, rules) };
}

async function* shortlistRows(briefId: number | undefined): AsyncGenerator<ExportRow> {
  const { store, brief } = await currentBrief();
  const rules = viewRules(store);
  for (const entry of readShortlist(store, briefId ?? brief.id))
    yield { view: domainView(entry.domain, true, rules), entry };
}
