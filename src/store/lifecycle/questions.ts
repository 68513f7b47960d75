import type { Knex } from 'knex';
import { z } from 'zod';
import type { DnsOutcome } from '../../core/lifecycle/phase';
import type { QUESTION_DEPTHS } from '../../core/lifecycle/question-depths';
import { type Store, write } from '../base/database';
import { all, columns, first, fromJson, knex, pick, prepared, run, sql } from '../base/query';
import type { DomainRow } from '../domains/domains';
import { CheckEntry } from './verdicts';

export const QUESTIONS = columns('questions', 'q');
export const ASKERS = columns('question_askers', 'a');
export const DOMAINS = columns('domains', 'd');
export const QUESTION_STEPS = ['dns', 'record', 'registrar'] as const;
export type QuestionStep = (typeof QUESTION_STEPS)[number];
export type QuestionDepth = (typeof QUESTION_DEPTHS)[number];

/** A domain whose state somebody wants to know. */
export interface Question {
  domainId: number;
  name: string;
  ending: string;
  step: QuestionStep;
  /** Who is asked: empty until it is known. */
  server: string;
  depth: QuestionDepth;
  /** What was said so far. */
  said: CheckEntry[];
  tries: number;
  turn: number;
  /** When it was first asked. */
  since: number;
}

/** What a question waits for where nobody but the servers of its own domain is silent: another day. */
export const OWN_SERVERS = 'its servers';

/** Questions that nobody in particular asks: re-checks of watched names. */
export const NOBODY = 0;

/** How soon a question is put: in its turn, before those, because a person wants to know; or before all, because it drops now. */
export type Priority = 'usual' | 'raised' | 'dropping';

const FAR = 4e12;
const RAISED = -1e15;
const DROPPING = -2e15;
/** What was said earlier than this is not built upon. */
export const STALE_MS = 30 * 60_000;

/**
 * The place of a question in its queue, the smaller the sooner: what a person raised, then by the closest deadline, then by the
 * strength of the domain.
 */
export function turnOf(row: Pick<DomainRow, 'closing_at' | 'drop_at' | 'drop_from' | 'strength'>, now: number): number {
  const deadlines = [row.closing_at, row.drop_from, row.drop_at].flatMap((at) => (at !== null && at > now ? [at] : []));
  if (deadlines.length > 0) return Math.min(...deadlines);
  return FAR - (row.strength ?? 0) * 1e9;
}

const ASK = prepared((by: { jobId: number; id: number }) =>
  knex('question_askers').insert({ job_id: by.jobId, domain_id: by.id }).onConflict().ignore(),
);
type Added = { id: number; turn: number; depth: QuestionDepth; now: number; stale: number };
/** A question that waits already goes as deep as the deepest wants; what was said long ago is asked anew. */
const ADD = prepared(({ id, turn, depth, now, stale }: Added) =>
  knex('questions')
    .insert({ domain_id: id, step: 'dns', server: '', held: 0, turn, depth, said: '[]', tries: 0, since: now })
    .onConflict('domain_id')
    .merge({
      held: 0,
      waits_for: null,
      waits_until: null,
      turn: sql('min(turn, excluded.turn)'),
      depth: sql(
        "CASE WHEN 'full' IN (depth, excluded.depth) THEN 'full' WHEN 'registrar' IN (depth, excluded.depth) THEN 'registrar' ELSE 'record' END",
      ),
      ...begunAnew(stale),
      since: sql('CASE WHEN since < ? THEN ? ELSE since END', [stale, now]),
    }),
);
/** What was said before a moment is forgotten. */
export function begunAnew(stale: number) {
  return {
    step: sql<QuestionStep>("CASE WHEN since < ? THEN 'dns' ELSE step END", [stale]),
    server: sql<string>("CASE WHEN since < ? THEN '' ELSE server END", [stale]),
    said: sql<string>("CASE WHEN since < ? THEN '[]' ELSE said END", [stale]),
  };
}
const SAID_FURTHER = prepared(({ id }: { id: number }) =>
  knex('questions').where('domain_id', id).where('step', '<>', 'dns').pluck('said'),
);

const DEADLINES = prepared(({ id }: { id: number }) =>
  knex('domains').select('id', 'closing_at', 'drop_at', 'drop_from', 'strength').where('id', id),
);

/** Adds questions for a job; ones that wait already are shared, and go as deep as the deepest wants. Call inside a write transaction. */
export function addQuestions(
  store: Store,
  jobId: number,
  ids: readonly number[],
  depth: QuestionDepth,
  priority: Priority = 'usual',
): void {
  const now = store.now();
  for (const id of ids) {
    const row = DEADLINES.first(store, { id });
    if (!row) continue;
    if (jobId !== NOBODY) ASK.run(store, { jobId, id: row.id });
    const turn = priority === 'usual' ? turnOf(row, now) : (priority === 'raised' ? RAISED : DROPPING) + now;
    ADD.run(store, { id: row.id, turn, depth, now, stale: now - STALE_MS });
    // DNS has said its part already: whoever comes later is told at once
    const further = jobId === NOBODY ? undefined : SAID_FURTHER.first(store, { id: row.id });
    if (further !== undefined) {
      const dns = dnsOf(fromJson(z.array(CheckEntry), further));
      run(store, knex('question_news').insert({ job_id: jobId, domain_id: row.id, dns, phase: null }));
    }
  }
}

function dnsOf(said: CheckEntry[]): DnsOutcome {
  const outcome = DnsSaid.safeParse(said.find(({ step }) => step === 'dns')?.outcome);
  return outcome.success ? outcome.data : 'failed';
}
const DnsSaid = z.enum(['delegated', 'nxdomain', 'no-delegation', 'failed'] satisfies DnsOutcome[]);

/** A person wants to know it now. */
export function raiseQuestion(store: Store, domainId: number): boolean {
  return write(
    store,
    () =>
      run(
        store,
        knex('questions')
          .where('domain_id', domainId)
          .update({ turn: RAISED + store.now() }),
      ).changes > 0,
  );
}

/** Notes that something was answered. Call inside a write transaction. */
export function putPulse(store: Store): void {
  run(store, knex('lookup_pulse').insert({ id: 1, at: Date.now() }).onConflict(['id']).merge());
}

/** When anything was answered last, by the machine's clock, ms since 1970; 0: never. */
export function lastPulse(store: Store): number {
  return first(store, knex('lookup_pulse').pluck('at')) ?? 0;
}

type Moved = Pick<Question, 'domainId' | 'step' | 'server' | 'tries'> & { said: string };
const MOVE = prepared(({ domainId, step, server, said, tries }: Moved) =>
  knex('questions').where('domain_id', domainId).update({ step, server, said, tries }),
);

/** A question goes on to the next step, with what was said. Call inside a write transaction. */
export function moveQuestion(store: Store, { said, ...question }: Question): void {
  MOVE.run(store, { ...question, said: JSON.stringify(said) });
}

const UNSETTLED = prepared(({ id, since }: { id: number; since: number }) =>
  knex('domains as d')
    .where('d.id', id)
    .where((either) => void unsettled(either, since))
    .select('d.id'),
);

/**
 * Without a verdict from after `since`, or with one that says only what it waits for: its question is still open. What waits for its own
 * servers has had its answer for the day.
 */
function unsettled(query: Knex.QueryBuilder, since: number) {
  return query
    .whereNull('d.phase_at')
    .orWhere('d.phase_at', '<', since)
    .orWhereRaw('EXISTS (SELECT 1 FROM questions q WHERE q.domain_id = d.id AND q.waits_for IS NOT ?)', [OWN_SERVERS]);
}

/** Domains a check job has not settled yet: those of a source, or by id. */
export function pendingChecks(
  store: Store,
  which: { sourceId?: number; ids?: readonly number[] },
  since: number,
): number[] {
  if (which.ids) return which.ids.filter((id) => UNSETTLED.first(store, { id, since }) !== undefined);
  const rows = all(
    store,
    pick(knex('domains as d').join('sightings as s', 's.domain_id', 'd.id'), { pendingId: DOMAINS.id })
      .where('s.source_id', which.sourceId ?? 0)
      .where((either) => void unsettled(either, since))
      .whereRaw('NOT EXISTS (SELECT 1 FROM set_aside a WHERE a.source_id = s.source_id AND a.name = d.name)')
      .orderBy('d.id'),
  );
  return rows.map(({ pendingId }) => pendingId);
}
