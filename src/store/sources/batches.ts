import { z } from 'zod';
import type { FunnelCell } from '../../core/lifecycle/funnel';
import type { Phase } from '../../core/lifecycle/phase';
import { QUESTION_DEPTHS } from '../../core/lifecycle/question-depths';
import type { Store } from '../base/database';
import { all, camel, columns, knex, orNull, pick, sql } from '../base/query';
import type { QuestionStep } from '../lifecycle/questions';
import { readSource, type SourceRow } from './sources';

const SOURCES = columns('sources');
const QUESTIONS = columns('questions', 'q');
const DOMAINS = columns('domains', 'd');

/** Names that were pasted to be checked: a list, with how far it is asked. */
export interface Batch extends SourceRow {
  detail: z.infer<typeof BatchDetail>;
}
const BatchDetail = z.looseObject({
  isBatch: z.literal(true),
  depth: z.enum(QUESTION_DEPTHS),
  freshMs: z.number(),
});

export function readBatch(store: Store, id: number): Batch | null {
  const source = readSource(store, id);
  return source?.detail.isBatch === true ? { ...source, detail: BatchDetail.parse(source.detail) } : null;
}

export function listBatches(store: Store, limit = 50): Batch[] {
  const rows = all(
    store,
    pick(knex('sources'), { batchId: SOURCES.id })
      .where('kind', 'list')
      .whereRaw("json_extract(detail, '$.isBatch')")
      .orderBy('id', 'desc')
      .limit(limit),
  );
  return rows.flatMap(({ batchId }) => readBatch(store, batchId) ?? []);
}

/** Domains of a source by what is known of them and by whom. */
export function funnelOf(store: Store, source: Pick<SourceRow, 'id' | 'created_at'>): FunnelCell[] {
  return all(
    store,
    pick(
      knex('sightings as s')
        .join('domains as d', 'd.id', 's.domain_id')
        .leftJoin('questions as q', (on) =>
          on.on('q.domain_id', 'd.id').on(knex.raw('q.held <> 1 AND (q.held = 0 OR d.phase_at IS NULL)')),
        ),
      {
        waits: orNull(QUESTIONS.step),
        by: sql<FunnelCell['by']>(
          "CASE WHEN d.phase_at IS NULL THEN 'none' WHEN d.phase_at < ? THEN 'known' ELSE substr(d.phase_source, 1, instr(d.phase_source, ' ') - 1) END",
          [source.created_at],
        ),
        phase: DOMAINS.phase,
        count: sql<number>('count(*)'),
      },
    )
      .where('s.source_id', source.id)
      .groupByRaw('1, 2, 3'),
  );
}

/** Questions of a source's domains that wait, by whom they wait for. */
export function queuesOfSource(
  store: Store,
  sourceId: number,
): { step: QuestionStep; server: string; waiting: number }[] {
  return all(
    store,
    pick(
      knex('sightings as s').join('questions as q', (on) => on.on('q.domain_id', 's.domain_id').onVal('q.held', 0)),
      { ...camel(QUESTIONS, 'step', 'server'), waiting: sql<number>('count(*)') },
    )
      .where('s.source_id', sourceId)
      .where('q.step', '<>', 'dns')
      .groupByRaw('1, 2')
      .orderBy('waiting', 'desc'),
  );
}

/** Ids of a batch's domains, in the order they stood; with a phase, only those. */
export function idsOfBatch(
  store: Store,
  sourceId: number,
  phase: Phase | null,
  limit: number,
  offset: number,
): number[] {
  return all(
    store,
    pick(knex('sightings as s').join('domains as d', 'd.id', 's.domain_id'), { id: DOMAINS.id })
      .where({ 's.source_id': sourceId, ...(phase !== null && { 'd.phase': phase }) })
      .orderBy([{ column: 's.line' }, { column: 'd.id' }])
      .limit(limit)
      .offset(offset),
  ).map(({ id }) => id);
}
