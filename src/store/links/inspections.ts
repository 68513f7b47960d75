import { z } from 'zod';
import type { Past } from '../../core/history/past';
import { PastSchema } from '../../core/history/past-schema';
import type { EffectiveReferrers } from '../../core/links/effective';
import { SubjectWordSchema } from '../../core/topics/subject-schema';
import type { Store } from '../base/database';
import { all, columns, fromJson, knex, orNull, pick, prepared, run, sql } from '../base/query';
import type { Row } from '../base/schema';

const INSPECTIONS = columns('inspections', 'i');
const TARGETS = columns('domains', 't');

/** Why a domain has its subject. */
const SubjectReason = z.object({
  /** What was read: captures, anchors and linking pages. */
  from: z.string(),
  words: z.array(SubjectWordSchema),
  runnerUp: z.object({ subject: z.string(), confidence: z.number() }).nullable(),
});
export type SubjectReason = z.infer<typeof SubjectReason>;

/** What weighing the referrers gave, without the list of them: those are weighed again when somebody looks. */
export type Weighing = Pick<EffectiveReferrers, 'effective' | 'pages' | 'siteWide' | 'taken' | 'networks'>;

/** What the front page of a domain answers. */
const FrontAnswer = z.object({
  status: z.number().nullable(),
  /** Domain that it sends its visitors to; null: none. */
  to: z.string().nullable(),
  note: z.string(),
});
export type FrontAnswer = z.infer<typeof FrontAnswer>;

export function subjectReasonOf(row: Pick<InspectionRow, 'subject_why'> | null): SubjectReason | null {
  return row?.subject_why ? fromJson(SubjectReason, row.subject_why) : null;
}

export function frontAnswerOf(row: Pick<InspectionRow, 'front'> | null): FrontAnswer | null {
  return row?.front ? fromJson(FrontAnswer, row.front) : null;
}

export function pastOf(row: Pick<InspectionRow, 'past'> | null): Past | null {
  return row?.past ? fromJson(PastSchema, row.past) : null;
}

/** What was measured of a domain beyond counts. Times in ms since 1970 UTC; null: not measured. */
export type InspectionRow = Row<'inspections'>;

const INSPECTION = prepared(({ domainId }: { domainId: number }) =>
  knex('inspections').select('*').where('domain_id', domainId),
);

export function readInspection(store: Store, domainId: number): InspectionRow | null {
  return INSPECTION.first(store, { domainId }) ?? null;
}

/** Writes some of the columns. Call inside a write transaction. */
export function putInspection(store: Store, domainId: number, values: Partial<Omit<InspectionRow, 'domain_id'>>): void {
  const names = Object.keys(values);
  if (names.length === 0) return;
  run(
    store,
    knex('inspections')
      .insert({ ...values, domain_id: domainId })
      .onConflict('domain_id')
      .merge(values),
  );
}

/** Domains that send, or sent, their visitors to another, which may be known. */
export function forwarders(store: Store): { id: number; targetId: number | null; isReckoned: boolean }[] {
  const rows = all(
    store,
    pick(knex('inspections as i').leftJoin('domains as t', 't.name', 'i.forward_to'), {
      id: INSPECTIONS.domain_id,
      targetId: orNull(TARGETS.id),
      reckoned: sql<0 | 1>('t.id IS NULL OR i.strength_with IS NOT NULL'),
    }).whereNotNull('i.forward_to'),
  );
  return rows.map(({ reckoned, ...row }) => ({ ...row, isReckoned: reckoned === 1 }));
}

/** Inspected domains that are linked and were never walked for: those out of the pool. */
export function withoutRanks(store: Store): number[] {
  return all(
    store,
    pick(knex('inspections as i').join('domains as d', 'd.id', 'i.domain_id'), { domainId: INSPECTIONS.domain_id })
      .whereNull('i.strength_rank')
      .whereNotNull('d.links_at')
      .whereNotNull('i.captures_at')
      .where('d.strength', '>', 0)
      .limit(10000),
  ).map((row) => row.domainId);
}
