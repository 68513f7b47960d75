import type { DropOutcome } from '../../core/learning/windows';
import type { DropWindow, RegistrarHabit } from '../../core/lifecycle/drop-window';
import type { LifeEvent, LifeEventKind } from '../../core/lifecycle/life-events';
import type { RegistrationRecord, Verdict } from '../../core/lifecycle/phase';
import { type Store, statement } from '../base/database';
import type { DomainRow } from '../domains/domains';

export const CHECK_STEPS = ['dns', 'rdap', 'whois', 'registrar'] as const;
export type CheckStep = (typeof CHECK_STEPS)[number];

/** One answer of one server. */
export interface CheckEntry {
  step: CheckStep;
  server: string;
  outcome: string;
  detail: string;
  elapsedMs: number;
  /** When it came, ms since 1970 UTC; absent: when the verdict was made. */
  at?: number;
  /** The answer itself, where it could not be understood. */
  text?: string | null;
  /** Until the verdict is made: the words that decided, and how it is known that the server can know. */
  words?: string | null;
  proof?: string | null;
  /** Of a registrar: what it asks, in minor units, and in which currency. */
  priceMinor?: number | null;
  currency?: string | null;
}

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
  const { raw } = store;
  putChecks(store, domainId, at, entries);
  const last = entries.at(-1);
  statement(
    raw,
    `UPDATE domains SET phase_before_at = CASE WHEN @isNew THEN @lastSeenBefore ELSE phase_before_at END,
       phase_since = CASE WHEN @isNew OR phase_since IS NULL THEN @at ELSE phase_since END, phase = @phase,
       phase_confidence = @confidence, phase_reason = @reason, phase_source = @source, phase_at = @at,
       contradictions = @contradictions WHERE id = @domainId`,
  ).run({
    isNew: life?.isNewPhase ? 1 : 0,
    lastSeenBefore: life?.lastSeenBefore ?? null,
    at,
    phase: verdict.phase,
    confidence: verdict.confidence,
    reason: verdict.reason,
    source: verdict.isUnasked ? `${UNASKED}${last?.server ?? ''}` : last ? `${last.step} ${last.server}` : null,
    contradictions: verdict.contradictions.length > 0 ? JSON.stringify(verdict.contradictions) : null,
    domainId,
  });
  if (record)
    statement(
      raw,
      `UPDATE domains SET registered_at = ?, expires_at = ?, changed_at = ?, registrar = ?, statuses = ?, name_servers = ?,
       record_at = ?, record_source = ? WHERE id = ?`,
    ).run(
      record.registeredAt,
      record.expiresAt,
      record.changedAt,
      record.registrar,
      JSON.stringify(record.statuses),
      JSON.stringify(record.nameServers),
      at,
      entries.findLast(({ step }) => step === 'rdap' || step === 'whois')?.server ?? null,
      domainId,
    );
  if (record?.registrant)
    statement(
      raw,
      `INSERT INTO site_facts (domain_id, registrant) VALUES (?, ?) ON CONFLICT(domain_id) DO UPDATE SET registrant = excluded.registrant`,
    ).run(domainId, record.registrant);
  if (life) putLife(store, domainId, at, life);
}

/** A name whose server's turn is far off is unknown until then. Call inside a write transaction. */
export function putWaiting(store: Store, domainId: number, at: number, server: string, reason: string): void {
  statement(
    store.raw,
    `UPDATE domains SET phase = 'unknown', phase_confidence = 0, phase_reason = ?, phase_source = ?, phase_at = ? WHERE id = ?`,
  ).run(reason, `queue ${server}`, at, domainId);
}

/** Answers that decide nothing yet. Call inside a write transaction. */
function putChecks(store: Store, domainId: number, at: number, entries: CheckEntry[]): void {
  const insert = statement(
    store.raw,
    `INSERT INTO checks (domain_id, at, step, server, outcome, detail, elapsed_ms, text, price_minor, currency)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  for (const entry of entries) {
    const { step, server, outcome, detail, elapsedMs, text = null, priceMinor = null, currency = null } = entry;
    insert.run(domainId, entry.at ?? at, step, server, outcome, detail, elapsedMs, text, priceMinor, currency);
  }
}

function putLife(store: Store, domainId: number, at: number, { window, askAt, failures, events }: LifeChange): void {
  keepOutcome(store, domainId, at, events);
  statement(
    store.raw,
    `UPDATE domains SET drop_from = ?, drop_to = ?, drop_conditional = ?, drop_reasons = ?, ask_at = ?, ask_failures = ?
     WHERE id = ?`,
  ).run(
    window?.from ?? null,
    window?.to ?? null,
    window ? Number(window.isConditional) : null,
    window ? JSON.stringify(window.reasons) : null,
    askAt,
    failures,
    domainId,
  );
  const insert = statement(store.raw, 'INSERT INTO life_events (domain_id, at, kind, words) VALUES (?, ?, ?, ?)');
  for (const { kind, words } of events) insert.run(domainId, at, kind, words);
}

/** What came of the window in which it was expected to drop, before that window is forgotten. */
function keepOutcome(store: Store, domainId: number, at: number, events: readonly LifeEvent[]): void {
  const became = events.some(({ kind }) => kind === 'dropped')
    ? 'dropped'
    : events.some(({ kind }) => kind === 'renewed-late' || kind === 'restored')
      ? 'renewed'
      : null;
  if (became === null) return;
  statement(
    store.raw,
    `INSERT OR IGNORE INTO drop_outcomes (domain_id, seen_at, from_at, to_at, last_at, became)
     SELECT id, ?, drop_from, drop_to, phase_before_at, ? FROM domains WHERE id = ? AND drop_from IS NOT NULL AND drop_to IS NOT NULL`,
  ).run(at, became, domainId);
}

/** Windows whose end is known, the latest first. */
export function dropOutcomes(store: Store, limit: number): DropOutcome[] {
  return statement(
    store.raw,
    `SELECT d.ending, o.from_at AS fromAt, o.to_at AS toAt, o.last_at AS lastAt, o.seen_at AS seenAt, o.became
     FROM drop_outcomes o JOIN domains d ON d.id = o.domain_id ORDER BY o.seen_at DESC LIMIT ?`,
  ).all(limit) as DropOutcome[];
}

export interface StoredCheck extends CheckEntry {
  at: number;
}

/** The last hundred answers about a domain, the latest first; of one look in the order they were asked. */
export function checksOf(store: Store, domainId: number): StoredCheck[] {
  return statement(
    store.raw,
    'SELECT at, step, server, outcome, detail, elapsed_ms AS elapsedMs, text FROM checks WHERE domain_id = ? ORDER BY at DESC, id LIMIT 100',
  ).all(domainId) as StoredCheck[];
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

/** The registration record as it was last read; null: none was. */
export function recordOf(row: DomainRow): RegistrationRecord | null {
  if (row.record_at === null) return null;
  return {
    statuses: row.statuses ? JSON.parse(row.statuses) : [],
    registeredAt: row.registered_at,
    expiresAt: row.expires_at,
    changedAt: row.changed_at,
    registrar: row.registrar,
    nameServers: row.name_servers ? JSON.parse(row.name_servers) : [],
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
    reasons: row.drop_reasons ? JSON.parse(row.drop_reasons) : [],
  };
}

/** A name was seen to be deleted on some day after its expiry. Call inside a write transaction. */
export function putDeletion(store: Store, domainId: number, expiredAt: number, registrar: string, days: number): void {
  statement(store.raw, 'INSERT OR REPLACE INTO deletions VALUES (?, ?, ?, ?)').run(
    domainId,
    expiredAt,
    registrar,
    days,
  );
}

const HABIT_NAMES = 400;

/** On which days a registrar deletes expired names, without the odd ones at both ends; null: none was seen. */
export function habitOf(store: Store, registrar: string | null): RegistrarHabit | null {
  if (registrar === null) return null;
  const days = statement(store.raw, 'SELECT days FROM deletions WHERE registrar = ? ORDER BY days LIMIT ?')
    .pluck()
    .all(registrar, HABIT_NAMES) as number[];
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

const EVENT_COLUMNS = 'e.id, e.domain_id AS domainId, d.name, e.at, e.kind, e.words';

export function eventsOf(store: Store, domainId: number): StoredEvent[] {
  return statement(
    store.raw,
    `SELECT ${EVENT_COLUMNS} FROM life_events e JOIN domains d ON d.id = e.domain_id
     WHERE e.domain_id = ? ORDER BY e.at DESC, e.id LIMIT 100`,
  ).all(domainId) as StoredEvent[];
}

/** What happened to names that are watched or shortlisted: first those that a person chose, of these the latest first. */
export function recentEvents(store: Store, since: number, limit: number): StoredEvent[] {
  return statement(
    store.raw,
    `SELECT ${EVENT_COLUMNS} FROM life_events e JOIN domains d ON d.id = e.domain_id
     WHERE e.at >= ? AND (d.watched_at IS NOT NULL OR EXISTS (SELECT 1 FROM shortlist s WHERE s.domain_id = d.id))
     ORDER BY d.watch_reason = 'by hand' OR EXISTS (SELECT 1 FROM shortlist s WHERE s.domain_id = d.id) DESC, e.at DESC, e.id
     LIMIT ?`,
  ).all(since, limit) as StoredEvent[];
}
