import type { Metadata } from 'next';
import { venuesTaking } from '../../core/orders/takers';
import { ordersToShow } from '../../services/orders/orders';
import { readSettings } from '../../store/base/settings';
import { costOfDay } from '../../store/orders/commitments';
import { balances, readLedger } from '../../store/orders/ledger';
import { orderLog } from '../../store/orders/order-log';
import { OrdersScreen } from '../../ui/orders/orders-screen';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Bids and orders' };
const LEDGER_SHOWN = 60;

export default async function OrdersPage() {
  const { store, briefs } = await currentBrief();
  const settings = readSettings(store);
  const { isDryRun, dayLimitMinor, currency } = settings;
  const ledger = briefs
    .flatMap((brief) =>
      readLedger(store, brief.id, LEDGER_SHOWN).map((line) => ({ ...line, currency: brief.currency })),
    )
    .sort((a, b) => b.id - a.id)
    .slice(0, LEDGER_SHOWN);
  return (
    <OrdersScreen
      {...ordersToShow(store, null)}
      log={orderLog(store, {})}
      ledger={ledger}
      briefs={briefs.map((brief) => ({
        id: brief.id,
        name: brief.name,
        currency: brief.currency,
        budgetMinor: brief.budgetMinor,
        balances: balances(store, brief.id),
      }))}
      isDryRun={isDryRun}
      hasAccounts={venuesTaking(settings).length > 0}
      day={{ usedMinor: costOfDay(store, store.now()), limitMinor: dayLimitMinor, currency }}
    />
  );
}
