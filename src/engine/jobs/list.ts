import { z } from 'zod';
import { type CsvProblem, CsvReader, type CsvRow } from '../../core/formats/csv';
import { type ListRow, readListRow } from '../../core/formats/list-columns';
import { LIST_FIELDS } from '../../core/formats/list-fields';
import { write } from '../../store/database';
import { type ListedValues, putListed, putSighting } from '../../store/domains';
import { saveCheckpoint } from '../../store/jobs';
import { countRows, putReject, type SourceCounts } from '../../store/sources';
import { type JobContext, JobError, RateMeter, throwIfStopped } from '../context';
import { lookAtFile, textChunks } from '../text-file';

export const ListParams = z.object({
  path: z.string(),
  delimiter: z.string().length(1),
  hasHeader: z.boolean(),
  columns: z.array(z.enum(LIST_FIELDS)),
  venue: z.string().nullable().default(null),
  excludedEndings: z.array(z.string()).default([]),
});

const BATCH_ROWS = 2000;

/** A row or a problem, in the order of the file. */
type Item = { row: CsvRow } | { problem: CsvProblem };

/**
 * Reads a list into sightings and domains. After an interruption it reads from the start and skips what the checkpoint
 * says is written; a row written twice would change nothing anyway. rows read = taken + repeated + excluded + set aside.
 */
export async function runList(context: JobContext): Promise<void> {
  const { store, job, signal } = context;
  const params = ListParams.parse(job.params);
  const sourceId = job.sourceId;
  if (sourceId === null) throw new JobError('The import lost its source.');
  if (!params.columns.includes('domain')) throw new JobError('No column is marked as the domain.');
  const kind = await lookAtFile(params.path);
  const excluded = new Set(params.excludedEndings);
  const meter = new RateMeter();
  let skip = Number(job.checkpoint?.items ?? 0);
  let items = skip;
  let headerPending = params.hasHeader;
  let batch: Item[] = [];

  const reader = new CsvReader(
    (row) => batch.push({ row }),
    (problem) => batch.push({ problem }),
    { delimiter: params.delimiter, maxRowChars: 64 * 1024 },
  );
  const flush = (): void => {
    let todo = batch;
    batch = [];
    if (headerPending && todo.length > 0) {
      todo = todo.slice(1);
      headerPending = false;
    }
    if (skip > 0) {
      const passed = Math.min(skip, todo.length);
      skip -= passed;
      todo = todo.slice(passed);
    }
    for (let at = 0; at < todo.length; at += BATCH_ROWS) {
      const part = todo.slice(at, at + BATCH_ROWS);
      items += part.length;
      const ids = write(store, () => {
        const written = writeItems(context, sourceId, params.columns, params.venue, excluded, part);
        saveCheckpoint(store, job.id, { items });
        return written;
      });
      context.changed(ids, sourceId);
    }
    context.progress({ done: items, total: null, unit: 'rows', rate: meter.rate(items), message: 'reading the list' });
  };

  for await (const chunk of textChunks(params.path, kind)) {
    throwIfStopped(signal);
    reader.write(chunk);
    if (batch.length >= BATCH_ROWS) flush();
  }
  reader.end();
  flush();
  context.progress({ done: items, total: items, unit: 'rows', rate: meter.rate(items), message: 'read to the end' });
}

function writeItems(
  context: JobContext,
  sourceId: number,
  columns: z.infer<typeof ListParams>['columns'],
  venue: string | null,
  excluded: Set<string>,
  items: Item[],
): number[] {
  const { store } = context;
  const at = store.now();
  const counts: SourceCounts = {
    rows_read: 0,
    rows_taken: 0,
    rows_repeated: 0,
    rows_excluded: 0,
    rows_set_aside: 0,
    domains_new: 0,
  };
  const ids: number[] = [];
  for (const item of items) {
    counts.rows_read++;
    if ('problem' in item) {
      putReject(store, sourceId, item.problem);
      counts.rows_set_aside++;
      continue;
    }
    const { fields, line } = item.row;
    const row = readListRow(fields, columns);
    if (typeof row === 'string') {
      putReject(store, sourceId, { line, reason: row, sample: fields.join(' · ').slice(0, 120) });
      counts.rows_set_aside++;
    } else if (isExcluded(row.ending, excluded)) counts.rows_excluded++;
    else {
      const domain = { name: row.domain, ending: row.ending };
      const { id, isNew } = putListed(store, domain, listedValues(row, venue, sourceId), at);
      if (isNew) counts.domains_new++;
      if (putSighting(store, id, sourceId, at, line, said(row))) {
        counts.rows_taken++;
        ids.push(id);
      } else counts.rows_repeated++;
    }
  }
  countRows(store, sourceId, counts);
  return ids;
}

/** `co.uk` is excluded by `co.uk` and by `uk`. */
export function isExcluded(ending: string, excluded: Set<string>): boolean {
  return excluded.size > 0 && (excluded.has(ending) || excluded.has(ending.slice(ending.lastIndexOf('.') + 1)));
}

function said(row: ListRow): Record<string, unknown> {
  const kept: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(row))
    if (value !== null && key !== 'domain' && key !== 'ending') kept[key] = value;
  return kept;
}

/** What a row says, as current values. A price or closing time without a kind is taken as the plainest listing. */
export function listedValues(
  row: ListRow,
  venue: string | null,
  sourceId: number,
  listingUrl: string | null = null,
): ListedValues {
  const isListed = row.kind !== null || row.closingAt !== null || row.priceMinor !== null;
  return {
    phase: row.phase,
    dropAt: row.dropAt,
    registeredAt: row.registeredAt,
    listing: isListed ? (row.kind ?? (row.closingAt !== null ? 'auction' : 'buy-now')) : null,
    venue: row.venue ?? venue,
    priceMinor: row.priceMinor,
    currency: row.currency,
    bids: row.bids,
    closingAt: row.closingAt,
    listingUrl,
    source: `source ${sourceId}`,
  };
}
