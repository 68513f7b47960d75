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
  /** Whom it is registered to, where the record says so; often hidden. */
  registrant?: string;
  nameServers: string[];
}

/** What a registrar says when it is asked whether it would register the name. */
export const REGISTRAR_OUTCOMES = ['available', 'taken', 'premium', 'reserved', 'refused', 'failed'] as const;
export type RegistrarOutcome = (typeof REGISTRAR_OUTCOMES)[number];

export interface Evidence {
  dns?: DnsOutcome;
  record?: { outcome: RecordOutcome; record: RegistrationRecord | null };
  /** `price` as it is to be read, where the registrar names one. */
  registrar?: { outcome: RegistrarOutcome; price?: string | null };
}

export interface Verdict {
  phase: Phase;
  /** 0 to 1. */
  confidence: number;
  /** One sentence that names the evidence. */
  reason: string;
  /** Where servers disagree, a sentence each; the reason says which was believed. */
  contradictions: string[];
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
 * The verdict from what the servers said. The record is the authority; DNS alone decides only that a name is taken, because a name in
 * redemption, in pending delete or on hold does not resolve either; the registrar decides whether what is free can be had.
 *
 * @param now ms since 1970, UTC.
 */
export function judgePhase(evidence: Evidence, now: number): Verdict {
  const verdict = withoutRegistrar(evidence, now);
  const { registrar } = evidence;
  if (!registrar || registrar.outcome === 'refused' || registrar.outcome === 'failed') return verdict;
  return withRegistrar(verdict, registrar.outcome, registrar.price ?? null);
}

function withRegistrar(verdict: Verdict, outcome: RegistrarOutcome, price: string | null): Verdict {
  const { contradictions } = verdict;
  if (verdict.phase === 'free')
    switch (outcome) {
      case 'available':
        return { ...verdict, confidence: 0.99, reason: `${verdict.reason} The registrar would register it.` };
      case 'premium': {
        const words = `Free by its record, but a premium name at the registrar${price ? `: ${price}` : ''}.`;
        return { ...verdict, confidence: 0.9, reason: words, contradictions: [...contradictions, words] };
      }
      case 'reserved': {
        const words = 'Free by its record, but reserved: the registrar refuses it.';
        return {
          phase: 'not-registrable',
          confidence: 0.95,
          reason: words,
          contradictions: [...contradictions, words],
        };
      }
      default: {
        const words = 'Free by its record, but taken by what the registrar says.';
        return { phase: 'active', confidence: 0.6, reason: words, contradictions: [...contradictions, words] };
      }
    }
  if (outcome === 'available' && verdict.phase !== 'unknown') {
    const words = `The registrar would register it, though its record says ${verdict.phase}.`;
    // the registrar asks the registry at this moment; the record may be a little older
    if (verdict.phase === 'pending-delete')
      return { phase: 'free', confidence: 0.6, reason: words, contradictions: [...contradictions, words] };
    return { ...verdict, confidence: Math.min(verdict.confidence, 0.7), contradictions: [...contradictions, words] };
  }
  if (verdict.phase === 'unknown' && outcome === 'available')
    return {
      ...verdict,
      phase: 'free',
      confidence: 0.85,
      reason: 'The registrar would register it; its record was not read.',
    };
  if (verdict.phase === 'unknown' && outcome === 'reserved')
    return {
      ...verdict,
      phase: 'not-registrable',
      confidence: 0.85,
      reason: 'The registrar says that it is reserved.',
    };
  return verdict;
}

function withoutRegistrar({ dns, record }: Evidence, now: number): Verdict {
  const plain = (phase: Phase, confidence: number, reason: string): Verdict => ({
    phase,
    confidence,
    reason,
    contradictions: [],
  });
  if (record?.outcome === 'found' && record.record) return fromRecord(record.record, dns, now);
  if (record?.outcome === 'not-found') {
    if (dns === 'delegated') {
      const words = 'The registry has no record, yet its zone delegates the name: the two disagree.';
      return {
        phase: 'active',
        confidence: 0.6,
        reason: words,
        contradictions: ['Free by its record, registered by DNS.'],
      };
    }
    if (dns === 'nxdomain') return plain('free', 0.97, 'No such name in DNS, no record at the registry.');
    return plain('free', 0.9, 'No record at the registry.');
  }
  if (dns === 'delegated') return plain('active', 0.9, 'The name is delegated in DNS; its record was not read.');
  if (record?.outcome === 'refused') return plain('unknown', 0, 'The registry refused to answer for now.');
  if (dns === 'nxdomain')
    return plain('unknown', 0, 'No such name in DNS; only the record tells free from redemption and pending delete.');
  return plain('unknown', 0, 'No server gave a usable answer.');
}

function fromRecord(record: RegistrationRecord, dns: DnsOutcome | undefined, now: number): Verdict {
  const statuses = new Map(record.statuses.map((status) => [status.toLowerCase().replace(/[\s_-]/g, ''), status]));
  for (const [status, phase] of STATUS_PHASES) {
    if (!statuses.has(status)) continue;
    const written = statuses.get(status);
    const odd = dns === 'delegated' && (phase === 'pending-delete' || phase === 'redemption');
    return {
      phase,
      confidence: odd ? 0.75 : 0.97,
      reason: `The registry's record carries the status ${written}${odd ? ', though the name still resolves' : ''}.`,
      contradictions: odd ? [`The record says ${written}, DNS still delegates the name.`] : [],
    };
  }
  if (record.expiresAt !== null && record.expiresAt < now)
    return {
      phase: 'auto-renew',
      confidence: 0.7,
      reason: `The record expired ${Math.floor((now - record.expiresAt) / DAY)} days ago and was not deleted.`,
      contradictions: [],
    };
  return {
    phase: 'active',
    confidence: 0.97,
    reason: 'The registry has a record in good standing.',
    contradictions: [],
  };
}
