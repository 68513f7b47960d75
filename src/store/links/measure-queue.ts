import type { MeasureCandidate } from '../../core/measures/plan';
import type { Store } from '../base/database';
import { all, camel, columns, first, knex, pick, prepared, run, sql, the } from '../base/query';

const QUEUE = columns('measure_queue', 'q');
const DOMAINS = columns('domains', 'd');
const INSPECTIONS = columns('inspections', 'i');

const WANT = prepared((row: { id: number; at: number; wantedBy: string; byHand: 0 | 1 }) =>
  knex('measure_queue')
    .insert({ domain_id: row.id, since: row.at, wanted_by: row.wantedBy, by_hand: row.byHand })
    .onConflict('domain_id')
    .merge({
      by_hand: sql('max(by_hand, excluded.by_hand)'),
      wanted_by: sql('CASE WHEN excluded.by_hand > by_hand THEN excluded.wanted_by ELSE wanted_by END'),
    }),
);

/** Puts domains into the queue of what is to be measured; whoever is in it by a sieve's wish goes ahead by hand. @returns how many came new. */
export function wantMeasured(
  store: Store,
  ids: Iterable<number>,
  wantedBy: string,
  isByHand: boolean,
  at: number,
): number {
  const before = queueLength(store);
  for (const id of ids) WANT.run(store, { id, at, wantedBy, byHand: isByHand ? 1 : 0 });
  return queueLength(store) - before;
}

export function doneMeasured(store: Store, domainId: number): void {
  run(store, knex('measure_queue').where('domain_id', domainId).delete());
}

export interface QueuedCandidate extends MeasureCandidate {
  id: number;
  wantedBy: string;
  since: number;
}

/** Domains that wait to be measured, those asked for by hand first, then the strongest. */
export function queuedCandidates(store: Store, limit: number): QueuedCandidate[] {
  const rows = all(
    store,
    pick(
      knex('measure_queue as q')
        // a cross join keeps its order: of millions of domains only those of the queue are looked at
        .crossJoin('domains as d', 'd.id', 'q.domain_id')
        .leftJoin('inspections as i', 'i.domain_id', 'd.id'),
      {
        ...camel(DOMAINS, 'id', 'name', 'referring_domains', 'strength', 'spam_risk', 'captures'),
        ...camel(QUEUE, 'wanted_by', 'since', 'by_hand'),
        ...camel(INSPECTIONS, 'captures_at', 'forwarding_at', 'referrers_at', 'marks_at'),
        shortlisted: sql<0 | 1>('EXISTS (SELECT 1 FROM shortlist s WHERE s.domain_id = d.id)'),
      },
    )
      .orderByRaw('q.by_hand DESC, d.strength IS NULL, d.strength DESC, d.id')
      .limit(limit),
  );
  return rows.map(({ shortlisted, byHand, capturesAt, forwardingAt, referrersAt, marksAt, ...row }) => ({
    ...row,
    shortlisted: shortlisted === 1,
    isByHand: byHand === 1,
    takenAt: { captures: capturesAt, forwarding: forwardingAt, referrers: referrersAt, marks: marksAt },
  }));
}

export function queueLength(store: Store): number {
  return the(store, pick(knex('measure_queue'), { queued: sql<number>('count(*)') })).queued;
}

const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10);

/** Requests that measuring has cost today (UTC). */
export function spentToday(store: Store, at: number): number {
  return first(store, knex('measure_spend').where('day', dayOf(at)).pluck('requests')) ?? 0;
}

/** Call inside a write transaction. */
export function spend(store: Store, requests: number, at: number): void {
  run(
    store,
    knex('measure_spend')
      .insert({ day: dayOf(at), requests })
      .onConflict('day')
      .merge({ requests: sql('requests + excluded.requests') }),
  );
}

/** Whether something waits to be measured that may be measured now. */
export function isMeasureDue(store: Store, budget: number, at: number): boolean {
  const byHand = first(store, knex('measure_queue').orderBy('by_hand', 'desc').limit(1).pluck('by_hand'));
  return byHand !== undefined && (byHand === 1 || spentToday(store, at) < budget);
}
