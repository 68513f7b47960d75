import { z } from 'zod';
import type { Store } from '../base/database';
import { all, camel, first, fromJson, knex, pick, prepared, sql, the } from '../base/query';
import { DOMAINS, QUESTIONS, type Question, type QuestionStep } from './questions';
import { CheckEntry } from './verdicts';

const NEXT = prepared((queue: { step: QuestionStep; server: string; limit: number }) =>
  pick(knex('questions as q').join('domains as d', 'd.id', 'q.domain_id'), {
    ...camel(QUESTIONS, 'domain_id', 'step', 'server', 'depth', 'said', 'tries', 'turn', 'since'),
    ...camel(DOMAINS, 'name', 'ending'),
  })
    .where({ 'q.held': 0, 'q.step': queue.step, 'q.server': queue.server })
    // the builder's own limit takes nothing but a number
    .orderByRaw('q.turn LIMIT ?', [queue.limit]),
);

/** The next questions of a queue, in their order. */
export function nextQuestions(store: Store, step: QuestionStep, server: string, limit: number): Question[] {
  const rows = NEXT.all(store, { step, server, limit });
  return rows.map((row) => ({ ...row, said: fromJson(z.array(CheckEntry), row.said) }));
}

/** Of those, the ones that a person waits for or that drop now. */
export function urgentQuestions(store: Store, step: QuestionStep, server: string, limit: number): Question[] {
  return nextQuestions(store, step, server, limit).filter(({ turn }) => turn < 0);
}

export interface QueueCount {
  step: QuestionStep;
  server: string;
  waiting: number;
}

const QUEUES = prepared((_: object) =>
  pick(knex('questions as q'), { ...camel(QUESTIONS, 'step', 'server'), waiting: sql<number>('count(*)') })
    .where('q.held', 0)
    .groupBy('q.step', 'q.server'),
);

/** How many questions wait for whom. */
export function countQueues(store: Store): QueueCount[] {
  return QUEUES.all(store, {});
}

/** The same of one job. */
export function countQueuesOf(store: Store, jobId: number): QueueCount[] {
  return all(
    store,
    pick(knex('question_askers as a').join('questions as q', 'q.domain_id', 'a.domain_id'), {
      ...camel(QUESTIONS, 'step', 'server'),
      waiting: sql<number>('count(*)'),
    })
      .where({ 'a.job_id': jobId, 'q.held': 0 })
      .groupBy('q.step', 'q.server'),
  );
}

/** Where a question stands. */
export interface QuestionPlace {
  step: QuestionStep;
  server: string;
  /** How many stand before it in its queue. */
  before: number;
  /** Why it cannot be put now, and when it is put again at the latest, where that is known; null: its turn comes. */
  waits: { words: string; until: number | null } | null;
}

/** @returns null when nobody wants to know, or it is answered. */
export function placeOf(store: Store, domainId: number): QuestionPlace | null {
  const found = first(
    store,
    pick(knex('questions as q').leftJoin('lookup_problems as p', 'p.key', 'q.waits_for'), {
      ...camel(QUESTIONS, 'step', 'server', 'turn', 'held'),
      words: sql<string>("coalesce(p.words, '')"),
      until: QUESTIONS.waits_until,
    }).where('q.domain_id', domainId),
  );
  if (!found || found.held === 1) return null;
  if (found.held === 2) {
    const { step, server, words, until } = found;
    return { step, server, before: 0, waits: { words: words || 'Its servers do not answer.', until } };
  }
  const before = the(
    store,
    pick(knex('questions'), { before: sql<number>('count(*)') })
      .where({ held: 0, step: found.step, server: found.server })
      .where('turn', '<', found.turn),
  );
  return { step: found.step, server: found.server, ...before, waits: null };
}
