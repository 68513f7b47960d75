import { PHASES, type Phase } from './phases';
import { phaseOfStatus } from './status-words';

export { PHASES, type Phase };

/** One answer of one server. */
export type DnsOutcome = 'delegated' | 'nxdomain' | 'no-delegation' | 'failed';
/**
 * `withheld`: nobody is to have the name; `premium`: to be had, at a price of its own; `failed`: no answer, or none that may be
 * believed.
 */
export type RecordOutcome = 'found' | 'not-found' | 'withheld' | 'premium' | 'refused' | 'failed';

/** What RDAP or WHOIS said, reduced to what the life of a domain needs. Times in ms since 1970, UTC; null: not said. */
export interface RegistrationRecord {
  statuses: string[];
  registeredAt: number | null;
  expiresAt: number | null;
  changedAt: number | null;
  /** When the registry states that it will delete the name, or set it free. */
  deletesAt?: number | null;
  freeAt?: number | null;
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
  record?: {
    outcome: RecordOutcome;
    record: RegistrationRecord | null;
    /** The words that decided, or why there is no answer. */
    words?: string | null;
    /** Nobody who could know was reached. */
    isUnasked?: boolean;
    /** How it is known that the server answers for the ending: a name that exists, which it found. */
    proof?: string | null;
  };
  /** `price` as it is to be read, where the registrar names one. */
  registrar?: { outcome: RegistrarOutcome; price?: string | null };
}

export interface Verdict {
  phase: Phase;
  /** 0 to 1. */
  confidence: number;
  /** One sentence that names the evidence; of a free name also its weakest point. */
  reason: string;
  /** Where servers disagree, a sentence each; the reason says which was believed. */
  contradictions: string[];
  /** Unknown, because those who could know could not be asked. */
  isUnasked?: boolean;
}

const DAY = 86_400_000;
const PRICE =
  /(?:\b(?:usd|eur|gbp|chf|aud|cad)\b|us\$|[$€£])\s?\d[\d.,]*|\d[\d.,]*\s?(?:\b(?:usd|eur|gbp|chf|aud|cad)\b|[$€£])/i;

/**
 * The verdict from what the servers said. A name is free only by evidence of somebody who can know: the registry's record is the
 * authority; DNS alone decides only that a name is taken, because a name in redemption, in pending delete or on hold does not resolve
 * either; the registrar decides whether what is free can be had.
 *
 * @param now ms since 1970, UTC.
 */
export function judgePhase(evidence: Evidence, now: number): Verdict {
  const verdict = withoutRegistrar(evidence, now);
  const { registrar } = evidence;
  if (!registrar || registrar.outcome === 'refused' || registrar.outcome === 'failed') return verdict;
  return withRegistrar(verdict, registrar.outcome, registrar.price ?? null, evidence);
}

/** In how many independent ways a name was found not to be registered: delegation, record, registrar. */
export function waysItIsFree({ dns, record, registrar }: Evidence): number {
  const ways = [
    dns === 'nxdomain' || dns === 'no-delegation',
    record?.outcome === 'not-found',
    registrar?.outcome === 'available' || registrar?.outcome === 'premium',
  ];
  return ways.filter(Boolean).length;
}

function withRegistrar(
  verdict: Verdict,
  outcome: RegistrarOutcome,
  price: string | null,
  { dns, record }: Evidence,
): Verdict {
  const { contradictions } = verdict;
  const against = (words: string) => [...contradictions, words];
  if (verdict.phase === 'free')
    switch (outcome) {
      case 'available':
        return {
          ...verdict,
          confidence: 0.99,
          reason: `${restsOn(dns, record)} The registrar would register it. Weakest point: all of it holds for the moment it was said.`,
        };
      case 'premium': {
        const words = `Available by registration data, but a premium name at the registrar${price ? `: ${price}` : ''}.`;
        if (price !== null) return { ...verdict, confidence: 0.9, reason: words, contradictions: against(words) };
        return {
          phase: 'unknown',
          confidence: 0,
          reason: `${words} It has named no price yet.`,
          contradictions: against(words),
        };
      }
      case 'reserved': {
        const words = 'Available by registration data, but reserved: the registrar refuses it.';
        return { phase: 'not-registrable', confidence: 0.95, reason: words, contradictions: against(words) };
      }
      default: {
        const words = 'Available by registration data, but registered by what the registrar says.';
        return { phase: 'active', confidence: 0.6, reason: words, contradictions: against(words) };
      }
    }
  if (verdict.phase === 'unknown') {
    if (outcome === 'available' && record?.outcome !== 'premium')
      return {
        ...verdict,
        phase: 'free',
        confidence: dns === 'nxdomain' || dns === 'no-delegation' ? 0.85 : 0.6,
        reason: `The registrar would register it${dns === 'nxdomain' ? ', and no such name is in DNS' : ''}. Weakest point: its registration data was not read.`,
      };
    if ((outcome === 'premium' || outcome === 'available') && price !== null)
      return {
        ...verdict,
        phase: 'free',
        confidence: 0.8,
        reason: `A premium name: the registrar would register it for ${price}.`,
      };
    if (outcome === 'reserved')
      return {
        ...verdict,
        phase: 'not-registrable',
        confidence: 0.85,
        reason: 'The registrar says that it is reserved.',
      };
    return verdict;
  }
  if (outcome === 'available') {
    const words = `The registrar would register it, though registration data says ${verdict.phase}; that is believed.`;
    return { ...verdict, confidence: Math.min(verdict.confidence, 0.7), contradictions: against(words) };
  }
  return verdict;
}

function plain(phase: Phase, confidence: number, reason: string): Verdict {
  return { phase, confidence, reason, contradictions: [] };
}

function withoutRegistrar({ dns, record }: Evidence, now: number): Verdict {
  if (record?.outcome === 'found' && record.record) return fromRecord(record.record, dns, now);
  if (record?.outcome === 'not-found') {
    if (dns === 'delegated') {
      const words = 'The registry has no record, yet its zone delegates the name: the two disagree.';
      return {
        phase: 'active',
        confidence: 0.6,
        reason: words,
        contradictions: ['Available by registration data, registered by DNS.'],
      };
    }
    const isBoth = dns === 'nxdomain' || dns === 'no-delegation';
    const weakest = isBoth
      ? 'the registrar has not been asked'
      : 'registration data alone says so; DNS was not asked or is silent';
    return plain('free', isBoth ? 0.97 : 0.9, `${restsOn(dns, record)} Weakest point: ${weakest}.`);
  }
  if (record?.outcome === 'withheld')
    return plain('not-registrable', 0.95, `The registry does not hand it out: ${quoted(record.words)}.`);
  if (record?.outcome === 'premium') {
    const price = PRICE.exec(record.words ?? '')?.[0];
    if (price && dns !== 'delegated')
      return plain(
        'free',
        0.6,
        `A premium name, to be had at ${price} by the registry’s words: ${quoted(record.words)}.`,
      );
    return plain(
      'unknown',
      0,
      `A premium name, and no price is known: ${quoted(record.words)}. The registrar has to name one.`,
    );
  }
  if (dns === 'delegated')
    return plain('active', 0.9, 'The name is delegated in DNS; its registration data was not read.');
  if (record?.outcome === 'refused')
    return plain('unknown', 0, `The registry refused to answer for now${because(record.words)}.`);
  if (record?.words) {
    const words = record.words.replace(/[.\s]+$/, '');
    if (record.isUnasked) return { ...plain('unknown', 0, `Could not be asked: ${words}.`), isUnasked: true };
    return plain('unknown', 0, `No answer that may be believed: ${words}.`);
  }
  if (dns === 'failed') return plain('unknown', 0, 'Its servers do not answer, and no record is known.');
  if (dns === 'nxdomain')
    return plain(
      'unknown',
      0,
      'No such name in DNS; only registration data tells available from redemption and pending delete.',
    );
  return plain('unknown', 0, 'No server gave a usable answer.');
}

/** What a free verdict rests on. */
function restsOn(dns: DnsOutcome | undefined, record: Evidence['record']): string {
  const parts: string[] = [];
  if (dns === 'nxdomain') parts.push('no such name in DNS');
  else if (dns === 'no-delegation') parts.push('no delegation in DNS');
  if (record?.outcome === 'not-found')
    parts.push(`no record at the registry${record.proof ? ` (${record.proof})` : ''}`);
  const [first = 'nobody knows of it', ...rest] = parts;
  return `${[first[0].toUpperCase() + first.slice(1), ...rest].join(', ')}.`;
}

const quoted = (words: string | null | undefined) =>
  words ? `“${words.replace(/[.\s]+$/, '')}”` : 'it gives no reason';
const because = (words: string | null | undefined) => (words ? `: ${words.replace(/[.\s]+$/, '')}` : '');

/** Phases that a status may give, the surest first. */
const ORDER: Phase[] = ['redemption', 'pending-delete', 'auto-renew', 'not-registrable'];

function fromRecord(record: RegistrationRecord, dns: DnsOutcome | undefined, now: number): Verdict {
  const isExpired = record.expiresAt !== null && record.expiresAt < now;
  const said = new Map<Phase, string>();
  for (const status of record.statuses) {
    const phase = phaseWith(status, isExpired, record);
    if (phase !== null && !said.has(phase)) said.set(phase, status);
  }
  for (const phase of ORDER) {
    const written = said.get(phase);
    if (written === undefined) continue;
    const odd = dns === 'delegated' && (phase === 'pending-delete' || phase === 'redemption');
    return {
      phase,
      confidence: odd ? 0.75 : 0.97,
      reason: `The registry's record carries the status ${written}${odd ? ', though the name still resolves' : ''}.`,
      contradictions: odd ? [`Registration data says ${written}, DNS still delegates the name.`] : [],
    };
  }
  if (said.has('unknown'))
    return plain('unknown', 0, `Registration data calls it ${said.get('unknown')}, and no price is known.`);
  if (isExpired && record.expiresAt !== null)
    return plain(
      'auto-renew',
      0.7,
      `The registration expired ${Math.floor((now - record.expiresAt) / DAY)} days ago and was not deleted${record.freeAt ? `; the registry states that it is available from ${new Date(record.freeAt).toISOString().slice(0, 10)}` : ''}.`,
    );
  return plain('active', 0.97, 'The registry has a record in good standing.');
}

/** What a status means beside the rest of the record. */
function phaseWith(status: string, isExpired: boolean, record: RegistrationRecord): Phase | null {
  const phase = phaseOfStatus(status);
  switch (phase) {
    // on hold, unless it is what comes after the expiry
    case 'suspended':
      return isExpired ? 'redemption' : null;
    case 'deactivated':
      return isExpired || isNumber(record.deletesAt) ? 'pending-delete' : null;
    case 'premium':
      return 'unknown';
    // of a name with a registration it says no more than that
    case 'unavailable':
    case 'withheld-alone':
    case 'unclear':
    case 'active':
    case 'free':
      return null;
    case null:
      return /^inactive\b|^server ?hold$/i.test(status) && isExpired && isNumber(record.deletesAt)
        ? 'pending-delete'
        : null;
    default:
      return phase;
  }
}

const isNumber = (value: number | null | undefined): value is number => typeof value === 'number';
