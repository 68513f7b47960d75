import type { Metadata } from 'next';
import { homeMinor } from '../../core/listings/rates';
import { readRates } from '../../store/database';
import { listHoldings } from '../../store/holdings';
import { HoldingsScreen } from '../../ui/holdings-screen';
import { getStore } from '../server';

export const metadata: Metadata = { title: 'Holdings' };

export default async function HoldingsPage() {
  const store = await getStore();
  const rates = readRates(store);
  const holdings = listHoldings(store).map((holding) => ({
    ...holding,
    homeCostMinor:
      (homeMinor(holding.costMinor, holding.currency, rates) ?? 0) +
      (homeMinor(holding.feesMinor, holding.briefCurrency, rates) ?? 0),
    homeRenewalMinor: homeMinor(holding.renewalMinor, holding.briefCurrency, rates),
  }));
  return <HoldingsScreen holdings={holdings} currency={rates.home} />;
}
