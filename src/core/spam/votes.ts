import type { EffectiveReferrers } from '../links/effective';
import type { SpamVotes } from './input';

const MOST_NOTES = 4;

/** What weighing the referrers says to the spam rules. */
export function votesOf({ referrers, networks, taken }: EffectiveReferrers): SpamVotes {
  const blanket = referrers.flatMap(({ site, discounts }) =>
    discounts.flatMap(({ kind, why }) => (kind === 'blanket' ? [`${site} ${why}`] : [])),
  );
  return {
    referring: referrers.length,
    network: taken.network,
    blanket: taken.blanket,
    notes: {
      network: networks.slice(0, MOST_NOTES).map(({ sites, signs }) => `${sites.length} sites: ${signs[0] ?? ''}`),
      blanket: blanket.slice(0, MOST_NOTES),
    },
  };
}
