/** Where a domain stands in its life. `not-registrable`: the registry or the law keeps it from being had. */
export const PHASES = [
  'free',
  'pending-delete',
  'redemption',
  'auto-renew',
  'active',
  'not-registrable',
  'unknown',
] as const;
export type Phase = (typeof PHASES)[number];

/** One answer of one server. */
export type DnsOutcome = 'delegated' | 'nxdomain' | 'no-delegation' | 'failed';
export type RecordOutcome = 'found' | 'not-found' | 'refused' | 'failed';

/** What RDAP or WHOIS said, reduced to what the life of a domain needs. Times in ms since 1970, UTC; null: not said. */
export interface RegistrationRecord {
  statuses: string[];
  registeredAt: number | null;
  expiresAt: number | null;
  changedAt: number | null;
  registrar: string | null;
  nameServers: string[];
}

export interface Evidence {
  dns?: DnsOutcome;
  record?: { outcome: RecordOutcome; record: RegistrationRecord | null };
}

export interface Verdict {
  phase: Phase;
  /** 0 to 1. */
  confidence: number;
  /** One sentence that names the evidence. */
  reason: string;
}

const DAY = 86_400_000;

/**
 * EPP status values to phases: RFC 5731 2.3 (domain) and RFC 3915 3.1 (grace periods), compared without case and spaces,
 * since RDAP (RFC 8056) writes "pending delete" where EPP writes pendingDelete. First match in this order wins.
 */
const STATUS_PHASES: [status: string, phase: Phase][] = [
  ['pendingrestore', 'redemption'],
  ['redemptionperiod', 'redemption'],
  ['pendingdelete', 'pending-delete'],
  ['reserved', 'not-registrable'],
  ['blocked', 'not-registrable'],
  ['autorenewperiod', 'auto-renew'],
];

/**
 * The verdict from what the servers said. The record is the authority; DNS alone decides only that a name is taken,
 * because a name in redemption, in pending delete or on hold does not resolve either.
 *
 * @param now ms since 1970, UTC.
 */
export function judgePhase(evidence: Evidence, now: number): Verdict {
  const { dns, record } = evidence;
  if (record?.outcome === 'found' && record.record) return fromRecord(record.record, dns, now);
  if (record?.outcome === 'not-found') {
    if (dns === 'delegated')
      return {
        phase: 'active',
        confidence: 0.6,
        reason: 'The registry has no record, yet its zone delegates the name: the two disagree.',
      };
    return {
      phase: 'free',
      confidence: dns === 'nxdomain' ? 0.97 : 0.9,
      reason: dns === 'nxdomain' ? 'No such name in DNS, no record at the registry.' : 'No record at the registry.',
    };
  }
  if (dns === 'delegated')
    return { phase: 'active', confidence: 0.9, reason: 'The name is delegated in DNS; its record was not read.' };
  if (record?.outcome === 'refused')
    return { phase: 'unknown', confidence: 0, reason: 'The registry refused to answer for now.' };
  if (dns === 'nxdomain')
    return {
      phase: 'unknown',
      confidence: 0,
      reason: 'No such name in DNS; only the record tells free from redemption and pending delete.',
    };
  return { phase: 'unknown', confidence: 0, reason: 'No server gave a usable answer.' };
}

function fromRecord(record: RegistrationRecord, dns: DnsOutcome | undefined, now: number): Verdict {
  const statuses = new Set(record.statuses.map((status) => status.toLowerCase().replace(/[\s_-]/g, '')));
  for (const [status, phase] of STATUS_PHASES) {
    if (!statuses.has(status)) continue;
    const odd = dns === 'delegated' && (phase === 'pending-delete' || phase === 'redemption');
    return {
      phase,
      confidence: odd ? 0.75 : 0.97,
      reason: `The registry's record carries the status ${status}${odd ? ', though the name still resolves' : ''}.`,
    };
  }
  if (record.expiresAt !== null && record.expiresAt < now)
    return {
      phase: 'auto-renew',
      confidence: 0.7,
      reason: `The record expired ${Math.floor((now - record.expiresAt) / DAY)} days ago and was not deleted.`,
    };
  return { phase: 'active', confidence: 0.97, reason: 'The registry has a record in good standing.' };
}
