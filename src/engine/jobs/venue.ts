import { readFile } from 'node:fs/promises';
import { z } from 'zod';
import { listColumns, listRows, listTitles } from '../../core/connections/meanings';
import { tsvLine } from '../../core/formats/csv';
import { DATE_ORDERS } from '../../core/formats/dates';
import { listingOf, statedBy } from '../../core/formats/list-batch';
import { previewList } from '../../core/formats/list-columns';
import { LIST_FIELDS, LIST_FORMATS, LISTING_KINDS } from '../../core/formats/list-fields';
import { packFigures } from '../../core/formats/list-figures';
import { type ListRow, ListRowReader } from '../../core/formats/list-row';
import { LISTING_STATES, type Listing, RESERVES } from '../../core/listings/listing';
import { type RegistrableDomain, registrableDomain } from '../../core/names/domain';
import { ratesOf } from '../../core/settings/settings';
import { write } from '../../store/base/database';
import { putDomain, putSighting, takeSaid } from '../../store/domains/domains';
import { updateBestListing } from '../../store/offers/best-listing';
import { endMissing, putListing } from '../../store/offers/listings';
import { putStatement, settleStated } from '../../store/sources/list-figures';
import { countRows, keepDetail, putReject, type Reject, readSource } from '../../store/sources/sources';
import { noteLook, watchOfSource } from '../../store/sources/watches';
import { listingParts } from '../connections/listings';
import { fetchFile } from '../files/fetch-file';
import { asTextFile } from '../files/plain-table';
import { lookAtFile } from '../files/text-file';
import { eachListItem } from '../lists/read-list';
import { type JobContext, JobError, letOthersGo, throwIfStopped } from '../runner/context';

/** How the table of a venue that has no feed of our kind is read. */
export const VenueTable = z.object({
  format: z.enum(LIST_FORMATS).default('table'),
  delimiter: z.string().length(1).default(','),
  hasHeader: z.boolean().default(true),
  headRows: z.number().int().min(0).optional(),
  order: z.enum(DATE_ORDERS).nullable().default(null),
  sheet: z.string().nullable().default(null),
  columns: z.array(z.enum(LIST_FIELDS)),
  keys: z.array(z.string()).default([]),
  venue: z.string().min(1),
  /** Of prices that name none. */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .nullable()
    .default(null),
});
export const VenueParams = z
  .object({
    url: z.url().nullable().default(null),
    table: VenueTable.nullable().default(null),
    /** Id of the connection that it is asked by. */
    connection: z.string().nullable().default(null),
  })
  .refine(({ url, connection }) => url !== null || connection !== null, 'an address or a connection');

/** The feed of a venue, as docs/venue-feed.md describes it. */
const Currency = z.string().regex(/^[A-Z]{3}$/);
export const Feed = z.object({
  venue: z.string().min(1).max(120),
  currency: Currency,
  listings: z.array(z.unknown()),
});
const Moment = z.iso.datetime({ offset: true }).transform((text) => Date.parse(text));
const Price = z.number().int().min(0);
const FeedListing = z.object({
  domain: z.string(),
  kind: z.enum(LISTING_KINDS),
  state: z.enum(LISTING_STATES).default('open'),
  priceMinor: Price.nullable().default(null),
  currency: Currency.optional(),
  reserve: z.enum(RESERVES).nullable().default(null),
  bids: Price.nullable().default(null),
  watchers: Price.nullable().default(null),
  closesAt: Moment.nullable().default(null),
  steps: z
    .array(z.object({ at: Moment, priceMinor: Price }))
    .max(1000)
    .default([]),
  registeredAt: Moment.nullable().default(null),
  url: z
    .url({ protocol: /^https?$/ })
    .nullable()
    .default(null),
});

/** One entry of a feed or row of a table: what it offers, or why it is set aside. */
type Entry =
  | Reject
  | {
      line: number;
      domain: RegistrableDomain;
      offer: Listing | null;
      registeredAt: number | null;
      said: object;
      /** Figures that it states, packed. */
      figures?: string | null;
    };

const BATCH = 1000;

/**
 * Reads a venue: its feed, its table by the given columns, or what a connection says of it. Reading it again brings offers up to date and writes down what
 * changed; what it does not offer any more has ended. A server that says nothing has changed is not read.
 */
export async function runVenue(context: JobContext): Promise<void> {
  const { store, job, settings, signal } = context;
  const { url, table, connection } = VenueParams.parse(job.params);
  const sourceId = job.sourceId;
  const source = sourceId === null ? null : readSource(store, sourceId);
  if (sourceId === null || !source) throw new JobError('The feed lost its source.');
  const { etag = null, modified = null } = source.detail as { etag?: string | null; modified?: string | null };
  const since = store.now();
  const file = url === null ? null : await fetchFile(store, settings, url, { etag, modified }, signal);
  const report = (done: number, message: string) =>
    context.progress({ done, total: null, unit: 'listings', rate: 0, message });
  const end = (listings: number, outcome: string) => {
    report(listings, outcome);
    const watch = watchOfSource(store, sourceId);
    if (watch) noteLook(store, watch.id, { outcome });
  };
  if (!file && connection === null) {
    keepDetail(store, sourceId, { readAt: since, wasUnchanged: true });
    end(0, 'nothing has changed since the last reading');
    return;
  }
  let done = 0;
  let changes = 0;
  const entries = file
    ? table
      ? tableEntries(context, sourceId, file.path, table)
      : feedEntries(file.path)
    : describedEntries(context, sourceId, connection ?? '');
  let batch: Entry[] = [];
  const flush = () => {
    throwIfStopped(signal);
    const part = write(store, () => writeEntries(context, sourceId, batch));
    context.changed(part.ids, sourceId);
    done += batch.length;
    changes += part.changes;
    batch = [];
    report(done, changeWords(changes));
  };
  for await (const entry of entries) {
    if (batch.push(entry) < BATCH) continue;
    flush();
    await letOthersGo(store);
  }
  if (batch.length > 0) flush();
  if (done === 0)
    throw new JobError('The venue answered without a single listing; what is known of it stays as it is.');
  const ended = write(store, () => {
    const ids = endMissing(store, sourceId, since, store.now());
    for (const id of ids) updateBestListing(store, id, store.now(), ratesOf(settings));
    const { etag: mark = null, modified: changedAt = null } = file ?? {};
    keepDetail(store, sourceId, { etag: mark, modified: changedAt, readAt: since, wasUnchanged: false });
    return ids;
  });
  context.changed(ended);
  end(done, `${done.toLocaleString('en')} listings, ${changeWords(changes + ended.length)}`);
  context.log.info({ url, connection, listings: done, changes, ended: ended.length }, 'venue read');
}

function changeWords(changes: number): string {
  if (changes === 0) return 'nothing changed';
  return changes === 1 ? '1 thing changed' : `${changes.toLocaleString('en')} things changed`;
}

/** What a connection says, part by part. Nothing of the venue ends when a part is missing. */
async function* describedEntries(
  { store, settings, signal }: JobContext,
  sourceId: number,
  id: string,
): AsyncGenerator<Entry> {
  const connection = settings.connections.find((one) => one.id === id && one.isOn);
  if (!connection) throw new JobError('The connection that this venue is asked by is gone or switched off.');
  const now = store.now();
  const columns = listColumns(connection);
  const table = { venue: connection.title, currency: connection.currency || null };
  let reader: ListRowReader | null = null;
  let scores: Record<string, number> = {};
  let line = 0;
  for await (const read of listingParts(store, settings, connection, signal)) {
    const rows = listRows(read, columns);
    if (reader === null) {
      const sample = [listTitles(connection, columns), ...rows].map(tsvLine).join('');
      const { told } = previewList(sample, { columns, delimiter: '\t', hasHeader: true, headRows: 1 }, now);
      scores = write(store, () => settleStated(store, sourceId, columns, told));
      reader = new ListRowReader(columns, told, now);
    }
    for (const fields of rows) {
      line++;
      const found = reader.readAll(fields);
      if (typeof found === 'string') yield { line, reason: found, sample: fields.join(' · ').slice(0, 120) };
      else for (const row of found) yield tableEntry(row, line, table, scores);
    }
  }
}

async function* feedEntries(path: string): AsyncGenerator<Entry> {
  let value: unknown;
  try {
    value = JSON.parse(await readFile(path, 'utf8'));
  } catch (error) {
    throw new JobError(`The feed is no JSON: ${(error as Error).message}`);
  }
  const parsed = Feed.safeParse(value);
  if (!parsed.success)
    throw new JobError(`The feed is not as docs/venue-feed.md describes it: ${z.prettifyError(parsed.error)}`);
  const { venue, currency, listings } = parsed.data;
  for (const [index, given] of listings.entries()) yield feedEntry(given, index + 1, venue, currency);
}

function feedEntry(given: unknown, line: number, venue: string, currency: string): Entry {
  const sample = () => JSON.stringify(given).slice(0, 120);
  const parsed = FeedListing.safeParse(given);
  if (!parsed.success) return { line, reason: z.prettifyError(parsed.error), sample: sample() };
  const { domain: text, registeredAt, closesAt, ...rest } = parsed.data;
  const domain = registrableDomain(text);
  if (!domain) return { line, reason: `"${text.slice(0, 80)}" is no registrable domain`, sample: sample() };
  const steps = rest.steps.toSorted((a, b) => a.at - b.at);
  const offer: Listing = { ...rest, steps, currency: rest.currency ?? currency, venue, closingAt: closesAt };
  return { line, domain, offer, registeredAt, said: { registeredAt } };
}

async function* tableEntries(
  { store }: JobContext,
  sourceId: number,
  path: string,
  table: z.infer<typeof VenueTable>,
): AsyncGenerator<Entry> {
  const now = store.now();
  const { sample } = await lookAtFile(await asTextFile(path, table.sheet));
  const { columns, delimiter, hasHeader, order } = table;
  const given = { columns, delimiter, hasHeader, headRows: table.headRows, ...(order && { order }) };
  const { told, headRows } = previewList(sample, given, now);
  const scores = write(store, () => settleStated(store, sourceId, columns, told));
  const reader = new ListRowReader(columns, told, now);
  for await (const item of eachListItem(path, { ...table, headRows })) {
    if ('reason' in item) {
      yield item;
      continue;
    }
    const { line, fields } = item;
    const rows = reader.readAll(fields);
    if (typeof rows === 'string') yield { line, reason: rows, sample: fields.join(' · ').slice(0, 120) };
    else for (const row of rows) yield tableEntry(row, line, table, scores);
  }
}

function tableEntry(
  row: ListRow,
  line: number,
  table: Pick<z.infer<typeof VenueTable>, 'venue' | 'currency'>,
  scores: Readonly<Record<string, number>>,
): Entry {
  const { domain, ending, registeredAt, backlinks, referringDomains } = row;
  const kind = listingOf(row);
  return {
    line,
    domain: { name: domain, ending },
    registeredAt,
    said: { registeredAt, backlinks, referringDomains },
    figures: packFigures({ values: statedBy(row, scores), currency: row.cpcCurrency ?? table.currency }),
    offer: kind && {
      kind,
      state: 'open',
      venue: row.venue ?? table.venue,
      priceMinor: row.priceMinor,
      currency: row.currency ?? table.currency,
      reserve: row.reserve,
      bids: row.bids,
      closingAt: row.closingAt,
      steps: [],
      url: row.url,
    },
  };
}

function writeEntries(context: JobContext, sourceId: number, entries: Entry[]): { ids: number[]; changes: number } {
  const { store, settings } = context;
  const at = store.now();
  const rates = ratesOf(settings);
  const ids = new Set<number>();
  const counts = { rows_read: entries.length, rows_taken: 0, rows_repeated: 0, rows_set_aside: 0, domains_new: 0 };
  let changes = 0;
  for (const entry of entries) {
    if ('reason' in entry) {
      putReject(store, sourceId, entry);
      counts.rows_set_aside++;
      continue;
    }
    const { id, isNew } = putDomain(store, entry.domain, true, at);
    if (isNew) counts.domains_new++;
    const said = Object.fromEntries(Object.entries(entry.said).filter(([, value]) => value !== null));
    if (putSighting(store, id, sourceId, at, entry.line, said)) counts.rows_taken++;
    else counts.rows_repeated++;
    if (entry.figures) putStatement(store, id, sourceId, entry.figures, at);
    takeSaid(store, id, {
      phase: null,
      dropAt: null,
      registeredAt: entry.registeredAt,
      source: `source ${sourceId}`,
    });
    if (entry.offer)
      changes += putListing(store, id, sourceId, entry.offer, at).filter(({ what }) => what !== 'listed').length;
    ids.add(id);
  }
  for (const id of ids) updateBestListing(store, id, at, rates);
  countRows(store, sourceId, counts);
  return { ids: [...ids], changes };
}
