import type { Metadata } from 'next';
import { homeMinor } from '../../core/listings/rates';
import { GROUPINGS, type Grouping, profitBy } from '../../core/money/profit';
import { readRates } from '../../store/base/settings';
import { listHoldings, moneyEntries } from '../../store/portfolio/holdings';
import { HoldingsScreen } from '../../ui/holdings/holdings-screen';
import { parametersOf, type SearchParams } from '../search-params';
import { getStore } from '../server';

export const metadata: Metadata = { title: 'Holdings' };

export default async function HoldingsPage({ searchParams }: { searchParams: SearchParams }) {
  const store = await getStore();
  const rates = readRates(store);
  const asked = (await parametersOf(searchParams)).get('by') as Grouping;
  const by = GROUPINGS.includes(asked) ? asked : 'domain';
  const entries = moneyEntries(store);
  const results = new Map(profitBy(entries, 'domain').map(({ key, resultMinor }) => [key, resultMinor]));
  const holdings = listHoldings(store).map((holding) => ({
    ...holding,
    resultMinor: results.get(holding.name) ?? 0,
    homeRenewalMinor: homeMinor(holding.renewalMinor, holding.briefCurrency, rates),
  }));
  return <HoldingsScreen holdings={holdings} currency={rates.home} by={by} lines={profitBy(entries, by)} />;
}
