import type { ReferrerPreview } from '../../contracts/sources';
import { type CsvProblem, CsvReader, type CsvRow } from '../../core/formats/csv';
import { sniffDelimiter } from '../../core/formats/list-columns';
import type { ReferrerCuts, ReferrerField } from '../../core/formats/referrer-fields';
import {
  CUT_NAMES,
  type CutName,
  cutBy,
  guessReferrerColumns,
  headerKey,
  type NoReferrer,
  type Referrer,
  readReferrer,
  referrerHead,
} from '../../core/formats/referrers';
import type { Store } from '../../store/base/database';
import { write } from '../../store/base/database';
import { setAside } from '../../store/crawl/crawl';
import { putDomain, putSighting } from '../../store/domains/domains';
import { rememberColumns, rememberedColumns } from '../../store/sources/mappings';
import { addSource, countRows, putReject } from '../../store/sources/sources';
import { JobError } from '../runner/context';
import { asTextFile } from './plain-table';
import { lookAtFile, textChunks } from './text-file';

const PREVIEW_ROWS = 8;

/** Rows that tell where the titles stand and what the columns are. */
const FIRST_ROWS = 40;
function firstRows(sample: string): string[][] {
  const first: string[][] = [];
  const reader = new CsvReader(
    (row) => first.length < FIRST_ROWS && first.push(row.fields),
    () => undefined,
    { delimiter: sniffDelimiter(sample), maxRowChars: 64 * 1024 },
  );
  reader.write(sample);
  reader.end();
  return first;
}

/** Rows of a referrer file in order: what it says, the cut that keeps it out, or why it is set aside. */
export async function* eachReferrer(
  path: string,
  columns: readonly ReferrerField[],
  cuts: ReferrerCuts,
  now: number,
): AsyncGenerator<{ line: number; text: string } & (NoReferrer | { referrer: Referrer; cut: CutName | null })> {
  const kind = await lookAtFile(path);
  let items: (CsvRow | CsvProblem)[] = [];
  let above = referrerHead(firstRows(kind.sample)).headRows;
  const reader = new CsvReader(
    (row) => items.push(row),
    (problem) => items.push(problem),
    { delimiter: sniffDelimiter(kind.sample), maxRowChars: 64 * 1024 },
  );
  const take = () => {
    const taken = items;
    items = [];
    return taken;
  };
  const read = function* (rows: (CsvRow | CsvProblem)[]) {
    for (const item of rows) {
      if (above > 0) {
        above--;
        continue;
      }
      const { line } = item;
      if ('reason' in item) {
        yield { line, text: item.sample, aside: item.reason, alike: item.reason };
        continue;
      }
      const text = item.fields.join(' · ').slice(0, 120);
      const referrer = readReferrer(item.fields, columns);
      if ('aside' in referrer) yield { line, text, ...referrer };
      else yield { line, text, referrer, cut: cutBy(referrer, cuts, now) };
    }
  };
  for await (const chunk of textChunks(path, kind)) {
    reader.write(chunk);
    yield* read(take());
  }
  reader.end();
  yield* read(take());
}

/** Looks at a referrer file whole: its columns, and what each cut would keep out. @throws JobError */
export async function previewReferrers(
  store: Store,
  given: string,
  cuts: ReferrerCuts,
  asked: ReferrerField[] | undefined,
): Promise<ReferrerPreview> {
  const path = await asTextFile(given);
  const { sample: start } = await lookAtFile(path);
  const first = firstRows(start);
  const { headRows, header } = referrerHead(first);
  const body = first.slice(headRows);
  const known = rememberedColumns(store, headerKey(header)) as ReferrerField[] | null;
  const columns = asked ?? known ?? guessReferrerColumns(header, body);
  const preview: ReferrerPreview = {
    header,
    columns,
    remembered: !asked && known !== null,
    rows: body.slice(0, PREVIEW_ROWS),
    read: 0,
    aside: [],
    repeated: 0,
    cuts: CUT_NAMES.map((cut) => ({ cut, removes: 0 })),
    kept: 0,
    sample: [],
  };
  if (!columns.includes('domain')) return preview;
  const aside = new Map<string, { rows: number; example: string }>();
  const seen = new Set<string>();
  for await (const row of eachReferrer(path, columns, cuts, store.now())) {
    preview.read++;
    if ('aside' in row) {
      const found = aside.get(row.alike);
      if (found) found.rows++;
      else aside.set(row.alike, { rows: 1, example: row.text });
    } else if (seen.has(row.referrer.name)) preview.repeated++;
    else {
      seen.add(row.referrer.name);
      const cut = row.cut && preview.cuts.find((one) => one.cut === row.cut);
      if (cut) cut.removes++;
      else {
        preview.kept++;
        if (preview.sample.length < 12) preview.sample.push(row.referrer.name);
      }
    }
  }
  preview.aside = [...aside].map(([reason, found]) => ({ reason, ...found })).sort((a, b) => b.rows - a.rows);
  return preview;
}

const MAX_SEEDS = 10_000;

/**
 * Takes what the cuts leave: into the pool as a source of its own, with every row's fate counted, or as seeds for a crawl.
 * The columns are remembered by the header.
 *
 * @returns the file that the cuts hold for, as text, beside the source or the seeds.
 */
export async function importReferrers(
  store: Store,
  order: { path: string; name: string; columns: ReferrerField[]; cuts: ReferrerCuts; to: 'seeds' | 'pool' },
  changed: (ids: number[], source: number) => void,
): Promise<{ sourceId: number | null; seeds: string[]; file: string }> {
  const { columns, cuts, to } = order;
  if (!columns.includes('domain')) throw new JobError('No column is marked as the domain.');
  const file = await asTextFile(order.path);
  const { header } = referrerHead(firstRows((await lookAtFile(file)).sample));
  rememberColumns(store, headerKey(header), 'referrers', columns);
  const sourceId = to === 'pool' ? addSource(store, 'referrers', order.name, { columns, cuts }) : null;
  const seeds: string[] = [];
  const seen = new Set<string>();
  let batch: { row: ReferrerRow }[] = [];
  const flush = () => {
    if (sourceId === null || batch.length === 0) return;
    const rows = batch;
    batch = [];
    changed(
      write(store, () => rows.flatMap(({ row }) => takeRow(store, sourceId, row, seen))),
      sourceId,
    );
  };
  for await (const row of eachReferrer(file, columns, cuts, store.now())) {
    if (sourceId !== null) {
      batch.push({ row });
      if (batch.length >= 2000) flush();
    } else if ('referrer' in row && row.cut === null && !seen.has(row.referrer.name) && seeds.length < MAX_SEEDS) {
      seen.add(row.referrer.name);
      seeds.push(row.referrer.name);
    }
  }
  flush();
  return { sourceId, seeds, file };
}

type ReferrerRow = Awaited<ReturnType<ReturnType<typeof eachReferrer>['next']>>['value'];

/** @returns the id of the domain that came in. Call inside a write transaction. */
function takeRow(store: Store, sourceId: number, row: ReferrerRow, seen: Set<string>): number[] {
  const at = store.now();
  const count = (field: 'rows_taken' | 'rows_repeated' | 'rows_excluded' | 'rows_set_aside') =>
    countRows(store, sourceId, { rows_read: 1, [field]: 1 });
  if ('aside' in row) {
    putReject(store, sourceId, { line: row.line, reason: row.aside, sample: row.text });
    count('rows_set_aside');
    return [];
  }
  const { referrer, cut, line } = row;
  if (seen.has(referrer.name)) {
    count('rows_repeated');
    return [];
  }
  seen.add(referrer.name);
  if (cut) {
    setAside(store, sourceId, referrer.name, `cut: ${cut}`);
    count('rows_excluded');
    return [];
  }
  const { id, isNew } = putDomain(store, referrer, true, at);
  const { name: _, ending: __, ...said } = referrer;
  putSighting(store, id, sourceId, at, line, said);
  count('rows_taken');
  if (isNew) countRows(store, sourceId, { domains_new: 1 });
  return [id];
}
