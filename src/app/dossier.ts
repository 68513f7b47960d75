import type { RegistrationRecord } from '../core/lifecycle/phase';
import { policyFor } from '../core/lifecycle/policies';
import { anchorKind } from '../core/links/anchor-kinds';
import { isOpen, priceAt } from '../core/listings/listing';
import { homeMinor } from '../core/listings/rates';
import type { SourceCount } from '../core/measures/counts';
import { displayName, nameFacts } from '../core/names/domain';
import type { SpamCard } from '../core/spam/scorecard';
import { subjectTitle, subjectWords } from '../core/topics/subjects';
import { type ReasonFacts, reasonsOf } from '../core/verdict/reasons';
import { readRates, readSettings, type Store } from '../store/database';
import { type DomainRow, findDomain, type StoredSighting, sightingsOf } from '../store/domains';
import { anchorsOf, lastMeasurement, spamCardOf } from '../store/links';
import { changesOf, listingsOf } from '../store/listings';
import { tagsOf } from '../store/marks';
import { placeOf } from '../store/questions';
import { shortlistedFor } from '../store/shortlist';
import { checksOf, eventsOf, recordOf } from '../store/verdicts';
import { type Measured, measuredOf } from './measured';
import { domainView } from './views';

const NO_RECORD: RegistrationRecord = {
  statuses: [],
  registeredAt: null,
  expiresAt: null,
  changedAt: null,
  registrar: null,
  nameServers: [],
};
const ANCHORS_SHOWN = 100;

/** All that is known of one domain; null when it is not known at all. */
export function readDossier(store: Store, name: string, briefId: number) {
  const row = findDomain(store, name);
  if (!row) return null;
  const shortlisted = shortlistedFor(store, row.id);
  const rates = readRates(store);
  const sightings = sightingsOf(store, row.id);
  const measured = measuredOf(store, row, saidCounts(sightings));
  const spam = spamCardOf(store, row.id);
  const words = row.subject ? subjectWords(row.subject) : new Set<string>();
  // without a record, what a list says of the registration
  const record = {
    ...(recordOf(row) ?? { ...NO_RECORD, registeredAt: row.registered_at, expiresAt: row.expires_at }),
    at: row.record_at,
    source: row.record_source,
  };
  return {
    ...domainView(
      row,
      shortlisted.some((entry) => entry.briefId === briefId),
      rates,
    ),
    inPool: row.in_pool === 1,
    nameFacts: { ...nameFacts(row), display: displayName(row.name) },
    phaseConfidence: row.phase_confidence,
    lastSeenAt: row.last_seen_at,
    record,
    trustPath: row.trust_path ? (JSON.parse(row.trust_path) as string[]) : null,
    listings: listingsOf(store, row.id).map((listing) => ({
      ...listing,
      homeMinor: homeMinor(priceAt(listing, store.now()), listing.currency, rates),
      isOpen: isOpen(listing, store.now()),
    })),
    policy: policyFor(row.ending, readSettings(store).policies),
    phaseSince: row.phase_since,
    contradictions: row.contradictions ? (JSON.parse(row.contradictions) as string[]) : [],
    askAt: row.ask_at,
    events: eventsOf(store, row.id),
    place: placeOf(store, row.id),
    listingChanges: changesOf(store, row.id),
    checks: checksOf(store, row.id),
    sightings,
    ...measured,
    anchors: anchorsOf(store, row.id, ANCHORS_SHOWN).map((entry) => ({
      ...entry,
      kind: anchorKind(entry.anchor, row.name, words),
    })),
    spam,
    reasons: reasonsOf(factsFor(row, store.now(), spam?.card ?? null, measured)),
    measurement: lastMeasurement(store),
    shortlist: shortlisted,
    tags: tagsOf(store, row.id),
  };
}

/** What speaks for and against a domain is reckoned from these. */
function factsFor(row: DomainRow, now: number, card: SpamCard | null, measured: Measured): ReasonFacts {
  const worst = card?.results.toSorted((a, b) => b.points - a.points)[0];
  return {
    phase: row.phase,
    phaseConfidence: row.phase_confidence,
    ageYears: row.registered_at === null ? null : (now - row.registered_at) / YEAR_MS,
    referringDomains: row.referring_domains,
    effective: row.effective ?? null,
    strength: row.strength,
    trust: row.trust,
    spamMass: measured.spamMass,
    spamRisk: row.spam_risk,
    worstRule: worst && worst.points > 0 ? worst.title : null,
    judged: row.judged,
    contentYears: row.content_years ?? null,
    drops: row.drops ?? null,
    drift: row.drift ?? null,
    subject: row.subject ? subjectTitle(row.subject) : null,
    subjectConfidence: row.subject_confidence ?? null,
    languageSwitches: measured.past?.languageSwitches ?? null,
    forwardsTo: row.forward_to ?? null,
    wordMarks: measured.marksFound.reviews[0]?.verdict === 'clear' ? 0 : (row.marks_found ?? null),
    countFactor: row.count_factor ?? null,
    networkSites: measured.weighing?.networks[0]?.sites.length ?? 0,
  };
}
const YEAR_MS = 365.2425 * 86_400_000;

/** What lists say of the links, each for itself. */
function saidCounts(sightings: readonly StoredSighting[]): SourceCount[] {
  const number = (value: unknown) => (typeof value === 'number' ? value : null);
  return sightings.flatMap(({ sourceId, sourceName, at, said }) => {
    const [backlinks, referringDomains] = [number(said.backlinks), number(said.referringDomains)];
    if (backlinks === null && referringDomains === null) return [];
    return [
      { sourceId, source: sourceName, kind: 'list', at, backlinks, referringDomains, nofollow: null, coverage: null },
    ];
  });
}

export type Dossier = NonNullable<ReturnType<typeof readDossier>>;
