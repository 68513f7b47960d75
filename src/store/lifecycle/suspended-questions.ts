import type { DnsOutcome, Phase } from '../../core/lifecycle/phase';
import type { Store } from '../base/database';
import { all, copyRows, knex, known, pick, run, sql } from '../base/query';
import { tell } from './question-news';
import { ASKERS, begunAnew, OWN_SERVERS, QUESTIONS, type QuestionStep, STALE_MS } from './questions';

/**
 * A question that cannot be put now, or that nobody answers, stays open; all who asked are told how far it got. It begins anew when it is
 * released. Call inside a write transaction.
 *
 * @param waitsFor key of the problem (lookup_problems), or OWN_SERVERS.
 * @param until when it is put again by itself, ms since 1970; null: when the problem has passed.
 */
export function suspendQuestion(
  store: Store,
  domainId: number,
  dns: DnsOutcome | null,
  phase: Phase,
  waitsFor: string,
  until: number | null,
): void {
  tell(store, domainId, dns, phase);
  run(store, knex('question_askers').where('domain_id', domainId).delete());
  run(
    store,
    knex('questions')
      .where('domain_id', domainId)
      .update({ held: 2, step: 'dns', server: '', said: '[]', tries: 0, waits_for: waitsFor, waits_until: until }),
  );
}

/** All that would be asked of DNS waits for a problem to pass. Call inside a write transaction. @returns how many. */
export function suspendDns(store: Store, waitsFor: string): number {
  copyRows(
    store,
    'question_news',
    knex('question_askers as a')
      .join('questions as q', 'q.domain_id', 'a.domain_id')
      .where({ 'q.held': 0, 'q.step': 'dns' }),
    { job_id: ASKERS.job_id, domain_id: ASKERS.domain_id, dns: sql('?', ['failed']) },
  );
  return run(
    store,
    knex('questions').where({ held: 0, step: 'dns' }).update({ held: 2, waits_for: waitsFor, waits_until: null }),
  ).changes;
}

/** All that would be asked of one server waits until it can be reached. Call inside a write transaction. @returns how many. */
export function suspendQueue(store: Store, step: QuestionStep, server: string, waitsFor: string): number {
  return run(
    store,
    knex('questions').where({ held: 0, step, server }).update({ held: 2, waits_for: waitsFor, waits_until: null }),
  ).changes;
}

/** What waits for a problem is put again, the most urgent first. Call inside a write transaction. @returns how many. */
export function releaseQuestions(store: Store, waitsFor: string, limit = -1): number {
  return run(
    store,
    knex('questions')
      .whereRaw(
        'domain_id IN (SELECT domain_id FROM questions WHERE waits_for = ? AND held = 2 ORDER BY turn LIMIT ?)',
        [waitsFor, limit],
      )
      .update({
        held: 0,
        tries: 0,
        waits_for: null,
        waits_until: null,
        ...begunAnew(store.now() - STALE_MS),
      }),
  ).changes;
}

/** How long after it was asked a name that nobody watches or shortlists is still tried each day. */
const WANTED_MS = 7 * 86_400_000;

/** Names whose own servers were silent are tried again when their day has come, as long as anybody wants to know. Call inside a write transaction. */
export function releaseDue(store: Store, now: number): number {
  const due = () => knex('questions').where({ held: 2, waits_for: OWN_SERVERS }).where('waits_until', '<=', now);
  run(
    store,
    due()
      .where('since', '<', now - WANTED_MS)
      .whereRaw('NOT EXISTS (SELECT 1 FROM domains d WHERE d.id = questions.domain_id AND d.watched_at IS NOT NULL)')
      .whereRaw('NOT EXISTS (SELECT 1 FROM shortlist s WHERE s.domain_id = questions.domain_id)')
      .delete(),
  );
  return run(store, due().update({ held: 0, tries: 0, waits_for: null, waits_until: null })).changes;
}

/** How many names wait for what, the most first; of one source, or of one job, only theirs. */
export function waitingNames(
  store: Store,
  of: { sourceId?: number; jobId?: number } = {},
): { waitsFor: string; words: string; names: number; nextAt: number | null }[] {
  const waiting = knex('questions as q')
    .leftJoin('lookup_problems as p', 'p.key', 'q.waits_for')
    .where('q.held', 2)
    .whereNotNull('q.waits_for');
  if (of.sourceId !== undefined)
    waiting.whereIn('q.domain_id', knex('sightings').where('source_id', of.sourceId).select('domain_id'));
  if (of.jobId !== undefined)
    waiting.whereIn('q.domain_id', knex('question_askers').where('job_id', of.jobId).select('domain_id'));
  return all(
    store,
    pick(waiting, {
      waitsFor: known(QUESTIONS.waits_for),
      words: sql<string>("coalesce(p.words, '')"),
      names: sql<number>('count(*)'),
      nextAt: sql<number | null>('min(q.waits_until)'),
    })
      .groupBy('q.waits_for')
      .orderBy('names', 'desc'),
  );
}
