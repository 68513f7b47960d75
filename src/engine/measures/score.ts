import { statedCounts } from '../../core/formats/list-figures';
import type { Past } from '../../core/history/past';
import { weighReferrers } from '../../core/links/effective';
import { spamMass } from '../../core/links/pagerank';
import { chooseCount, disagreement, readCountRule } from '../../core/measures/counts';
import type { Settings } from '../../core/settings/settings';
import { pastSigns } from '../../core/spam/past-signs';
import { type SpamPoints, scoreSpam } from '../../core/spam/scorecard';
import { votesOf } from '../../core/spam/votes';
import type { Store } from '../../store/base/database';
import type { DomainRow } from '../../store/domains/domains';
import { capturesOf } from '../../store/links/captures';
import {
  type InspectionRow,
  pastOf,
  putInspection,
  readInspection,
  type Weighing,
} from '../../store/links/inspections';
import { linkCountsBySource, spamLinksOf } from '../../store/links/links';
import { putSpamCard } from '../../store/links/measures';
import { referringOf } from '../../store/links/referring';
import { statementsOf } from '../../store/sources/list-figures';

/** What scoring needs beside the domain itself. */
export interface ScoreBase {
  settings: Settings;
  points: SpamPoints;
  /** Lapsed domains that a site links to, by its id. */
  lapsedTargets(fromId: number): number;
}

/**
 * Weighs the referrers of a domain and judges its spam risk by all that is known of it now: links, captures, looks at linking pages. Call
 * inside a write transaction.
 */
export function scoreDomain(
  store: Store,
  row: Pick<DomainRow, 'id' | 'name' | 'first_seen_at' | 'registered_at' | 'in_pool'>,
  base: ScoreBase,
  ranks: { strengthRank: number; trustRank: number | null } | null,
  at: number,
): void {
  const known = readInspection(store, row.id);
  const weighed = weighReferrers(referringOf(store, row.id, base.lapsedTargets));
  const { referrers: _, ...weighing } = weighed;
  const past = pastOf(known);
  const card = scoreSpam(
    {
      name: row.name,
      links: spamLinksOf(store, row.id),
      strengthRank: ranks?.strengthRank ?? null,
      trustRank: ranks?.trustRank ?? null,
      drops: past ? past.drops.length : knownDrops(row.first_seen_at, row.registered_at),
      past: past ? pastSigns(capturesOf(store, row.id), past) : null,
      votes: votesOf(weighed),
    },
    base.points,
  );
  putInspection(store, row.id, {
    strength_rank: ranks?.strengthRank ?? null,
    trust_rank: ranks?.trustRank ?? null,
    spam_mass: ranks?.trustRank == null ? null : thousandth(spamMass(ranks.strengthRank, ranks.trustRank)),
    effective: weighed.effective,
    weighing: JSON.stringify(weighing satisfies Weighing),
  });
  putSpamCard(store, row.id, card, at);
}

/** The same for a domain whose links were walked before. */
export function scoreAgain(store: Store, row: DomainRow, base: ScoreBase, at: number): void {
  const known = readInspection(store, row.id);
  scoreDomain(store, row, base, ranksOfInspection(known), at);
}

function ranksOfInspection(known: InspectionRow | null) {
  return known?.strength_rank == null ? null : { strengthRank: known.strength_rank, trustRank: known.trust_rank };
}

const thousandth = (value: number) => Math.round(value * 1000) / 1000;
const DAY = 86_400_000;

/** Where captures were not read: content in the archive from well before the present registration means that the name was dropped between. */
function knownDrops(firstSeenAt: number | null, registeredAt: number | null): number | null {
  if (firstSeenAt === null || registeredAt === null) return null;
  return firstSeenAt < registeredAt - 90 * DAY ? 1 : 0;
}

/** Which source's count is sorted by, and by how much sources differ. */
export function countsOf(
  store: Store,
  domainId: number,
  together: { backlinks: number; referringDomains: number },
  { countRule, countFactor }: Settings,
) {
  const counts = [...linkCountsBySource(store, domainId), ...statedCounts(statementsOf(store, domainId))];
  const chosen = chooseCount(counts, together, readCountRule(countRule));
  const differ = disagreement(counts, countFactor);
  return { ...chosen, factor: differ?.factor ?? null };
}

/** Links that came while the domain only sent its visitors on, by its past: ids of the sites they come from. */
export function borrowedFrom(
  referrers: readonly { fromId: number; firstSeenAt: number | null }[],
  past: Pick<Past, 'eras'> | null,
): number[] {
  const forwarding = (past?.eras ?? []).filter(({ kind }) => kind === 'redirect');
  if (forwarding.length === 0) return [];
  return referrers.flatMap(({ fromId, firstSeenAt }) =>
    firstSeenAt !== null && forwarding.some(({ from, to }) => firstSeenAt >= from && firstSeenAt <= to) ? [fromId] : [],
  );
}
