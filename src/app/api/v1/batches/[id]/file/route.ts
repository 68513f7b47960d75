import { csvLine } from '../../../../../../core/formats/csv';
import type { Store } from '../../../../../../store/base/database';
import { type DomainRow, readDomains } from '../../../../../../store/domains/domains';
import { checksOf, type StoredCheck, windowOf } from '../../../../../../store/lifecycle/verdicts';
import { idsOfBatch, readBatch } from '../../../../../../store/sources/batches';
import { getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';
import { streamText } from '../../../../stream';

const CHUNK = 500;
const iso = (at: number | null | undefined) => (at == null ? null : new Date(at).toISOString());

/** The names of a batch with verdict and evidence, in the order they stood: `format` csv or jsonl. Streamed. */
export const GET = route('GET /batches/{id}/file', async ({ query: { format }, params: { id } }) => {
  const store = await getStore();
  const batch = readBatch(store, readId(id));
  if (!batch) throw notFound(`batch ${id}`);
  const type = format === 'csv' ? 'text/csv; charset=utf-8' : 'application/jsonl; charset=utf-8';
  return streamText(rows(store, batch.id, format), type, `batch-${batch.id}.${format}`);
});

async function* rows(store: Store, batchId: number, format: 'csv' | 'jsonl'): AsyncGenerator<string> {
  if (format === 'csv') yield csvLine(COLUMNS.map(([title]) => title));
  for (let offset = 0; ; offset += CHUNK) {
    const ids = idsOfBatch(store, batchId, null, CHUNK, offset);
    if (ids.length === 0) return;
    for (const row of readDomains(store, ids)) {
      const checks = lastLook(row, checksOf(store, row.id));
      const values = COLUMNS.map(([, value]) => value(row, checks));
      yield format === 'csv'
        ? csvLine(values.map((value) => (Array.isArray(value) ? value.join('; ') : value)))
        : `${JSON.stringify(Object.fromEntries(COLUMNS.map(([title], i) => [title, values[i]])))}\n`;
    }
    await new Promise((resolve) => setImmediate(resolve));
  }
}

/** The answers that the verdict rests on: those of one look, not what was said months before. */
function lastLook(row: DomainRow, checks: StoredCheck[]): StoredCheck[] {
  const steps = new Set<string>();
  return checks
    .filter(({ step, at }) => at <= (row.phase_at ?? 0) && !steps.has(step) && steps.add(step))
    .sort((a, b) => a.at - b.at);
}

type Value = string | number | null | string[];
const COLUMNS: [title: string, value: (row: DomainRow, checks: StoredCheck[]) => Value][] = [
  ['domain', (row) => row.name],
  ['phase', (row) => (row.phase_at === null ? 'not yet checked' : row.phase)],
  ['confidence', (row) => row.phase_confidence],
  ['reason', (row) => row.phase_reason],
  ['contradictions', (row) => (row.contradictions ? (JSON.parse(row.contradictions) as string[]) : [])],
  ['asked', (row) => iso(row.phase_at)],
  ['registered', (row) => iso(row.registered_at)],
  ['expires', (row) => iso(row.expires_at)],
  ['registrar', (row) => row.registrar],
  ['drop_from', (row) => iso(windowOf(row)?.from)],
  ['drop_to', (row) => iso(windowOf(row)?.to)],
  ['drop_reasons', (row) => windowOf(row)?.reasons ?? []],
  [
    'evidence',
    (_, checks) =>
      checks.map((check) => `${check.step} ${check.server} ${iso(check.at)}: ${check.outcome}, ${check.detail}`),
  ],
];
