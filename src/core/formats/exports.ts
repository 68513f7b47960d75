import type { DomainView } from '../pool/domain-view';
import { FACTS, factSpec, SHOWN_NUMBERS, type ShownNumber } from '../pool/facts';
import { csvLine, tsvLine } from './csv';

export const EXPORT_FORMATS = ['csv', 'tsv', 'jsonl', 'xlsx', 'ods'] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

export const EXPORT_TYPES: Record<ExportFormat, string> = {
  csv: 'text/csv; charset=utf-8',
  tsv: 'text/tab-separated-values; charset=utf-8',
  jsonl: 'application/jsonl; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
};

/** Rows that a sheet of a workbook has at most, its titles beside them (ECMA-376, ODF: 1,048,576). */
export const MOST_SHEET_ROWS = 1_048_575;

/** What stands in a cell: a text, a number, a moment (ms since 1970 UTC), an amount in minor units. */
export type Cell = string | number | null;

/** A column of an export. */
export interface ExportColumn<Row> {
  title: string;
  kind: 'text' | 'number' | 'date' | 'money';
  of(row: Row): Cell;
  /** What it says, in half a sentence. */
  about: string;
}

/** Shown by the columns of the pool with these ids. */
interface PoolExport extends ExportColumn<DomainView> {
  shownBy: readonly string[];
}

const made = (
  title: string,
  kind: ExportColumn<DomainView>['kind'],
  field: keyof DomainView,
  shownBy: string,
  about: string,
): PoolExport => ({ title, kind, of: (row) => row[field] as Cell, shownBy: shownBy.split(' '), about });

/** Columns of domains, in order. */
const MADE: PoolExport[] = [
  made('domain', 'text', 'name', 'domain', 'the name, as addresses hold it'),
  made('phase', 'text', 'phase', 'phase', 'where it stands in its life'),
  made('phase_source', 'text', 'phaseSource', 'phase', 'who said so'),
  made('phase_at', 'date', 'phaseAt', 'phase phaseAsked', 'when that was asked'),
  made('registered', 'date', 'registeredAt', 'age', 'when it was registered'),
  made('expires', 'date', 'expiresAt', 'expires', 'when its registration ends'),
  made('drop_expected', 'date', 'dropAt', 'drop', 'when it is expected to drop'),
  made('first_seen', 'date', 'firstSeenAt', 'life', 'the first capture in an archive'),
  made('captures', 'number', 'captures', 'life captures', 'captures in the archives'),
  made('backlinks', 'number', 'backlinks', 'referrers', 'pages that link to it'),
  made('referring_domains', 'number', 'referringDomains', 'referrers', 'domains that link to it'),
  made('strength', 'number', 'strength', 'pair', '0 to 100, by its links'),
  made('trust', 'number', 'trust', 'pair', '0 to 100, by links from trusted sites'),
  made('judged', 'text', 'judged', 'judged', 'what was decided of it'),
  made('judged_reason', 'text', 'judgedReason', 'judged', 'and why'),
  made('spam_risk', 'number', 'spamRisk', 'spam', '0 to 100'),
  made('effective_referrers', 'number', 'effective', 'effective', FACTS.effective.about),
  made('spam_mass', 'number', 'spamMass', 'spamMass', FACTS.spamMass.about),
  made('content_years', 'number', 'contentYears', 'contentYears', 'years in which it had content'),
  made('drops', 'number', 'drops', 'drops', 'times it dropped before'),
  made('drift', 'number', 'drift', 'drift', FACTS.drift.about),
  made('language', 'text', 'language', 'language', 'of its captures, ISO 639-1'),
  made('subject', 'text', 'subject', 'subject', 'what its captures were about'),
  made('subject_confidence', 'number', 'subjectConfidence', 'subject', '0 to 1'),
  made('forwards_to', 'text', 'forwardsTo', 'forwardsTo', 'where it forwards to'),
  made('word_marks', 'number', 'wordMarks', 'wordMarks', FACTS.wordMarks.about),
  made('links_measured', 'date', 'linksAt', 'linksMeasured', 'when its links were measured'),
  made('listing', 'text', 'listing', 'listing', 'how it is offered'),
  made('venue', 'text', 'venue', 'ask venue', 'where'),
  made('price', 'money', 'priceMinor', 'ask', 'for what'),
  made('currency', 'text', 'currency', 'ask', 'of the price, ISO 4217'),
  made('price_home', 'money', 'homeMinor', 'ask', 'the price in your currency'),
  { title: 'home_currency', kind: 'text', of: (row) => (row.homeMinor === null ? null : row.homeCurrency), shownBy: ['ask'], about: 'your currency, ISO 4217' },
  made('bids', 'number', 'bids', 'bids', 'bids so far'),
  made('closes', 'date', 'closingAt', 'closes', 'when it closes'),
  made('listing_url', 'text', 'listingUrl', 'ask', 'the page of the offer'),
  made('offer_read', 'date', 'listingAt', 'offerRead', 'when the offer was read'),
  made('tld', 'text', 'ending', 'ending', 'what stands behind the label'),
  made('length', 'number', 'length', 'length', 'characters before the TLD'),
  made('registrar', 'text', 'registrar', 'registrar', 'where it is or was registered'),
  made('last_seen', 'date', 'lastSeenAt', 'lastSeen', 'the last capture in an archive'),
  made('past_read', 'date', 'pastAt', 'pastRead', 'when the archive was asked'),
  made('area', 'text', 'area', 'subject', 'the area of its subject'),
  { title: 'trust_share', kind: 'number', of: (row) => (row.trust === null || !row.strength ? null : Number((row.trust / row.strength).toFixed(3))), shownBy: ['trustShare'], about: 'trust over strength' },
  made('first_found', 'date', 'addedAt', 'added', 'when a source named it first'),
]; // biome-ignore format: a column a line
const TITLES = new Set(MADE.map(({ title }) => title));
const exportKey = (fact: ShownNumber) =>
  factSpec(fact).exportKey ?? fact.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
/** Figures of the table of facts that have no place among them follow. */
const DOMAIN_COLUMNS: PoolExport[] = [
  ...MADE,
  ...SHOWN_NUMBERS.filter((fact) => !TITLES.has(exportKey(fact))).map((fact) =>
    made(exportKey(fact), 'number', fact, fact, factSpec(fact).about ?? factSpec(fact).label),
  ),
];

/** Columns of domains: all of them, or those that columns of the pool show, in their order. */
export function domainColumns(shown: readonly string[] | null): ExportColumn<DomainView>[] {
  if (shown === null) return DOMAIN_COLUMNS;
  const found = new Set<PoolExport>(DOMAIN_COLUMNS.slice(0, 1));
  for (const id of shown) for (const column of DOMAIN_COLUMNS) if (column.shownBy.includes(id)) found.add(column);
  return [...found];
}

const written = (cell: Cell, kind: ExportColumn<never>['kind']): Cell => {
  if (cell === null || typeof cell === 'string') return cell;
  if (kind === 'date') return new Date(cell).toISOString();
  return kind === 'money' ? (cell / 100).toFixed(2) : cell;
};

/** Rows as text, one after another: dates in ISO 8601, money with its cents. */
export async function* exportedText<Row>(
  rows: AsyncIterable<Row>,
  columns: readonly ExportColumn<Row>[],
  format: Exclude<ExportFormat, 'xlsx' | 'ods'>,
): AsyncGenerator<string> {
  const titles = columns.map(({ title }) => title);
  const line = format === 'tsv' ? tsvLine : csvLine;
  if (format !== 'jsonl') yield line(titles);
  for await (const row of rows) {
    const values = columns.map(({ of, kind }) => written(of(row), kind));
    yield format === 'jsonl'
      ? `${JSON.stringify(Object.fromEntries(titles.map((title, n) => [title, values[n]])))}\n`
      : line(values);
  }
}
