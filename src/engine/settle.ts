import { expectedDrop, expiryOf, type LifeSeen } from '../core/lifecycle/drop-window';
import { lifeEvents } from '../core/lifecycle/life-events';
import { type Evidence, judgePhase, type Phase, type RegistrationRecord, type Verdict } from '../core/lifecycle/phase';
import { type LifePolicy, policyFor } from '../core/lifecycle/policies';
import { nextLook } from '../core/lifecycle/recheck';
import type { Store } from '../store/database';
import { type DomainRow, readDomains } from '../store/domains';
import { type CheckEntry, habitOf, putDeletion, putVerdict, recordOf } from '../store/verdicts';

const DAY = 86_400_000;
const LAPSING: ReadonlySet<Phase> = new Set(['auto-renew', 'redemption', 'pending-delete']);

/**
 * Judges what was said of a domain and writes the verdict with all that follows from it: what happened since the last look, the
 * expected drop, the next look. Call inside a write transaction.
 */
export function settle(
  store: Store,
  policies: readonly LifePolicy[],
  domainId: number,
  entries: CheckEntry[],
  evidence: Evidence,
): Verdict {
  const at = store.now();
  const [row] = readDomains(store, [domainId]);
  const verdict = judgePhase(evidence, at);
  const record = evidence.record?.record ?? null;
  const known = recordOf(row);
  const before = row.phase_at === null ? null : { phase: row.phase, record: known };
  const isNewPhase = row.phase_at !== null && row.phase !== verdict.phase;
  const policy = policyFor(row.ending, policies);
  // a record read earlier still counts while the phase is the same; of a name that is free again it says nothing
  const standing = record ?? (verdict.phase === 'free' || isNewPhase ? null : known);
  const seen: LifeSeen = {
    phase: verdict.phase,
    record: standing,
    lastSeenBefore: isNewPhase && row.phase !== 'unknown' ? row.phase_at : row.phase_before_at,
    firstSeenIn: isNewPhase || row.phase_at === null ? null : row.phase_since,
  };
  const window = expectedDrop(seen, policy, habitOf(store, standing?.registrar ?? null), at);
  const failures = verdict.phase === 'unknown' ? (row.ask_failures ?? 0) + 1 : 0;
  const askAt =
    row.watched_at === null
      ? null
      : nextLook({ phase: verdict.phase, expiresAt: standing?.expiresAt ?? null, window, failures }, at);
  const events = before ? lifeEvents(before, { phase: verdict.phase, record }, at) : [];
  putVerdict(store, domainId, at, entries, verdict, record, { window, askAt, failures, events, isNewPhase });
  noteDeletion(store, domainId, verdict.phase, record, policy, at);
  return verdict;
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
