import { z } from 'zod';
import { FindSwitchFields } from '../../core/crawl/params';
import { sampleOf } from '../../core/formats/csv-bytes';
import { JsonLinesReader } from '../../core/formats/json-lines';
import { LINK_FIELDS, LinkRowReader, type LinkRowTaker } from '../../core/formats/link-rows';
import { LIST_FORMATS } from '../../core/formats/list-fields';
import { LinkCut } from '../../core/links/link-cut';
import { registrableDomain } from '../../core/names/domain';
import { switchesOf } from '../../store/crawl/find-causes';
import { keepDetail, type Reject } from '../../store/sources/sources';
import { FindTaker } from '../crawl/find-taker';
import { asTextFile } from '../files/plain-table';
import { byteChunks, lookAtFile, textChunks } from '../files/text-file';
import { type JobContext, JobError, RateMeter, throwIfStopped } from '../runner/context';
import { MOST_REJECTS, writeFound } from './found';

export const CutParams = z.object({
  path: z.string(),
  format: z.enum(LIST_FORMATS).default('table'),
  /** Of JSON Lines: the key of each column. */
  keys: z.array(z.string()).default([]),
  delimiter: z.string().length(1).default(','),
  hasHeader: z.boolean().default(true),
  columns: z.array(z.enum(LINK_FIELDS)),
  excludedEndings: z.array(z.string()).default([]),
  ...FindSwitchFields,
  /** Domains that fewer others link to are left out. */
  leastSites: z.number().int().min(1).default(1),
});
export type CutParams = z.infer<typeof CutParams>;

export interface CutResult {
  cut: LinkCut;
  rows: number;
  setAside: number;
  rejects: Reject[];
}

/**
 * Cuts a link export to outside domains, which go to the pool. The file is read anew after an interruption, with the same outcome;
 * what is written then goes on where it was.
 * rows read = taken (to outside domains) + repeated (within one domain) + set aside. What is left out of the finds is said by domain.
 */
export async function runCut(context: JobContext): Promise<void> {
  const { store, job } = context;
  const params = CutParams.parse(job.params);
  const sourceId = job.sourceId;
  if (sourceId === null) throw new JobError('The cut lost its source.');
  const { cut, rows, setAside, rejects } = await cutLinks(context, params);
  const domains = [...cut.survivors(params.leastSites)].map(({ name, ...said }) => ({
    name,
    ending: registrableDomain(name)?.ending ?? '',
    said,
  }));
  const { kept, inside } = cut.counts;
  const counts = {
    rows_read: rows,
    rows_taken: kept,
    rows_repeated: inside,
    rows_excluded: 0,
    rows_set_aside: setAside,
  };
  const few = [...cut.survivors()].length - domains.length;
  keepDetail(store, sourceId, { domains: domains.length, few });
  const finds = new FindTaker(store, sourceId, { ...params, leaveOut: switchesOf(store, sourceId) });
  await writeFound(context, sourceId, { domains, counts, rejects }, 'writing outside domains', finds);
  const message = `${domains.length.toLocaleString('en')} outside domains from ${rows.toLocaleString('en')} rows`;
  context.progress({ done: rows, total: rows, unit: 'rows', rate: 0, message });
}

/** Reads a link export in one pass. @throws JobError on a file that cannot be read. */
export async function cutLinks(
  context: Pick<JobContext, 'signal' | 'progress'>,
  params: CutParams,
): Promise<CutResult> {
  const rejects: Reject[] = [];
  let setAside = 0;
  const reject = (line: number, reason: string, sample: () => string) => {
    setAside++;
    if (rejects.length < MOST_REJECTS) rejects.push({ line, reason, sample: sample() });
  };
  let lineOf = () => 0;
  const cut = new LinkCut(
    (reason, bytes, { start, end }) => reject(lineOf(), reason, () => sampleOf(bytes, start, end)),
    (line, reason, sample) => reject(line, reason, () => sample),
  );
  const path = await asTextFile(params.path);
  const kind = await lookAtFile(path);
  const meter = new RateMeter();
  let share = 0;
  const report = (rows: number) =>
    context.progress({
      done: rows,
      total: share > 0 ? Math.round(rows / share) : null,
      unit: 'rows',
      rate: meter.rate(rows),
      message: 'reading the export',
    });
  const onShare = (read: number) => {
    share = read;
    throwIfStopped(context.signal);
  };
  if (params.format === 'json-lines') {
    const lines = new JsonLinkRows(cut, params, (line) => {
      lineOf = () => line;
    });
    for await (const chunk of textChunks(path, kind, onShare)) {
      lines.reader.write(chunk);
      report(lines.rows);
    }
    lines.reader.end();
    return { cut, rows: lines.rows, setAside, rejects };
  }
  const reader = new LinkRowReader(cut, params);
  lineOf = () => reader.currentLine;
  if (kind.charset.startsWith('utf-16')) {
    for await (const chunk of textChunks(path, kind, onShare)) {
      reader.write(Buffer.from(chunk));
      report(reader.rows);
    }
  } else
    for await (const chunk of byteChunks(path, onShare)) {
      reader.write(chunk);
      report(reader.rows);
    }
  reader.end();
  return { cut, rows: reader.rows, setAside, rejects };
}

/** Rows of a JSON Lines export, handed on as bytes. */
class JsonLinkRows {
  rows = 0;
  readonly reader: JsonLinesReader;

  constructor(taker: LinkRowTaker, { columns, keys }: CutParams, onLine: (line: number) => void) {
    const [from, to, rel] = (['from', 'to', 'rel'] as const).map((field) => columns.indexOf(field));
    this.reader = new JsonLinesReader(
      ({ fields, line }) => {
        this.rows++;
        onLine(line);
        const parts = [from, to, rel].map((place) => Buffer.from((fields[place] ?? '').trim()));
        const bytes = Buffer.concat(parts);
        const ends = [parts[0].length, parts[0].length + parts[1].length, bytes.length];
        taker.row(
          bytes,
          { start: 0, end: ends[0] },
          { start: ends[0], end: ends[1] },
          { start: ends[1], end: ends[2] },
          false,
        );
      },
      ({ line, reason, sample }) => {
        this.rows++;
        taker.problem(line, reason, sample);
      },
      keys,
    );
  }
}
