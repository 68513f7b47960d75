import { z } from 'zod';
import { normalizeAddress } from '../../core/crawl/address';
import { type CsvProblem, CsvReader, type CsvRow } from '../../core/formats/csv';
import { parseDate } from '../../core/formats/dates';
import { guessLinkColumns, LINK_FIELDS, type LinkField } from '../../core/formats/link-rows';
import { sniffDelimiter } from '../../core/formats/list-columns';
import { plainText } from '../../core/formats/plain-text';
import { linkingSite, registrableDomain } from '../../core/names/domain';
import { write } from '../../store/base/database';
import { saveCheckpoint } from '../../store/base/jobs';
import { putDomain } from '../../store/domains/domains';
import { putLink } from '../../store/links/links';
import { countRows, putReject } from '../../store/sources/sources';
import { asTextFile } from '../files/plain-table';
import { lookAtFile, textChunks } from '../files/text-file';
import { type JobContext, JobError, RateMeter, throwIfStopped } from '../runner/context';

export const LinksParams = z.object({
  path: z.string(),
  /** What each column means; absent: as the header says. */
  columns: z.array(z.enum(LINK_FIELDS)).optional(),
  delimiter: z.string().length(1).optional(),
  hasHeader: z.boolean().default(true),
});

const BATCH_ROWS = 2000;
const ANCHOR_CHARS = 200;
type Column = Exclude<LinkField, 'ignore'>;

/** Reads the export of a link index, a row for each link. Rows are numbered, so reading twice is harmless. */
export async function runLinks(context: JobContext): Promise<void> {
  const { store, job, signal } = context;
  const { path: given, ...shape } = LinksParams.parse(job.params);
  const sourceId = job.sourceId;
  if (sourceId === null) throw new JobError('The import lost its source.');
  // workbooks, archives and documents are tables by then
  const path = await asTextFile(given);
  const kind = await lookAtFile(path);
  const delimiter = shape.delimiter ?? sniffDelimiter(kind.sample);
  const meter = new RateMeter();
  const sites = new Map<string, number>();
  let skip = Number(job.checkpoint?.items ?? 0);
  let items = skip;
  let columns: Partial<Record<Column, number>> | null = shape.columns ? placesOf(shape.columns) : null;
  let headerPending = shape.hasHeader;
  if (!columns && !headerPending) throw new JobError('Without a header, say what the columns mean.');
  let batch: (CsvRow | CsvProblem)[] = [];
  const reader = new CsvReader(
    (row) => batch.push(row),
    (problem) => batch.push(problem),
    { delimiter, maxRowChars: 64 * 1024 },
  );

  const siteId = (name: string, ending: string, at: number): number => {
    let id = sites.get(name);
    if (id === undefined) {
      id = putDomain(store, { name, ending }, false, at).id;
      if (sites.size < 500_000) sites.set(name, id);
    }
    return id;
  };

  const flush = (): void => {
    let todo = batch;
    batch = [];
    if (headerPending && todo.length > 0) {
      const header = todo[0];
      columns ??= 'fields' in header ? placesOf(guessLinkColumns(header.fields)) : {};
      headerPending = false;
      todo = todo.slice(1);
    }
    if (columns && (columns.from === undefined || columns.to === undefined))
      throw new JobError('The first row names no column for the linking page ("from") and the linked page ("to").');
    if (skip > 0) {
      const passed = Math.min(skip, todo.length);
      skip -= passed;
      todo = todo.slice(passed);
    }
    for (let start = 0; start < todo.length; start += BATCH_ROWS) {
      const part = todo.slice(start, start + BATCH_ROWS);
      write(store, () => {
        const at = store.now();
        let taken = 0;
        let repeated = 0;
        let setAside = 0;
        for (const item of part) {
          items++;
          const link = 'fields' in item ? readLink(item.fields, columns ?? {}) : item.reason;
          if (typeof link === 'string') {
            const sample = 'fields' in item ? item.fields.join(' · ').slice(0, 120) : item.sample;
            putReject(store, sourceId, { line: item.line, reason: link, sample });
            setAside++;
            continue;
          }
          const isNew = putLink(store, {
            ...link,
            toId: siteId(link.to.name, link.to.ending, at),
            fromId: siteId(link.from.name, link.from.ending, at),
            sourceId,
            seq: items,
          });
          if (isNew) taken++;
          else repeated++;
        }
        countRows(store, sourceId, {
          rows_read: part.length,
          rows_taken: taken,
          rows_repeated: repeated,
          rows_set_aside: setAside,
        });
        saveCheckpoint(store, job.id, { items });
      });
    }
    context.progress({ done: items, total: null, unit: 'links', rate: meter.rate(items), message: 'reading links' });
  };

  for await (const chunk of textChunks(path, kind)) {
    throwIfStopped(signal);
    reader.write(chunk);
    if (batch.length >= BATCH_ROWS) flush();
  }
  reader.end();
  flush();
  context.progress({ done: items, total: items, unit: 'links', rate: meter.rate(items), message: 'read to the end' });
}

function placesOf(fields: readonly LinkField[]): Partial<Record<Column, number>> {
  const places: Partial<Record<Column, number>> = {};
  fields.forEach((field, index) => {
    if (field !== 'ignore') places[field] ??= index;
  });
  return places;
}

function readLink(fields: string[], columns: Partial<Record<Column, number>>) {
  const value = (column: Column): string => {
    const index = columns[column];
    return index === undefined ? '' : (fields[index] ?? '').trim();
  };
  const fromAddress = normalizeAddress(value('from'));
  const toAddress = normalizeAddress(value('to'));
  if (!fromAddress || !toAddress) return `"${(fromAddress ? value('to') : value('from')).slice(0, 80)}" is no address`;
  const from = linkingSite(fromAddress.site);
  const to = registrableDomain(toAddress.site);
  if (!from || !to) return `"${(from ? toAddress : fromAddress).site.slice(0, 80)}" is no registrable domain`;
  if (from.name === to.name) return 'the link stays within one domain';
  return {
    from,
    to,
    fromUrl: fromAddress.url,
    toUrl: toAddress.url,
    anchor: plainText(value('anchor'), ANCHOR_CHARS),
    nofollow: /nofollow|ugc|sponsored|^(true|yes|1)$/i.test(value('rel')),
    indexable: true,
    firstSeenAt: parseDate(value('first-seen')),
    lastSeenAt: parseDate(value('last-seen')),
  };
}
