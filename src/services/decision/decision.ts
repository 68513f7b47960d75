import type { Decision } from '../../contracts/decision';
import type { EnginePort } from '../../contracts/engine-port';
import type { WeighedWay } from '../../core/bids/weighed-way';
import type { Store } from '../../store/base/database';
import { readRates, readSettings } from '../../store/base/settings';
import type { DomainRow } from '../../store/domains/domains';
import type { Brief } from '../../store/shortlist/briefs';
import { entriesOf } from '../../store/shortlist/shortlist';
import { fitsOf } from '../fit/fit';
import { maximumFor, type Said, waysFor } from '../orders/ways';
import { inCurrency } from '../plan/currency';
import { resaleFor, usesOf } from '../plan/plan-worth';

/**
 * What a decision on each of some domains rests on, for a brief: how well it suits, what it is worth and by what, what it costs, how far others
 * are likely to go, and the most to pay. What the person said goes before what is suggested. The engine is asked once for all names.
 */
export async function decisionsOn(
  store: Store,
  engine: EnginePort,
  brief: Brief,
  rows: readonly DomainRow[],
): Promise<Decision[]> {
  const listed = new Map(
    entriesOf(
      store,
      brief.id,
      rows.map(({ id }) => id),
    ).map((entry) => [entry.domainId, entry]),
  );
  const said = rows.map(({ id }): Said | undefined => listed.get(id));
  const priced = inCurrency(readRates(store), brief.currency);
  const [fits, sales, uses] = await Promise.all([
    fitsOf(engine, rows, brief),
    resaleFor(
      engine,
      rows.map(({ name }) => name),
      priced,
      readSettings(store).rangeFactor,
    ),
    Promise.all(rows.map((row) => usesOf(store, engine, row, brief))),
  ]);
  const ways = waysFor(
    store,
    brief,
    rows.map((domain, n) => ({ domain, said: said[n] })),
  );
  return rows.map((row, n) => {
    const worth = worthOf(said[n], sales[n], uses[n]);
    const way: WeighedWay | null = ways[n][0] ?? null;
    const own: Said = {
      worthLowMinor: worth?.lowMinor ?? null,
      worthHighMinor: worth?.highMinor ?? null,
      feesMinor: said[n]?.feesMinor ?? null,
    };
    const reckoned = worth && maximumFor(brief, own, way)?.maximumMinor;
    const limits = [reckoned, listed.get(row.id)?.maximumBidMinor].filter((minor) => minor != null);
    const { score, least, most, cappedAt } = fits[n];
    return {
      name: row.name,
      currency: brief.currency,
      fit: { score, least, most, cappedAt },
      worth,
      priceMinor: way === null ? null : priced(way.priceMinor, way.currency),
      rivalsMinor: way?.others?.toMinor ?? null,
      maximumMinor: limits.length > 0 ? Math.min(...limits) : null,
    };
  });
}

/** What was said, else the best of what is suggested. */
function worthOf(
  said: Said | undefined,
  sales: { lowMinor: number; highMinor: number } | null,
  uses: readonly { use: 'rebuild' | 'redirect'; lowMinor: number; highMinor: number }[],
): Decision['worth'] {
  if (said?.worthLowMinor && said.worthHighMinor)
    return { lowMinor: said.worthLowMinor, highMinor: said.worthHighMinor, by: 'yours' };
  const suggested: NonNullable<Decision['worth']>[] = [
    ...(sales ? [{ lowMinor: sales.lowMinor, highMinor: sales.highMinor, by: 'sales' as const }] : []),
    ...uses.map(({ use, lowMinor, highMinor }) => ({
      lowMinor,
      highMinor,
      by: use === 'rebuild' ? ('visits' as const) : ('links' as const),
    })),
  ];
  return suggested.sort((a, b) => b.highMinor - a.highMinor)[0] ?? null;
}
