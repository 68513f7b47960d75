import { setTimeout as sleep } from 'node:timers/promises';
import { z } from 'zod';
import type { Connection } from '../../core/connections/connection';
import {
  entryOf,
  type FieldReader,
  listColumns,
  listRows,
  listTitles,
  readerFor,
} from '../../core/connections/meanings';
import { domainFilling, masked } from '../../core/connections/template';
import { AnswerFault } from '../../core/connections/tree';
import { statedBy } from '../../core/formats/list-batch';
import type { ListField } from '../../core/formats/list-fields';
import { packFigures } from '../../core/formats/list-figures';
import { ListRowReader } from '../../core/formats/list-row';
import { UNTOLD } from '../../core/formats/told';
import { ConnectionClient, Declined } from '../../net/connection';
import { NetError } from '../../net/errors';
import { write } from '../../store/base/database';
import { saveCheckpoint } from '../../store/base/jobs';
import { putSighting, readDomains, takeSaid } from '../../store/domains/domains';
import { putStatement, settleStated } from '../../store/sources/list-figures';
import { countRows, putReject } from '../../store/sources/sources';
import { serviceHttp } from '../connections/listings';
import { type JobContext, JobError, RateMeter, throwIfStopped } from '../runner/context';

export const FiguresParams = z.object({
  /** Id of the connection that is asked. */
  connection: z.string(),
  ids: z.array(z.number().int()),
});
const Checkpoint = z.object({ done: z.number(), said: z.number(), silent: z.number() });

/** Tries of one question when nobody answers. */
const MOST_TRIES = 3;
/** How long a service that wants to be left alone is waited for at most. */
const LONGEST_REST_MS = 120_000;
const REST_MS = 2000;

/**
 * Asks a described service for its figures of domains, one after another at its pace, and keeps what it states under its own name. What has
 * been asked is not asked again after an interruption.
 */
export async function runFigures(context: JobContext): Promise<void> {
  const { store, job, settings, signal } = context;
  const { connection: id, ids } = FiguresParams.parse(job.params);
  const connection = settings.connections.find((one) => one.id === id && one.isOn && one.use === 'figures');
  if (!connection || job.sourceId === null)
    throw new JobError('The service that was to be asked is gone or switched off.');
  const state = Checkpoint.catch({ done: 0, said: 0, silent: 0 }).parse(job.checkpoint);
  const http = serviceHttp(store, settings);
  const client = new ConnectionClient(http, connection);
  const keeper = new FigureKeeper(context, job.sourceId, connection);
  const meter = new RateMeter();
  try {
    for (; state.done < ids.length; ) {
      throwIfStopped(signal);
      const [row] = readDomains(store, [ids[state.done]]);
      const answer = row ? await ask(client, row.name, signal) : null;
      write(store, () => {
        state.done++;
        if (row && answer !== null) state[keeper.keep(row, answer, state.done) ? 'said' : 'silent']++;
        saveCheckpoint(store, job.id, state);
      });
      if (row) context.changed([row.id], job.sourceId);
      const message = `${row?.name ?? 'a domain that is gone'}; ${state.said} answered, ${state.silent} without figures`;
      context.progress({
        done: state.done,
        total: ids.length,
        unit: 'domains',
        rate: meter.rate(state.done),
        message,
      });
    }
  } finally {
    await http.close();
  }
  context.order({ kind: 'measure', sourceId: job.sourceId, params: { sourceId: job.sourceId } });
}

/** What a service says of a domain, or why it says nothing. */
type Said = { reader: FieldReader; entry: number } | { reason: string };

/** Asks about one domain; a service that wants to be left alone is. @throws JobError when it is of no use to go on. */
async function ask(client: ConnectionClient, name: string, signal: AbortSignal): Promise<Said> {
  const { connection, secrets } = client;
  const givenUp = (error: Error) =>
    new JobError(`${connection.title}: ${masked(error.message, secrets)}. What it has said until now is kept.`);
  for (let tries = 1; ; tries++) {
    try {
      const { answer } = await client.ask(domainFilling(name), signal);
      const reader = readerFor(connection, answer);
      return { reader, entry: entryOf(reader, name) };
    } catch (error) {
      if (signal.aborted) throw error;
      if (error instanceof AnswerFault) return { reason: masked(error.message, secrets) };
      if (!(error instanceof NetError)) throw error;
      const isLater = !(error instanceof Declined) || error.status === 429 || error.status >= 500;
      if (!isLater || tries >= MOST_TRIES) throw givenUp(error);
      const wanted = error instanceof Declined ? error.retryAfterMs : null;
      await sleep(Math.min(LONGEST_REST_MS, wanted ?? REST_MS * tries), undefined, { signal });
    }
  }
}

/** Keeps figures under the source that stands for the service. */
class FigureKeeper {
  private readonly columns: Exclude<ListField, 'ignore'>[];
  private readonly reader: ListRowReader;
  private readonly scores: Record<string, number>;

  constructor(
    private readonly context: JobContext,
    private readonly sourceId: number,
    private readonly connection: Connection,
  ) {
    const { store } = context;
    // which domain it is about is known
    this.columns = listColumns(connection).filter((field) => field !== 'domain' && field !== 'tld');
    const columns = ['domain' as const, ...this.columns];
    const told = listTitles(connection, columns).map((title) => ({ ...UNTOLD, title }));
    this.scores = write(store, () => settleStated(store, sourceId, columns, told));
    this.reader = new ListRowReader(columns, told, store.now());
  }

  /** Call inside a write transaction. @returns whether it said something. */
  keep(row: { id: number; name: string }, said: Said, line: number): boolean {
    const { store } = this.context;
    const at = store.now();
    const counts = { rows_read: 1, rows_taken: 0, rows_repeated: 0, rows_set_aside: 0, domains_new: 0 };
    const reading = 'reason' in said ? said.reason : this.readingOf(row.name, said);
    if (typeof reading === 'string') {
      putReject(store, this.sourceId, { line, reason: reading, sample: row.name });
      counts.rows_set_aside = 1;
    } else {
      const { currency } = this.connection;
      const values = statedBy(reading, this.scores);
      const figures = packFigures({ values, currency: reading.cpcCurrency ?? (currency || null) });
      if (putSighting(store, row.id, this.sourceId, at, line, {})) counts.rows_taken = 1;
      else counts.rows_repeated = 1;
      if (figures) putStatement(store, row.id, this.sourceId, figures, at);
      const { registeredAt } = reading;
      takeSaid(store, row.id, { phase: null, dropAt: null, registeredAt, source: `source ${this.sourceId}` });
    }
    countRows(store, this.sourceId, counts);
    return typeof reading !== 'string';
  }

  private readingOf(name: string, { reader, entry }: Exclude<Said, { reason: string }>) {
    const [cells = []] = listRows(reader, this.columns).slice(entry, entry + 1);
    if (cells.every((cell) => cell.trim() === '')) return 'it states no figure of this domain';
    const found = this.reader.readAll([name, ...cells]);
    return typeof found === 'string' ? found : found[0];
  }
}
