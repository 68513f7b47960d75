import { z } from 'zod';
import type { DropOutcome } from '../../core/learning/windows';
import type { DropWindow, RegistrarHabit } from '../../core/lifecycle/drop-window';
import type { LifeEvent, LifeEventKind } from '../../core/lifecycle/life-events';
import type { Phase, RegistrationRecord, Verdict } from '../../core/lifecycle/phase';
import type { Store } from '../base/database';
import { all, camel, columns, copyRows, fromJson, knex, pick, prepared, run, sql } from '../base/query';
import type { NewRow, Row } from '../base/schema';
import type { DomainRow } from '../domains/domains';

const DOMAINS = columns('domains', 'd');
const EXPECTED = columns('domains');
const DROP_OUTCOMES = columns('drop_outcomes', 'o');
const CHECKS = columns('checks');
const LIFE_EVENTS = columns('life_events', 'e');

export const CHECK_STEPS = ['dns', 'rdap', 'whois', 'registrar'] as const;
export type CheckStep = (typeof CHECK_STEPS)[number];

/** One answer of one server. */
export const CheckEntry = z.object({
  step: z.enum(CHECK_STEPS),
  server: z.string(),
  outcome: z.string(),
  detail: z.string(),
  elapsedMs: z.number(),
  /** When it came, ms since 1970 UTC; absent: when the verdict was made. */
  at: z.number().optional(),
  /** The answer itself, where it could not be understood. */
  text: z.string().nullish(),
  /** Until the verdict is made: the words that decided, and how it is known that the server can know. */
  words: z.string().nullish(),
  proof: z.string().nullish(),
  /** Of a registrar: what it asks, in minor units, and in which currency. */
  priceMinor: z.number().nullish(),
  currency: z.string().nullish(),
});
export type CheckEntry = z.infer<typeof CheckEntry>;

/** What follows from a verdict for the life of a name. */
export interface LifeChange {
  window: DropWindow | null;
  /** The next look, ms since 1970 UTC; null: nobody watches it. */
  askAt: number | null;
  failures: number;
  events: LifeEvent[];
  /** A phase other than the last that was told. */
  isNewPhase: boolean;
  /** When a look last had an answer; null: none had. */
  lastSeenBefore: number | null;
}

/** Begins the source of a verdict where those who could know could not be asked. */
export const UNASKED = 'unasked ';

interface Settled {
  id: number;
  at: number;
  /** Whether the phase is another than before; then when a look last had an answer. */
  isNew: 0 | 1;
  seenBefore: number | null;
  phase: Phase;
  confidence: number;
  reason: string;
  source: string | null;
  contradictions: string | null;
}
const SETTLE = prepared((row: Settled) =>
  knex('domains')
    .where('id', row.id)
    .update({
      phase_before_at: sql('CASE WHEN ? THEN ? ELSE phase_before_at END', [row.isNew, row.seenBefore]),
      phase_since: sql('CASE WHEN ? OR phase_since IS NULL THEN ? ELSE phase_since END', [row.isNew, row.at]),
      phase: row.phase,
      phase_confidence: row.confidence,
      phase_reason: row.reason,
      phase_source: row.source,
      phase_at: row.at,
      contradictions: row.contradictions,
    }),
);

type Recorded = Pick<
  Row<'domains'>,
  | 'id'
  | 'registered_at'
  | 'expires_at'
  | 'changed_at'
  | 'registrar'
  | 'statuses'
  | 'name_servers'
  | 'record_at'
  | 'record_source'
>;
const RECORD = prepared((row: Recorded) =>
  knex('domains').where('id', row.id).update({
    registered_at: row.registered_at,
    expires_at: row.expires_at,
    changed_at: row.changed_at,
    registrar: row.registrar,
    statuses: row.statuses,
    name_servers: row.name_servers,
    record_at: row.record_at,
    record_source: row.record_source,
  }),
);

/** Writes the answers as evidence and the verdict as current value. Call inside a write transaction. */
export function putVerdict(
  store: Store,
  domainId: number,
  at: number,
  entries: CheckEntry[],
  verdict: Verdict,
  record: RegistrationRecord | null,
  life: LifeChange | null = null,
): void {
  putChecks(store, domainId, at, entries);
  const last = entries.at(-1);
  const answered = last ? `${last.step} ${last.server}` : null;
  SETTLE.run(store, {
    id: domainId,
    at,
    isNew: life?.isNewPhase ? 1 : 0,
    seenBefore: life?.lastSeenBefore ?? null,
    phase: verdict.phase,
    confidence: verdict.confidence,
    reason: verdict.reason,
    source: verdict.isUnasked ? `${UNASKED}${last?.server ?? ''}` : answered,
    contradictions: verdict.contradictions.length > 0 ? JSON.stringify(verdict.contradictions) : null,
  });
  if (record)
    RECORD.run(store, {
      id: domainId,
      registered_at: record.registeredAt,
      expires_at: record.expiresAt,
      changed_at: record.changedAt,
      registrar: record.registrar,
      statuses: JSON.stringify(record.statuses),
      name_servers: JSON.stringify(record.nameServers),
      record_at: at,
      record_source: entries.findLast(({ step }) => step === 'rdap' || step === 'whois')?.server ?? null,
    });
  if (record?.registrant)
    run(
      store,
      knex('site_facts')
        .insert({ domain_id: domainId, registrant: record.registrant })
        .onConflict('domain_id')
        .merge(['registrant']),
    );
  if (life) putLife(store, domainId, at, life);
}

/** A name whose server's turn is far off is unknown until then. Call inside a write transaction. */
export function putWaiting(store: Store, domainId: number, at: number, server: string, reason: string): void {
  run(
    store,
    knex('domains')
      .where('id', domainId)
      .update({
        phase: 'unknown',
        phase_confidence: 0,
        phase_reason: reason,
        phase_source: `queue ${server}`,
        phase_at: at,
      }),
  );
}

/** Answers that decide nothing yet. Call inside a write transaction. */
function putChecks(store: Store, domainId: number, at: number, entries: CheckEntry[]): void {
  for (const entry of entries)
    ANSWER.run(store, { text: null, priceMinor: null, currency: null, ...entry, at: entry.at ?? at, domainId });
}
const ANSWER = prepared((entry: CheckEntry & { domainId: number; at: number }) =>
  knex('checks').insert({
    domain_id: entry.domainId,
    at: entry.at,
    step: entry.step,
    server: entry.server,
    outcome: entry.outcome,
    detail: entry.detail,
    elapsed_ms: entry.elapsedMs,
    text: entry.text,
    price_minor: entry.priceMinor,
    currency: entry.currency,
  }),
);

type Ahead = Pick<
  Row<'domains'>,
  'id' | 'drop_from' | 'drop_to' | 'drop_conditional' | 'drop_reasons' | 'ask_at' | 'ask_failures'
>;
const AHEAD = prepared((row: Ahead) =>
  knex('domains').where('id', row.id).update({
    drop_from: row.drop_from,
    drop_to: row.drop_to,
    drop_conditional: row.drop_conditional,
    drop_reasons: row.drop_reasons,
    ask_at: row.ask_at,
    ask_failures: row.ask_failures,
  }),
);
const EVENT = prepared((row: NewRow<'life_events'>) =>
  knex('life_events').insert({ domain_id: row.domain_id, at: row.at, kind: row.kind, words: row.words }),
);

function putLife(store: Store, domainId: number, at: number, { window, askAt, failures, events }: LifeChange): void {
  keepOutcome(store, domainId, at, events);
  AHEAD.run(store, {
    id: domainId,
    drop_from: window?.from ?? null,
    drop_to: window?.to ?? null,
    drop_conditional: window ? (window.isConditional ? 1 : 0) : null,
    drop_reasons: window ? JSON.stringify(window.reasons) : null,
    ask_at: askAt,
    ask_failures: failures,
  });
  for (const { kind, words } of events) EVENT.run(store, { domain_id: domainId, at, kind, words });
}

/** What came of the window in which it was expected to drop, before that window is forgotten. */
function keepOutcome(store: Store, domainId: number, at: number, events: readonly LifeEvent[]): void {
  const became = events.some(({ kind }) => kind === 'dropped')
    ? 'dropped'
    : events.some(({ kind }) => kind === 'renewed-late' || kind === 'restored')
      ? 'renewed'
      : null;
  if (became === null) return;
  const expected = knex('domains').where('id', domainId).whereNotNull('drop_from').whereNotNull('drop_to');
  copyRows(store, 'drop_outcomes', expected, {
    domain_id: EXPECTED.id,
    seen_at: sql('?', [at]),
    from_at: EXPECTED.drop_from,
    to_at: EXPECTED.drop_to,
    last_at: EXPECTED.phase_before_at,
    became: sql('?', [became]),
  });
}

/** Windows whose end is known, the latest first. */
export function dropOutcomes(store: Store, limit: number): DropOutcome[] {
  return all(
    store,
    pick(knex('drop_outcomes as o').join('domains as d', 'd.id', 'o.domain_id'), {
      ...camel(DOMAINS, 'ending'),
      ...camel(DROP_OUTCOMES, 'from_at', 'to_at', 'last_at', 'seen_at', 'became'),
    })
      .orderBy('o.seen_at', 'desc')
      .limit(limit),
  );
}

export interface StoredCheck extends CheckEntry {
  at: number;
}

/** The last hundred answers about a domain, the latest first; of one look in the order they were asked. */
export function checksOf(store: Store, domainId: number): StoredCheck[] {
  return all(
    store,
    pick(knex('checks'), camel(CHECKS, 'at', 'step', 'server', 'outcome', 'detail', 'elapsed_ms', 'text'))
      .where('domain_id', domainId)
      .orderBy([{ column: 'at', order: 'desc' }, { column: 'id' }])
      .limit(100),
  );
}

const ONE_LOOK_MS = 30 * 60_000;

/** What each of those who were asked for the standing verdict said; absent: not asked. */
export function saidFor(
  store: Store,
  { id, phase_at: at }: Pick<DomainRow, 'id' | 'phase_at'>,
): Partial<Record<'dns' | 'record' | 'registrar', string>> {
  const said: Partial<Record<'dns' | 'record' | 'registrar', string>> = {};
  for (const { step, outcome, at: saidAt } of checksOf(store, id)) {
    if (at === null || saidAt < at - ONE_LOOK_MS) continue;
    said[step === 'rdap' || step === 'whois' ? 'record' : step] ??= outcome;
  }
  return said;
}

const Words = z.array(z.string());

/** The registration record as it was last read; null: none was. */
export function recordOf(row: DomainRow): RegistrationRecord | null {
  if (row.record_at === null) return null;
  return {
    statuses: row.statuses ? fromJson(Words, row.statuses) : [],
    registeredAt: row.registered_at,
    expiresAt: row.expires_at,
    changedAt: row.changed_at,
    registrar: row.registrar,
    nameServers: row.name_servers ? fromJson(Words, row.name_servers) : [],
  };
}

export function windowOf(
  row: Pick<DomainRow, 'drop_from' | 'drop_to' | 'drop_conditional' | 'drop_reasons'>,
): DropWindow | null {
  if (row.drop_from === null || row.drop_to === null) return null;
  return {
    from: row.drop_from,
    to: row.drop_to,
    isConditional: row.drop_conditional === 1,
    reasons: row.drop_reasons ? fromJson(Words, row.drop_reasons) : [],
  };
}

/** A name was seen to be deleted on some day after its expiry. Call inside a write transaction. */
export function putDeletion(store: Store, domainId: number, expiredAt: number, registrar: string, days: number): void {
  run(
    store,
    knex('deletions')
      .insert({ domain_id: domainId, expired_at: expiredAt, registrar, days })
      .onConflict(['domain_id', 'expired_at'])
      .merge(),
  );
}

const HABIT_NAMES = 400;

/** On which days a registrar deletes expired names, without the odd ones at both ends; null: none was seen. */
export function habitOf(store: Store, registrar: string | null): RegistrarHabit | null {
  if (registrar === null) return null;
  const days = all(
    store,
    knex('deletions').where('registrar', registrar).orderBy('days').limit(HABIT_NAMES).pluck('days'),
  );
  if (days.length === 0) return null;
  const odd = Math.floor(days.length * 0.02);
  return { registrar, days: [days[odd], days[days.length - 1 - odd]], names: days.length };
}

export interface StoredEvent {
  id: number;
  domainId: number;
  name: string;
  at: number;
  kind: LifeEventKind;
  words: string;
}

export function eventsOf(store: Store, domainId: number): StoredEvent[] {
  return all(
    store,
    pick(knex('life_events as e').join('domains as d', 'd.id', 'e.domain_id'), {
      ...camel(LIFE_EVENTS, 'id', 'domain_id', 'at', 'kind', 'words'),
      ...camel(DOMAINS, 'name'),
    })
      .where('e.domain_id', domainId)
      .orderBy([{ column: 'e.at', order: 'desc' }, { column: 'e.id' }])
      .limit(100),
  );
}

/** What happened to names that are watched or shortlisted: first those that a person chose, of these the latest first. */
export function recentEvents(store: Store, since: number, limit: number): StoredEvent[] {
  return all(
    store,
    pick(knex('life_events as e').join('domains as d', 'd.id', 'e.domain_id'), {
      ...camel(LIFE_EVENTS, 'id', 'domain_id', 'at', 'kind', 'words'),
      ...camel(DOMAINS, 'name'),
    })
      .where('e.at', '>=', since)
      .whereRaw('(d.watched_at IS NOT NULL OR EXISTS (SELECT 1 FROM shortlist s WHERE s.domain_id = d.id))')
      .orderByRaw(
        "d.watch_reason = 'by hand' OR EXISTS (SELECT 1 FROM shortlist s WHERE s.domain_id = d.id) DESC, e.at DESC, e.id",
      )
      .limit(limit),
  );
}
