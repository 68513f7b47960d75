import type { JobView } from '../../contracts/jobs';
import { homeMinor, type Rates } from '../../core/listings/rates';
import { displayName } from '../../core/names/domain';
import type { DomainView } from '../../core/pool/domain-view';
import { columnOf, SHOWN_NUMBERS, type ShownNumber } from '../../core/pool/facts';
import { areaTitle, subjectTitle } from '../../core/topics/subjects';
import type { JobRow } from '../../store/base/jobs';
import { capturesByYearOf, type DomainRow, phaseReasonOf } from '../../store/domains/domains';
import { UNASKED, windowOf } from '../../store/lifecycle/verdicts';

const FIGURES = SHOWN_NUMBERS.map((fact) => [fact, columnOf(fact)] as const);

/** A stored row as screens and the interface show it. */
export function domainView(
  row: DomainRow,
  shortlisted: boolean,
  rates: Rates,
  extras: Pick<DomainView, 'starts' | 'matches' | 'freshIn' | 'sayability' | 'nameSubject'> = {
    starts: [],
    matches: [],
    freshIn: [],
    sayability: null,
    nameSubject: null,
  },
): DomainView {
  const view: Omit<DomainView, ShownNumber> = {
    id: row.id,
    name: row.name,
    display: displayName(row.name),
    ending: row.ending,
    phase: row.phase,
    phaseReason: phaseReasonOf(row),
    phaseSource: row.phase_source?.startsWith(UNASKED)
      ? row.phase_source.slice(UNASKED.length) || null
      : row.phase_source,
    phaseAt: row.phase_at,
    isUnasked: row.phase_source?.startsWith(UNASKED) ?? false,
    registeredAt: row.registered_at,
    expiresAt: row.expires_at,
    dropAt: row.drop_at,
    window: windowOf(row),
    isOwn: row.own === 1,
    watched: row.watched_at === null ? null : (row.watch_reason as DomainView['watched']),
    firstSeenAt: row.first_seen_at,
    capturesByYear: capturesByYearOf(row),
    pastAt: row.past_at,
    pastSource: row.past_source,
    countFrom: row.count_from ?? null,
    language: row.language ?? null,
    subject: row.subject ? subjectTitle(row.subject) : null,
    area: row.subject ? areaTitle(row.subject) : null,
    subjectConfidence: row.subject_confidence ?? null,
    forwardsTo: row.forward_to ?? null,
    forwardsNow: row.forward_now === 1,
    strengthWith: row.strength_with ?? null,
    capturesAt: row.captures_at ?? null,
    capturesRead: row.captures_read ?? null,
    referrersAt: row.referrers_at ?? null,
    linksAt: row.links_at,
    listing: row.listing as DomainView['listing'],
    venue: row.venue,
    priceMinor: row.price_minor,
    currency: row.currency,
    homeMinor: homeMinor(row.price_minor, row.currency, rates),
    homeCurrency: rates.home,
    closingAt: row.closing_at,
    listingUrl: row.listing_url,
    listingAt: row.listing_at,
    registrar: row.registrar,
    lastSeenAt: row.last_seen_at,
    addedAt: row.added_at,
    length: row.length,
    recordAt: row.record_at,
    judged: (row.judged ?? 'not-yet') as DomainView['judged'],
    judgedReason: row.judged_reason,
    judgedAt: row.judged_at,
    snoozedUntil: row.snoozed_until,
    shortlisted,
    ...extras,
  };
  const whole = view as DomainView;
  for (const [fact, column] of FIGURES) whole[fact] = row[column] ?? null;
  return whole;
}

export function jobView(job: JobRow): JobView {
  const { id, kind, sourceId, state, progress, error, createdAt, startedAt, finishedAt } = job;
  return { id, kind, sourceId, state, progress, error, createdAt, startedAt, finishedAt };
}

/** What is known of a domain, in a line of text. */
export function domainLine(row: DomainRow): string {
  const facts = [phaseNames[row.phase] ?? row.phase];
  if (row.referring_domains !== null) facts.push(`${row.referring_domains} referring domains`);
  if (row.strength !== null) facts.push(`strength ${Math.round(row.strength)}`);
  if (row.trust !== null) facts.push(`trust ${Math.round(row.trust)}`);
  if (row.spam_risk !== null) facts.push(`spam risk ${row.spam_risk} of 100`);
  return facts.join(', ');
}

const phaseNames: Record<string, string> = {
  'pending-delete': 'pending delete',
  'auto-renew': 'auto-renew period',
  'not-registrable': 'not registrable',
};
