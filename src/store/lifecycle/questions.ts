import { z } from 'zod';
import type { DnsOutcome, Phase } from '../../core/lifecycle/phase';
import type { QUESTION_DEPTHS } from '../../core/lifecycle/question-depths';
import { type Store, write } from '../base/database';
import {
  all,
  camel,
  columns,
  copyRows,
  first,
  fromJson,
  knex,
  known,
  pick,
  prepared,
  run,
  sql,
  the,
} from '../base/query';
import type { DomainRow } from '../domains/domains';
import { CheckEntry } from './verdicts';

const QUESTIONS = columns('questions', 'q');
const ASKERS = columns('question_askers', 'a');
const DOMAINS = columns('domains', 'd');
const QUESTION_NEWS = columns('question_news');
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

/** Questions that nobody in particular asks: re-checks of watched names. */
export const NOBODY = 0;

/** How soon a question is put: in its turn, before those, because a person wants to know; or before all, because it drops now. */
export type Priority = 'usual' | 'raised' | 'dropping';

const FAR = 4e12;
const RAISED = -1e15;
const DROPPING = -2e15;
/** What was said earlier than this is not built upon. */
const STALE_MS = 30 * 60_000;

/**
 * The place of a question in its queue, the smaller the sooner: what a person raised, then by the closest deadline, then by the
 * strength of the domain.
 */
export function turnOf(row: Pick<DomainRow, 'closing_at' | 'drop_at' | 'drop_from' | 'strength'>, now: number): number {
  const deadlines = [row.closing_at, row.drop_from, row.drop_at].filter((at) => at !== null && at > now) as number[];
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
function begunAnew(stale: number) {
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

const NEXT = prepared((lane: { step: QuestionStep; server: string; limit: number }) =>
  pick(knex('questions as q').join('domains as d', 'd.id', 'q.domain_id'), {
    ...camel(QUESTIONS, 'domain_id', 'step', 'server', 'depth', 'said', 'tries', 'turn', 'since'),
    ...camel(DOMAINS, 'name', 'ending'),
  })
    .where({ 'q.held': 0, 'q.step': lane.step, 'q.server': lane.server })
    // the builder's own limit takes nothing but a number
    .orderByRaw('q.turn LIMIT ?', [lane.limit]),
);

/** The next questions of a lane, in their order. */
export function nextQuestions(store: Store, step: QuestionStep, server: string, limit: number): Question[] {
  const rows = NEXT.all(store, { step, server, limit });
  return rows.map((row) => ({ ...row, said: fromJson(z.array(CheckEntry), row.said) }));
}

/** Of those, the ones that a person waits for or that drop now. */
export function urgentQuestions(store: Store, step: QuestionStep, server: string, limit: number): Question[] {
  return nextQuestions(store, step, server, limit).filter(({ turn }) => turn < 0);
}

export interface LaneCount {
  step: QuestionStep;
  server: string;
  waiting: number;
}

const LANES = prepared((_: object) =>
  pick(knex('questions as q'), { ...camel(QUESTIONS, 'step', 'server'), waiting: sql<number>('count(*)') })
    .where('q.held', 0)
    .groupBy('q.step', 'q.server'),
);

/** How many questions wait for whom. */
export function countLanes(store: Store): LaneCount[] {
  return LANES.all(store, {});
}

/** The same of one job. */
export function countLanesOf(store: Store, jobId: number): LaneCount[] {
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

/** What a question waits for where nobody but the servers of its own domain is silent: another day. */
export const OWN_SERVERS = 'its servers';

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
export function suspendLane(store: Store, step: QuestionStep, server: string, waitsFor: string): number {
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

/** Notes that something was answered. Call inside a write transaction. */
export function putPulse(store: Store): void {
  run(store, knex('lookup_pulse').insert({ id: 1, at: Date.now() }).onConflict(['id']).merge());
}

/** When anything was answered last, by the machine's clock, ms since 1970; 0: never. */
export function lastPulse(store: Store): number {
  return first(store, knex('lookup_pulse').pluck('at')) ?? 0;
}

/** Where a question stands. */
export interface QuestionPlace {
  step: QuestionStep;
  server: string;
  /** How many stand before it in its lane. */
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

type Moved = Pick<Question, 'domainId' | 'step' | 'server' | 'tries'> & { said: string };
const MOVE = prepared(({ domainId, step, server, said, tries }: Moved) =>
  knex('questions').where('domain_id', domainId).update({ step, server, said, tries }),
);

/** A question goes on to the next step, with what was said. Call inside a write transaction. */
export function moveQuestion(store: Store, { said, ...question }: Question): void {
  MOVE.run(store, { ...question, said: JSON.stringify(said) });
}

/** What DNS said, for those who do not want to wait for more. Call inside a write transaction. */
export function tellDns(store: Store, domainId: number, dns: DnsOutcome): void {
  tell(store, domainId, dns, null);
}

/** A question is answered: all who asked are told. Call inside a write transaction. */
export function closeQuestion(store: Store, domainId: number, dns: DnsOutcome | null, phase: Phase): void {
  tell(store, domainId, dns, phase);
  FORGET_ASKERS.run(store, { domainId });
  FORGET.run(store, { domainId });
}

const FORGET_ASKERS = prepared(({ domainId }: { domainId: number }) =>
  knex('question_askers').where('domain_id', domainId).delete(),
);
const FORGET = prepared(({ domainId }: { domainId: number }) =>
  knex('questions').where('domain_id', domainId).delete(),
);
const ASKERS_OF = prepared(({ domainId }: { domainId: number }) =>
  knex('question_askers').where('domain_id', domainId).pluck('job_id'),
);
const TELL = prepared((news: { jobId: number; domainId: number; dns: DnsOutcome | null; phase: Phase | null }) =>
  knex('question_news').insert({ job_id: news.jobId, domain_id: news.domainId, dns: news.dns, phase: news.phase }),
);

function tell(store: Store, domainId: number, dns: DnsOutcome | null, phase: Phase | null): void {
  for (const jobId of ASKERS_OF.all(store, { domainId })) TELL.run(store, { jobId, domainId, dns, phase });
}

export interface QuestionNews {
  id: number;
  domainId: number;
  dns: DnsOutcome | null;
  phase: Phase | null;
}

/** What a job has been told since. */
export function newsFor(store: Store, jobId: number, after: number, limit = 5000): QuestionNews[] {
  return all(
    store,
    pick(knex('question_news'), camel(QUESTION_NEWS, 'id', 'domain_id', 'dns', 'phase'))
      .where('job_id', jobId)
      .where('id', '>', after)
      .orderBy('id')
      .limit(limit),
  );
}

/** How many questions of a job are open. */
export function openQuestions(store: Store, jobId: number): number {
  const { open } = the(store, pick(knex('question_askers'), { open: sql<number>('count(*)') }).where('job_id', jobId));
  return open;
}

/**
 * A job does not wait any longer. Its questions rest with what was said so far, unless others ask them as well; with `goOn` they are
 * asked all the same, when their turn comes.
 */
export function leaveQuestions(store: Store, jobId: number, goOn: boolean): void {
  write(store, () => {
    if (!goOn)
      run(
        store,
        knex('questions')
          .whereRaw('domain_id IN (SELECT domain_id FROM question_askers WHERE job_id = ?)', [jobId])
          .whereRaw(
            'NOT EXISTS (SELECT 1 FROM question_askers o WHERE o.domain_id = questions.domain_id AND o.job_id <> ?)',
            [jobId],
          )
          .update({ held: 1 }),
      );
    run(store, knex('question_askers').where('job_id', jobId).delete());
    run(store, knex('question_news').where('job_id', jobId).delete());
  });
}

const ASKED_AT = prepared(({ id }: { id: number }) => knex('domains').where('id', id).pluck('phase_at'));

/** Domains a check job has not settled yet: those of a source, or by id, without a verdict from after `since`. */
export function pendingChecks(
  store: Store,
  which: { sourceId?: number; ids?: readonly number[] },
  since: number,
): number[] {
  if (which.ids) {
    return which.ids.filter((id) => {
      const at = ASKED_AT.first(store, { id });
      return at !== undefined && (at === null || at < since);
    });
  }
  const rows = all(
    store,
    pick(knex('domains as d').join('sightings as s', 's.domain_id', 'd.id'), { pendingId: DOMAINS.id })
      .where('s.source_id', which.sourceId ?? 0)
      .whereRaw('(d.phase_at IS NULL OR d.phase_at < ?)', [since])
      .whereRaw('NOT EXISTS (SELECT 1 FROM set_aside a WHERE a.source_id = s.source_id AND a.name = d.name)')
      .orderBy('d.id'),
  );
  return rows.map(({ pendingId }) => pendingId);
}
