import { z } from 'zod';
import { EXPORT_FORMATS } from '../../../../contracts/pool';
import { csvLine, tsvLine } from '../../../../core/formats/csv';
import { parseView } from '../../../../core/pool/conditions';
import type { DomainView } from '../../../../core/pool/domain-view';
import { factSpec, SHOWN_NUMBERS, type ShownNumber } from '../../../../core/pool/facts';
import { domainView } from '../../../../services/pool/views';
import type { Store } from '../../../../store/base/database';
import { readRates } from '../../../../store/base/settings';
import { readDomains } from '../../../../store/domains/domains';
import { readShortlist } from '../../../../store/shortlist/shortlist';
import { currentBrief, getEngine, getStore } from '../../../server';
import { formOf } from '../../bodies';
import { Problem, route } from '../../respond';
import { streamText } from '../../stream';

const CHUNK = 1000;
const iso = (at: number | null) => (at === null ? null : new Date(at).toISOString());
const money = (minor: number | null) => (minor === null ? null : (minor / 100).toFixed(2));

/** Columns of an export, in order: title and value. */
const MADE: [title: string, value: (row: DomainView) => string | number | null][] = [
  ['domain', (row) => row.name],
  ['phase', (row) => row.phase],
  ['phase_source', (row) => row.phaseSource],
  ['phase_at', (row) => iso(row.phaseAt)],
  ['registered', (row) => iso(row.registeredAt)],
  ['expires', (row) => iso(row.expiresAt)],
  ['drop_expected', (row) => iso(row.dropAt)],
  ['first_seen', (row) => iso(row.firstSeenAt)],
  ['captures', (row) => row.captures],
  ['backlinks', (row) => row.backlinks],
  ['referring_domains', (row) => row.referringDomains],
  ['strength', (row) => row.strength],
  ['trust', (row) => row.trust],
  ['judged', (row) => row.judged],
  ['judged_reason', (row) => row.judgedReason],
  ['spam_risk', (row) => row.spamRisk],
  ['effective_referrers', (row) => row.effective],
  ['spam_mass', (row) => row.spamMass],
  ['content_years', (row) => row.contentYears],
  ['drops', (row) => row.drops],
  ['drift', (row) => row.drift],
  ['language', (row) => row.language],
  ['subject', (row) => row.subject],
  ['subject_confidence', (row) => row.subjectConfidence],
  ['forwards_to', (row) => row.forwardsTo],
  ['word_marks', (row) => row.wordMarks],
  ['links_measured', (row) => iso(row.linksAt)],
  ['listing', (row) => row.listing],
  ['venue', (row) => row.venue],
  ['price', (row) => money(row.priceMinor)],
  ['currency', (row) => row.currency],
  ['price_home', (row) => money(row.homeMinor)],
  ['home_currency', (row) => (row.homeMinor === null ? null : row.homeCurrency)],
  ['bids', (row) => row.bids],
  ['closes', (row) => iso(row.closingAt)],
];
const MADE_TITLES = new Set(MADE.map(([title]) => title));
const exportKey = (fact: ShownNumber) =>
  factSpec(fact).exportKey ?? fact.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
/** Figures of the table of facts that have no place among them follow. */
const COLUMNS: typeof MADE = [
  ...MADE,
  ...SHOWN_NUMBERS.filter((fact) => !MADE_TITLES.has(exportKey(fact))).map((fact): (typeof MADE)[number] => [
    exportKey(fact),
    (row) => row[fact],
  ]),
];

/**
 * Rows of a pool view (`c` and `sort` as in the pool's address) or, with `what=shortlist`, of a brief's shortlist. `format`:
 * csv, tsv or jsonl. Streamed; there is no cap.
 */
export const GET = route('GET /export', async ({ request, query }) => {
  const { format } = query;
  const isShortlist = query.what === 'shortlist';
  const rows = isShortlist
    ? shortlistRows(query.brief)
    : rowsOf(await getStore(), await viewIds(request.nextUrl.searchParams));
  return streamText(
    formatted(rows, format, isShortlist),
    TYPES[format],
    `${isShortlist ? 'shortlist' : 'pool'}.${format}`,
  );
});

type Format = (typeof EXPORT_FORMATS)[number];
const TYPES: Record<Format, string> = {
  csv: 'text/csv; charset=utf-8',
  tsv: 'text/tab-separated-values; charset=utf-8',
  jsonl: 'application/jsonl; charset=utf-8',
};

interface ExportRow {
  view: DomainView;
  entry?: { stage: string; maximumBidMinor: number | null; note: string };
}

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
  return streamText(formatted(rowsOf(await getStore(), ids), format, false), TYPES[format], `selected.${format}`);
});

const SelectionSchema = z.union([
  z.object({ ids: z.array(z.number().int().positive()).max(1_000_000) }),
  z.object({ view: z.string().max(20_000), except: z.array(z.number().int().positive()).max(100_000) }),
]);

/** One question fixes the rows; later changes to the pool cannot shift a row out of the file. */
async function viewIds(query: URLSearchParams): Promise<number[]> {
  const { parts, sorts, problems } = parseView(query);
  if (problems.length > 0) throw new Problem(400, 'The request makes no sense', problems.join('. '));
  const { ids } = await getEngine().queryPool({ parts, sorts, offset: 0, limit: 5_000_000, histograms: [] });
  return ids;
}

async function* rowsOf(store: Store, ids: number[]): AsyncGenerator<ExportRow> {
  const rates = readRates(store);
  for (let at = 0; at < ids.length; at += CHUNK)
    for (const row of readDomains(store, ids.slice(at, at + CHUNK))) yield { view: domainView(row, false, rates) };
}

async function* shortlistRows(briefId: number | undefined): AsyncGenerator<ExportRow> {
  const { store, brief } = await currentBrief();
  const rates = readRates(store);
  for (const entry of readShortlist(store, briefId ?? brief.id))
    yield { view: domainView(entry.domain, true, rates), entry };
}

async function* formatted(
  rows: AsyncIterable<ExportRow>,
  format: Format,
  isShortlist: boolean,
): AsyncGenerator<string> {
  const titles = [...COLUMNS.map(([title]) => title), ...(isShortlist ? ['stage', 'maximum_bid', 'note'] : [])];
  if (format !== 'jsonl') yield line(titles, format);
  for await (const { view, entry } of rows) {
    const values = COLUMNS.map(([, value]) => value(view));
    if (isShortlist) values.push(entry?.stage ?? null, money(entry?.maximumBidMinor ?? null), entry?.note ?? '');
    yield format === 'jsonl'
      ? `${JSON.stringify(Object.fromEntries(titles.map((title, i) => [title, values[i]])))}\n`
      : line(values, format);
  }
}

function line(values: (string | number | null)[], format: Format): string {
  return format === 'csv' ? csvLine(values) : tsvLine(values);
}
