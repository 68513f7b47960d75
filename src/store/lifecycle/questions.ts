import type { DnsOutcome, Phase } from '../../core/lifecycle/phase';
import type { QUESTION_DEPTHS } from '../../core/lifecycle/question-depths';
import { type Store, statement, write } from '../base/database';
import { type DomainRow, readDomains } from '../domains/domains';
import type { CheckEntry } from './verdicts';

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

interface Packed extends Omit<Question, 'said'> {
  said: string;
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

/** Adds questions for a job; ones that wait already are shared, and go as deep as the deepest wants. Call inside a write transaction. */
export function addQuestions(
  store: Store,
  jobId: number,
  ids: readonly number[],
  depth: QuestionDepth,
  priority: Priority = 'usual',
): void {
  const { raw } = store;
  const now = store.now();
  const ask = statement(raw, 'INSERT OR IGNORE INTO question_askers VALUES (?, ?)');
  // what was said long ago is asked anew
  const add = statement(
    raw,
    `INSERT INTO questions (domain_id, step, server, held, turn, depth, said, tries, since)
     VALUES (@id, 'dns', '', 0, @turn, @depth, '[]', 0, @now)
     ON CONFLICT (domain_id) DO UPDATE SET held = 0, waits_for = NULL, waits_until = NULL, turn = min(turn, excluded.turn),
       depth = CASE WHEN 'full' IN (depth, excluded.depth) THEN 'full' WHEN 'registrar' IN (depth, excluded.depth) THEN 'registrar'
         ELSE 'record' END,
       step = CASE WHEN since < @stale THEN 'dns' ELSE step END, server = CASE WHEN since < @stale THEN '' ELSE server END,
       said = CASE WHEN since < @stale THEN '[]' ELSE said END, since = CASE WHEN since < @stale THEN @now ELSE since END`,
  );
  const read = statement(raw, `SELECT said FROM questions WHERE domain_id = ? AND step <> 'dns'`);
  const note = statement(raw, 'INSERT INTO question_news (job_id, domain_id, dns, phase) VALUES (?, ?, ?, NULL)');
  for (const row of readDomains(store, [...ids])) {
    if (jobId !== NOBODY) ask.run(jobId, row.id);
    const turn = priority === 'usual' ? turnOf(row, now) : (priority === 'raised' ? RAISED : DROPPING) + now;
    add.run({ id: row.id, turn, depth, now, stale: now - STALE_MS });
    // DNS has said its part already: whoever comes later is told at once
    const further = jobId === NOBODY ? undefined : (read.get(row.id) as { said: string } | undefined);
    if (further) note.run(jobId, row.id, dnsOf(JSON.parse(further.said)));
  }
}

function dnsOf(said: CheckEntry[]): string {
  return said.find(({ step }) => step === 'dns')?.outcome ?? 'failed';
}

/** A person wants to know it now. */
export function raiseQuestion(store: Store, domainId: number): boolean {
  return write(
    store,
    () =>
      statement(store.raw, 'UPDATE questions SET turn = ? WHERE domain_id = ?').run(RAISED + store.now(), domainId)
        .changes > 0,
  );
}

/** The next questions of a lane, in their order. */
export function nextQuestions(store: Store, step: QuestionStep, server: string, limit: number): Question[] {
  const rows = statement(
    store.raw,
    `SELECT q.domain_id AS domainId, d.name, d.ending, q.step, q.server, q.depth, q.said, q.tries, q.turn, q.since
     FROM questions q JOIN domains d ON d.id = q.domain_id
     WHERE q.held = 0 AND q.step = ? AND q.server = ? ORDER BY q.turn LIMIT ?`,
  ).all(step, server, limit) as Packed[];
  return rows.map((row) => ({ ...row, said: JSON.parse(row.said) }));
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

/** How many questions wait for whom. */
export function countLanes(store: Store): LaneCount[] {
  return statement(
    store.raw,
    'SELECT step, server, count(*) AS waiting FROM questions WHERE held = 0 GROUP BY step, server',
  ).all() as LaneCount[];
}

/** The same of one job. */
export function countLanesOf(store: Store, jobId: number): LaneCount[] {
  return statement(
    store.raw,
    `SELECT q.step, q.server, count(*) AS waiting FROM question_askers a JOIN questions q ON q.domain_id = a.domain_id
     WHERE a.job_id = ? AND q.held = 0 GROUP BY q.step, q.server`,
  ).all(jobId) as LaneCount[];
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
  statement(store.raw, 'DELETE FROM question_askers WHERE domain_id = ?').run(domainId);
  statement(
    store.raw,
    `UPDATE questions SET held = 2, step = 'dns', server = '', said = '[]', tries = 0, waits_for = ?, waits_until = ? WHERE domain_id = ?`,
  ).run(waitsFor, until, domainId);
}

/** All that would be asked of DNS waits for a problem to pass. Call inside a write transaction. @returns how many. */
export function suspendDns(store: Store, waitsFor: string): number {
  const { raw } = store;
  statement(
    raw,
    `INSERT INTO question_news (job_id, domain_id, dns, phase) SELECT a.job_id, a.domain_id, 'failed', NULL
     FROM question_askers a JOIN questions q ON q.domain_id = a.domain_id WHERE q.held = 0 AND q.step = 'dns'`,
  ).run();
  return statement(
    raw,
    `UPDATE questions SET held = 2, waits_for = ?, waits_until = NULL WHERE held = 0 AND step = 'dns'`,
  ).run(waitsFor).changes;
}

/** All that would be asked of one server waits until it can be reached. Call inside a write transaction. @returns how many. */
export function suspendLane(store: Store, step: QuestionStep, server: string, waitsFor: string): number {
  return statement(
    store.raw,
    'UPDATE questions SET held = 2, waits_for = ?, waits_until = NULL WHERE held = 0 AND step = ? AND server = ?',
  ).run(waitsFor, step, server).changes;
}

/** What waits for a problem is put again, the most urgent first. Call inside a write transaction. @returns how many. */
export function releaseQuestions(store: Store, waitsFor: string, limit = -1): number {
  return statement(
    store.raw,
    `UPDATE questions SET held = 0, tries = 0, waits_for = NULL, waits_until = NULL,
       step = CASE WHEN since < @stale THEN 'dns' ELSE step END, server = CASE WHEN since < @stale THEN '' ELSE server END,
       said = CASE WHEN since < @stale THEN '[]' ELSE said END
     WHERE domain_id IN (SELECT domain_id FROM questions WHERE waits_for = @waitsFor AND held = 2 ORDER BY turn LIMIT @limit)`,
  ).run({ waitsFor, limit, stale: store.now() - STALE_MS }).changes;
}

/** How long after it was asked a name that nobody watches or shortlists is still tried each day. */
const WANTED_MS = 7 * 86_400_000;

/** Names whose own servers were silent are tried again when their day has come, as long as anybody wants to know. Call inside a write transaction. */
export function releaseDue(store: Store, now: number): number {
  const { raw } = store;
  const isDue = `held = 2 AND waits_for = '${OWN_SERVERS}' AND waits_until <= @now`;
  statement(
    raw,
    `DELETE FROM questions WHERE ${isDue} AND since < @unwanted
       AND NOT EXISTS (SELECT 1 FROM domains d WHERE d.id = domain_id AND d.watched_at IS NOT NULL)
       AND NOT EXISTS (SELECT 1 FROM shortlist s WHERE s.domain_id = questions.domain_id)`,
  ).run({ now, unwanted: now - WANTED_MS });
  return statement(
    raw,
    `UPDATE questions SET held = 0, tries = 0, waits_for = NULL, waits_until = NULL WHERE ${isDue}`,
  ).run({ now }).changes;
}

/** How many names wait for what, the most first; of one source, or of one job, only theirs. */
export function waitingNames(
  store: Store,
  of: { sourceId?: number; jobId?: number } = {},
): { waitsFor: string; words: string; names: number; nextAt: number | null }[] {
  return statement(
    store.raw,
    `SELECT q.waits_for AS waitsFor, coalesce(p.words, '') AS words, count(*) AS names, min(q.waits_until) AS nextAt
     FROM questions q LEFT JOIN lookup_problems p ON p.key = q.waits_for
     WHERE q.held = 2 AND q.waits_for IS NOT NULL
       AND (@source IS NULL OR EXISTS (SELECT 1 FROM sightings s WHERE s.source_id = @source AND s.domain_id = q.domain_id))
       AND (@job IS NULL OR EXISTS (SELECT 1 FROM question_askers a WHERE a.job_id = @job AND a.domain_id = q.domain_id))
     GROUP BY q.waits_for ORDER BY names DESC`,
  ).all({ source: of.sourceId ?? null, job: of.jobId ?? null }) as never;
}

/** Notes that something was answered. Call inside a write transaction. */
export function putPulse(store: Store): void {
  statement(store.raw, 'INSERT OR REPLACE INTO lookup_pulse VALUES (1, ?)').run(Date.now());
}

/** When anything was answered last, by the machine's clock, ms since 1970; 0: never. */
export function lastPulse(store: Store): number {
  return (statement(store.raw, 'SELECT at FROM lookup_pulse').pluck().get() as number | undefined) ?? 0;
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
  const found = statement(
    store.raw,
    `SELECT step, server, turn, held, coalesce(words, '') AS words, waits_until AS until
     FROM questions LEFT JOIN lookup_problems ON key = waits_for WHERE domain_id = ?`,
  ).get(domainId) as
    | { step: QuestionStep; server: string; turn: number; held: 0 | 1 | 2; words: string; until: number | null }
    | undefined;
  if (!found || found.held === 1) return null;
  if (found.held === 2) {
    const { step, server, words, until } = found;
    return { step, server, before: 0, waits: { words: words || 'Its servers do not answer.', until } };
  }
  const before = statement(
    store.raw,
    'SELECT count(*) AS before FROM questions WHERE held = 0 AND step = ? AND server = ? AND turn < ?',
  ).get(found.step, found.server, found.turn) as { before: number };
  return { step: found.step, server: found.server, ...before, waits: null };
}

/** A question goes on to the next step, with what was said. Call inside a write transaction. */
export function moveQuestion(store: Store, { domainId, step, server, said, tries }: Question): void {
  statement(store.raw, 'UPDATE questions SET step = ?, server = ?, said = ?, tries = ? WHERE domain_id = ?').run(
    step,
    server,
    JSON.stringify(said),
    tries,
    domainId,
  );
}

/** What DNS said, for those who do not want to wait for more. Call inside a write transaction. */
export function tellDns(store: Store, domainId: number, dns: DnsOutcome): void {
  tell(store, domainId, dns, null);
}

/** A question is answered: all who asked are told. Call inside a write transaction. */
export function closeQuestion(store: Store, domainId: number, dns: DnsOutcome | null, phase: Phase): void {
  tell(store, domainId, dns, phase);
  statement(store.raw, 'DELETE FROM question_askers WHERE domain_id = ?').run(domainId);
  statement(store.raw, 'DELETE FROM questions WHERE domain_id = ?').run(domainId);
}

function tell(store: Store, domainId: number, dns: DnsOutcome | null, phase: Phase | null): void {
  statement(
    store.raw,
    `INSERT INTO question_news (job_id, domain_id, dns, phase) SELECT job_id, domain_id, ?, ? FROM question_askers WHERE domain_id = ?`,
  ).run(dns, phase, domainId);
}

export interface QuestionNews {
  id: number;
  domainId: number;
  dns: DnsOutcome | null;
  phase: Phase | null;
}

/** What a job has been told since. */
export function newsFor(store: Store, jobId: number, after: number, limit = 5000): QuestionNews[] {
  return statement(
    store.raw,
    'SELECT id, domain_id AS domainId, dns, phase FROM question_news WHERE job_id = ? AND id > ? ORDER BY id LIMIT ?',
  ).all(jobId, after, limit) as QuestionNews[];
}

/** How many questions of a job are open. */
export function openQuestions(store: Store, jobId: number): number {
  const { open } = statement(store.raw, 'SELECT count(*) AS open FROM question_askers WHERE job_id = ?').get(jobId) as {
    open: number;
  };
  return open;
}

/**
 * A job does not wait any longer. Its questions rest with what was said so far, unless others ask them as well; with `goOn` they are
 * asked all the same, when their turn comes.
 */
export function leaveQuestions(store: Store, jobId: number, goOn: boolean): void {
  const { raw } = store;
  write(store, () => {
    if (!goOn)
      statement(
        raw,
        `UPDATE questions SET held = 1 WHERE domain_id IN (SELECT domain_id FROM question_askers WHERE job_id = @jobId)
           AND NOT EXISTS (SELECT 1 FROM question_askers o WHERE o.domain_id = questions.domain_id AND o.job_id <> @jobId)`,
      ).run({ jobId });
    statement(raw, 'DELETE FROM question_askers WHERE job_id = ?').run(jobId);
    statement(raw, 'DELETE FROM question_news WHERE job_id = ?').run(jobId);
  });
}

/** Domains a check job has not settled yet: those of a source, or by id, without a verdict from after `since`. */
export function pendingChecks(
  store: Store,
  which: { sourceId?: number; ids?: readonly number[] },
  since: number,
): number[] {
  if (which.ids) {
    const read = statement(store.raw, 'SELECT id, phase_at FROM domains WHERE id = ?');
    return which.ids.flatMap((id) => {
      const row = read.get(id) as { id: number; phase_at: number | null } | undefined;
      return !row || (row.phase_at !== null && row.phase_at >= since) ? [] : [id];
    });
  }
  const rows = statement(
    store.raw,
    `SELECT d.id AS pendingId FROM domains d JOIN sightings s ON s.domain_id = d.id
     WHERE s.source_id = ? AND (d.phase_at IS NULL OR d.phase_at < ?)
       AND NOT EXISTS (SELECT 1 FROM set_aside a WHERE a.source_id = s.source_id AND a.name = d.name)
     ORDER BY d.id`,
  ).all(which.sourceId ?? 0, since) as { pendingId: number }[];
  return rows.map(({ pendingId }) => pendingId);
}
