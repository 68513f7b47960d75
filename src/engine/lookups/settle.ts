import { type DropWindow, expectedDrop, expiryOf, type LifeSeen, narrowed } from '../../core/lifecycle/drop-window';
import { lifeEvents } from '../../core/lifecycle/life-events';
import type { LifePhase } from '../../core/lifecycle/moves';
import {
  type Evidence,
  judgePhase,
  type Phase,
  type RegistrationRecord,
  type Verdict,
} from '../../core/lifecycle/phase';
import { type LifePolicy, policyFor } from '../../core/lifecycle/policies';
import { nextLook } from '../../core/lifecycle/recheck';
import type { Store } from '../../store/base/database';
import { type DomainRow, readDomains } from '../../store/domains/domains';
import { dropLifeMemory, type LifeMemory, lifeOf, putLifeMemory } from '../../store/domains/lives';
import { type CheckEntry, habitOf, putDeletion, putVerdict, recordOf, windowOf } from '../../store/lifecycle/verdicts';

const DAY = 86_400_000;
const LAPSING: ReadonlySet<Phase> = new Set(['auto-renew', 'redemption', 'pending-delete']);
/** How far a lapse has gone: it only goes on, unless the owner has the name back. */
const PROGRESS: Partial<Record<Phase, number>> = { active: 0, 'auto-renew': 1, redemption: 2, 'pending-delete': 3 };
/** Records whose expiries differ by less speak of the same registration. */
const SAME_EXPIRY_MS = 3 * DAY;

/**
 * Judges what was said of a domain and writes the verdict with all that follows from it: what happened since the last look, the
 * expected drop, the next look. A look without an answer changes nothing of what was known of its life. Call inside a write transaction.
 *
 * @param registryMs how often its registry may be asked now, ms between two questions.
 */
export function settle(
  store: Store,
  policies: readonly LifePolicy[],
  domainId: number,
  entries: CheckEntry[],
  evidence: Evidence,
  registryMs = 0,
): Verdict {
  const at = store.now();
  const [row] = readDomains(store, [domainId]);
  const verdict = judgePhase(evidence, at);
  const record = evidence.record?.record ?? null;
  const stored = lifeOf(store, domainId);
  const memory = stored ?? lifeInRow(row);
  const known = knownRecord(row, memory);
  const policy = policyFor(row.ending, policies);
  const isTold = verdict.phase !== 'unknown';
  const isNewPhase = memory !== null && isTold && memory.phase !== verdict.phase;
  // a record read earlier still counts while the phase is the same; of a name that is free again it says nothing
  const standing = record ?? (verdict.phase === 'free' || isNewPhase ? null : known);
  const window = isTold ? windowFor(store, row, verdict.phase, standing, memory, policy, at) : windowOf(row);
  const failures = isTold ? 0 : (row.ask_failures ?? 0) + 1;
  const askAt =
    row.watched_at === null
      ? null
      : nextLook(
          {
            phase: verdict.phase,
            expiresAt: standing?.expiresAt ?? null,
            window,
            failures,
            closelyMs: row.watch_reason === 'by hand' ? registryMs : null,
          },
          at,
        );
  const before = memory === null ? null : { phase: memory.phase, record: known };
  const events = before ? lifeEvents(before, { phase: verdict.phase, record }, at) : [];
  putVerdict(store, domainId, at, entries, verdict, record, {
    window,
    askAt,
    failures,
    events,
    isNewPhase,
    lastSeenBefore: memory?.seenLastAt ?? null,
  });
  // of a name that does not lapse its row tells all there is, until a look without an answer hides it
  if (LAPSING.has(verdict.phase))
    putLifeMemory(store, domainId, remembered(memory, verdict.phase as LifePhase, standing, policy, at));
  else if (isTold && stored) dropLifeMemory(store, domainId);
  else if (!isTold && memory && !stored) putLifeMemory(store, domainId, memory);
  noteDeletion(store, domainId, verdict.phase, record, policy, at);
  return verdict;
}

function windowFor(
  store: Store,
  row: DomainRow,
  phase: Phase,
  standing: RegistrationRecord | null,
  memory: LifeMemory | null,
  policy: LifePolicy,
  at: number,
): DropWindow | null {
  const isSame = memory !== null && memory.phase === phase;
  const seen: LifeSeen = {
    phase,
    record: standing,
    lastSeenBefore: isSame ? memory.beforeAt : (memory?.seenLastAt ?? null),
    firstSeenIn: isSame ? memory.seenFirstAt : at,
  };
  const window = expectedDrop(seen, policy, habitOf(store, standing?.registrar ?? null), at);
  if (window === null || memory === null) return window;
  const isOneRule = memory.policy === JSON.stringify(policy);
  return isOneRule && isOneLapse(row, phase, standing, memory.phase, policy, at)
    ? narrowed(windowOf(row), window)
    : window;
}

/** Whether a look found the lapse that the one before it had found, as far or further on. */
function isOneLapse(
  row: DomainRow,
  phase: Phase,
  standing: RegistrationRecord | null,
  before: Phase,
  policy: LifePolicy,
  at: number,
): boolean {
  if ((PROGRESS[phase] ?? -1) < (PROGRESS[before] ?? 9)) return false;
  if (!standing || row.expires_at === null) return true;
  const expiredAt = expiryOf({ phase, record: standing }, policy, at);
  const expiredBefore = expiryOf({ phase: before, record: { ...standing, expiresAt: row.expires_at } }, policy, at);
  return expiredAt === null || expiredBefore === null || Math.abs(expiredAt - expiredBefore) < SAME_EXPIRY_MS;
}

function remembered(
  memory: LifeMemory | null,
  phase: LifePhase,
  standing: RegistrationRecord | null,
  policy: LifePolicy,
  at: number,
): LifeMemory {
  const isSame = memory !== null && memory.phase === phase;
  return {
    phase,
    seenFirstAt: isSame ? memory.seenFirstAt : at,
    seenLastAt: at,
    beforeAt: isSame ? memory.beforeAt : (memory?.seenLastAt ?? null),
    deletesAt: standing?.deletesAt ?? null,
    freeAt: standing?.freeAt ?? null,
    policy: JSON.stringify(policy),
  };
}

/** What the row of a domain tells of its life; null: no server has told anything, or the last look had no answer. */
function lifeInRow(row: DomainRow): LifeMemory | null {
  const { phase, phase_at: at, phase_since: since, phase_before_at: beforeAt, phase_source: source } = row;
  if (at === null || phase === 'unknown' || source?.startsWith('source ')) return null;
  return { phase, seenFirstAt: since ?? at, seenLastAt: at, beforeAt, deletesAt: null, freeAt: null, policy: null };
}

/** The record as it was last read, with what the registry stated of its end. */
function knownRecord(row: DomainRow, memory: LifeMemory | null): RegistrationRecord | null {
  const record = recordOf(row);
  return record && memory ? { ...record, deletesAt: memory.deletesAt, freeAt: memory.freeAt } : record;
}

/** Where the record shows when a registrar deleted an expired name, that is a habit worth remembering. */
function noteDeletion(
  store: Store,
  domainId: number,
  phase: Phase,
  record: RegistrationRecord | null,
  policy: LifePolicy,
  now: number,
): void {
  if (phase !== 'redemption' || !record?.changedAt || !record.registrar || policy.autoRenewDays[1] === 0) return;
  const expiredAt = expiryOf({ phase, record }, policy, now);
  if (expiredAt === null) return;
  const days = (record.changedAt - expiredAt) / DAY;
  if (days >= policy.autoRenewDays[0] && days <= policy.autoRenewDays[1] + 1)
    putDeletion(store, domainId, expiredAt, record.registrar, days);
}

/** Whether a name that DNS delegates has its record read all the same: only that tells taken from lapsing. */
export function wantsRecord(row: DomainRow, now: number): boolean {
  if (row.watched_at !== null || LAPSING.has(row.phase)) return true;
  return row.expires_at !== null && row.expires_at < now + 3 * DAY;
}
