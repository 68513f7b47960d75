import { describe, expect, it } from 'vitest';
import { type Evidence, judgePhase, type RegistrationRecord } from './phase';

const now = Date.UTC(2026, 10, 24);
const record = (part: Partial<RegistrationRecord> = {}): RegistrationRecord => ({
  statuses: ['active'],
  registeredAt: now - 1e11,
  expiresAt: now + 1e10,
  changedAt: null,
  registrar: 'Coombe Names',
  nameServers: [],
  ...part,
});
const found = (part: Partial<RegistrationRecord>): Evidence['record'] => ({ outcome: 'found', record: record(part) });

describe('judgePhase', () => {
  const cases: [what: string, evidence: Evidence, phase: string][] = [
    ['a record in good standing is active', { dns: 'delegated', record: found({}) }, 'active'],
    ['RDAP spelling of pending delete', { record: found({ statuses: ['pending delete'] }) }, 'pending-delete'],
    ['EPP spelling of pending delete', { record: found({ statuses: ['pendingDelete'] }) }, 'pending-delete'],
    [
      'redemption wins over the pending delete that stands beside it',
      { record: found({ statuses: ['pendingDelete', 'redemptionPeriod'] }) },
      'redemption',
    ],
    ['a pending restore is still redemption', { record: found({ statuses: ['pending restore'] }) }, 'redemption'],
    ['auto-renew period', { record: found({ statuses: ['ok', 'autoRenewPeriod'] }) }, 'auto-renew'],
    ['a passed expiry without a status', { record: found({ expiresAt: now - 5 * 86_400_000 }) }, 'auto-renew'],
    ['a reserved name cannot be had', { record: found({ statuses: ['reserved'] }) }, 'not-registrable'],
    ['no record and no DNS is free', { dns: 'nxdomain', record: { outcome: 'not-found', record: null } }, 'free'],
    ['no record alone is free', { record: { outcome: 'not-found', record: null } }, 'free'],
    [
      'delegation without a record is not free',
      { dns: 'delegated', record: { outcome: 'not-found', record: null } },
      'active',
    ],
    ['NXDOMAIN alone is not enough for free', { dns: 'nxdomain' }, 'unknown'],
    ['delegation alone is enough for taken', { dns: 'delegated' }, 'active'],
    ['a refusal is not an answer', { dns: 'nxdomain', record: { outcome: 'refused', record: null } }, 'unknown'],
    ['failures say nothing', { dns: 'failed', record: { outcome: 'failed', record: null } }, 'unknown'],
  ];
  it.each(cases)('%s', (_what, evidence, phase) => {
    expect(judgePhase(evidence, now).phase).toBe(phase);
  });

  it('is surer of a free name when DNS and the record agree', () => {
    const both = judgePhase({ dns: 'nxdomain', record: { outcome: 'not-found', record: null } }, now);
    const one = judgePhase({ record: { outcome: 'not-found', record: null } }, now);
    expect(both.confidence).toBeGreaterThan(one.confidence);
  });

  it('doubts a pending delete that still resolves', () => {
    const verdict = judgePhase({ dns: 'delegated', record: found({ statuses: ['pending delete'] }) }, now);
    expect(verdict).toMatchObject({ phase: 'pending-delete', confidence: 0.75 });
    expect(verdict.reason).toContain('still resolves');
  });
});
