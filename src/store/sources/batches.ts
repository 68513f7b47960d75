import type { FunnelCell } from '../../core/lifecycle/funnel';
import type { Phase } from '../../core/lifecycle/phase';
import { type Store, statement } from '../base/database';
import type { QuestionDepth, QuestionStep } from '../lifecycle/questions';
import { readSource, type SourceRow } from './sources';

/** Names that were pasted to be checked: a list, with how far it is asked. */
export interface Batch extends SourceRow {
  detail: { isBatch: true; depth: QuestionDepth; freshMs: number; [more: string]: unknown };
}

export function readBatch(store: Store, id: number): Batch | null {
  const source = readSource(store, id);
  return source?.detail.isBatch === true ? (source as Batch) : null;
}

export function listBatches(store: Store, limit = 50): Batch[] {
  const rows = statement(
    store.raw,
    `SELECT id AS batchId FROM sources WHERE kind = 'list' AND json_extract(detail, '$.isBatch') ORDER BY id DESC LIMIT ?`,
  ).all(limit) as { batchId: number }[];
  return rows.flatMap(({ batchId }) => readBatch(store, batchId) ?? []);
}

/** Domains of a source by what is known of them and by whom. */
export function funnelOf(store: Store, source: Pick<SourceRow, 'id' | 'created_at'>): FunnelCell[] {
  return statement(
    store.raw,
    `SELECT q.step AS waits, CASE WHEN d.phase_at IS NULL THEN 'none' WHEN d.phase_at < @since THEN 'known'
       ELSE substr(d.phase_source, 1, instr(d.phase_source, ' ') - 1) END AS "by", d.phase, count(*) AS count
     FROM sightings s JOIN domains d ON d.id = s.domain_id LEFT JOIN questions q ON q.domain_id = d.id AND q.held <> 1 AND (q.held = 0 OR d.phase_at IS NULL)
     WHERE s.source_id = @id GROUP BY 1, 2, 3`,
  ).all({ id: source.id, since: source.created_at }) as FunnelCell[];
}

/** Questions of a source's domains that wait, by whom they wait for. */
export function lanesOfSource(
  store: Store,
  sourceId: number,
): { step: QuestionStep; server: string; waiting: number }[] {
  return statement(
    store.raw,
    `SELECT q.step, q.server, count(*) AS waiting FROM sightings s JOIN questions q ON q.domain_id = s.domain_id AND q.held = 0
     WHERE s.source_id = ? AND q.step <> 'dns' GROUP BY 1, 2 ORDER BY 3 DESC`,
  ).all(sourceId) as never;
}

/** Ids of a batch's domains, in the order they stood; with a phase, only those. */
export function idsOfBatch(
  store: Store,
  sourceId: number,
  phase: Phase | null,
  limit: number,
  offset: number,
): number[] {
  const rows = statement(
    store.raw,
    `SELECT d.id AS batchedId FROM sightings s JOIN domains d ON d.id = s.domain_id
     WHERE s.source_id = @sourceId AND (@phase IS NULL OR d.phase = @phase) ORDER BY s.line, d.id LIMIT @limit OFFSET @offset`,
  ).all({ sourceId, phase, limit, offset }) as { batchedId: number }[];
  return rows.map(({ batchedId }) => batchedId);
}
