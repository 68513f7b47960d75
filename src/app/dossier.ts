import type { RegistrationRecord } from '../core/lifecycle/phase';
import { displayName, nameFacts } from '../core/names/domain';
import type { Store } from '../store/database';
import { checksOf, findDomain, sightingsOf } from '../store/domains';
import { anchorsOf, lastMeasurement, linkCountsBySource, referrersOf, spamCardOf } from '../store/links';
import { shortlistedFor } from '../store/shortlist';
import { domainView } from './views';

const REFERRERS_SHOWN = 200;
const ANCHORS_SHOWN = 100;

/** All that is known of one domain; null when it is not known at all. */
export function readDossier(store: Store, name: string, briefId: number) {
  const row = findDomain(store, name);
  if (!row) return null;
  const shortlisted = shortlistedFor(store, row.id);
  const record: Partial<RegistrationRecord> & { at: number | null; source: string | null } = {
    statuses: row.statuses ? JSON.parse(row.statuses) : [],
    registeredAt: row.registered_at,
    expiresAt: row.expires_at,
    changedAt: row.changed_at,
    registrar: row.registrar,
    nameServers: row.name_servers ? JSON.parse(row.name_servers) : [],
    at: row.record_at,
    source: row.record_source,
  };
  return {
    ...domainView(
      row,
      shortlisted.some((entry) => entry.briefId === briefId),
    ),
    inPool: row.in_pool === 1,
    nameFacts: { ...nameFacts(row), display: displayName(row.name) },
    phaseConfidence: row.phase_confidence,
    lastSeenAt: row.last_seen_at,
    record,
    trustPath: row.trust_path ? (JSON.parse(row.trust_path) as string[]) : null,
    checks: checksOf(store, row.id),
    sightings: sightingsOf(store, row.id),
    linkCounts: linkCountsBySource(store, row.id),
    referrers: referrersOf(store, row.id, REFERRERS_SHOWN),
    anchors: anchorsOf(store, row.id, ANCHORS_SHOWN),
    spam: spamCardOf(store, row.id),
    measurement: lastMeasurement(store),
    shortlist: shortlisted,
  };
}

export type Dossier = NonNullable<ReturnType<typeof readDossier>>;
