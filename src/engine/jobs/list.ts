import { stat } from 'node:fs/promises';
import { z } from 'zod';
import { ColumnTallySchema } from '../../contracts/formats';
import { tallied } from '../../core/formats/tally';
import { ratesOf } from '../../core/settings/settings';
import { IMPORT_LOG_PAGES, write } from '../../store/base/database';
import { saveCheckpoint } from '../../store/base/jobs';
import { settleStated } from '../../store/sources/list-figures';
import { putListBatch, type WrittenBatch } from '../../store/sources/lists.sql';
import { putRawRows } from '../../store/sources/raw-rows';
import { countRows, keepDetail, putReject, readSource } from '../../store/sources/sources';
import { Checkpointer } from '../database/checkpointer';
import { ListParams, type ListPart, readList, settleReading } from '../lists/read-list';
import { partsFromThread } from '../lists/reader';
import { type JobContext, JobError, letOthersGo, RateMeter, throwIfStopped } from '../runner/context';

const Tallies = z.array(ColumnTallySchema);

/** A file smaller than this is read before a thread would have started. */
const SMALL_BYTES = 2 * 1024 * 1024;

/**
 * Reads a list into sightings and domains: a thread reads and packs, this one writes. After an interruption it reads from the
 * start and passes over what the checkpoint says is written; a row written twice would change nothing anyway.
 * rows read = taken + repeated + excluded + set aside.
 */
export async function runList(context: JobContext): Promise<void> {
  const { store, job, signal } = context;
  const given = ListParams.parse(job.params);
  const sourceId = job.sourceId;
  if (sourceId === null) throw new JobError('The import lost its source.');
  if (!given.columns.includes('domain')) throw new JobError('No column is marked as the domain.');
  const now = given.now ?? job.createdAt;
  const settled = await settleReading({ ...given, now });
  const { columns, delimiter, venue } = given;
  const { told } = settled;
  const params = write(store, () => {
    keepDetail(store, sourceId, { columns, delimiter, venue, told, now });
    const scores = settleStated(store, sourceId, columns, told);
    return { ...given, now, ...settled, scores };
  });
  const meter = new RateMeter();
  /** Rows of windows that are written, and parts of the next that are. */
  let windows = Number(job.checkpoint?.items ?? 0);
  let parts = Number(job.checkpoint?.parts ?? 0);
  let passed = 0;
  let items = windows;
  let tally = Tallies.parse(readSource(store, sourceId)?.detail.tally ?? []);
  if (windows === 0) tally = [];
  const take = (part: ListPart): void => {
    throwIfStopped(signal);
    items += part.rows;
    if (passed++ < parts) return;
    parts = part.windowRows > 0 ? 0 : passed;
    if (part.windowRows > 0) {
      windows += part.windowRows;
      passed = 0;
    }
    const written = write(store, () => {
      const batch = writePart(context, sourceId, part, params.venue);
      saveCheckpoint(store, job.id, { items: windows, parts });
      if (part.tally.length > 0) {
        tally = tallied(tally, part.tally);
        keepDetail(store, sourceId, { tally });
      }
      return batch;
    });
    context.added(part.batch, written, sourceId);
    context.progress({
      done: items,
      total: part.readShare >= 1 ? items : Math.round(items / part.readShare),
      unit: 'rows',
      rate: meter.rate(items),
      message: 'reading the list',
    });
  };
  const checkpointer = new Checkpointer(store);
  const takeAll = async () => {
    const isSmall = (await stat(params.path)).size < SMALL_BYTES;
    if (isSmall)
      await readList(params, windows, (part) => {
        take(part);
        return true;
      });
    else
      for await (const part of partsFromThread(params, windows)) {
        take(part);
        checkpointer.look();
        await letOthersGo(store);
      }
  };
  // every row that is written names a domain and a source of this very transaction
  store.raw.pragma('foreign_keys = OFF');
  store.raw.pragma(`wal_autocheckpoint = ${IMPORT_LOG_PAGES}`);
  try {
    await takeAll();
  } finally {
    store.raw.pragma('foreign_keys = ON');
    await checkpointer.end();
  }
  context.progress({ done: items, total: items, unit: 'rows', rate: meter.rate(items), message: 'read to the end' });
}

function writePart(context: JobContext, sourceId: number, part: ListPart, venue: string | null): WrittenBatch {
  const { store } = context;
  const written = putListBatch(store, sourceId, part.batch, venue, store.now(), ratesOf(context.settings));
  for (const { firstLine, packed } of part.blocks) putRawRows(store, sourceId, firstLine, packed);
  for (const reject of part.rejects) putReject(store, sourceId, reject);
  countRows(store, sourceId, {
    rows_read: part.rows,
    rows_taken: written.taken,
    rows_repeated: written.repeated,
    rows_excluded: part.excluded,
    rows_set_aside: part.rejects.length,
    domains_new: written.domainsNew,
  });
  return written;
}
