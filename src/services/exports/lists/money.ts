import type { Holding } from '../../../contracts/portfolio';
import { columnsFor } from '../../../core/formats/exports';
import type { MoneyEntry } from '../../../core/money/profit';
import type { Store } from '../../../store/base/database';
import { readRates } from '../../../store/base/settings';
import { type LedgerRow, readLedger } from '../../../store/orders/ledger';
import { type OutcomeRow, outcomes } from '../../../store/orders/order-log';
import { listOrders } from '../../../store/orders/order-rows';
import { listHoldings, moneyEntries } from '../../../store/portfolio/holdings';
import type { Brief } from '../../../store/shortlist/briefs';
import { orderViews } from '../../orders/orders';
import { type ExportTable, exportTable } from '../table';

const ALL = 1_000_000;

/** Orders of a brief, or of all, the latest first. */
export function ordersTable(store: Store, briefId: number | null): ExportTable {
  const { text, number, date, money } = columnsFor<ReturnType<typeof orderViews>[number]>();
  return exportTable(
    'orders',
    [
      number('order', (row) => row.id, 'its number here'),
      text('domain', (row) => row.name, 'what is to be had'),
      text('brief', (row) => row.briefName, 'for which brief'),
      text('venue', (row) => row.venue, 'where'),
      text('kind', (row) => row.kind, 'how'),
      text('state', (row) => row.state, 'where it stands'),
      money('maximum', (row) => row.amountMinor, 'the most that is paid there'),
      money('price', (row) => row.priceMinor, 'the price as the venue said it last'),
      money('next_bid', (row) => row.leastMinor, 'the least that would be taken'),
      money('counter_offer', (row) => row.counterMinor, 'what was asked for instead'),
      money('went_for', (row) => row.finalMinor, 'what it went for in the end'),
      text('currency', (row) => row.currency, 'of these amounts, ISO 4217'),
      money('most_in_all', (row) => row.mostMinor, 'what it costs if it is won at its maximum, fees and all'),
      money('fees', (row) => row.feesMinor, 'beside the price'),
      text('brief_currency', (row) => row.briefCurrency, 'of the two before, ISO 4217'),
      money('worth_low', (row) => row.worthLowMinor, 'what it is worth to you at least, in the venue’s currency'),
      money('worth_high', (row) => row.worthHighMinor, 'and at most'),
      number('bids', (row) => row.bids, 'bids so far'),
      date('closes', (row) => row.closesAt, 'when it closes'),
      text('reason', (row) => row.reason, 'why it stands so'),
      date('given', (row) => row.createdAt, 'when you gave it'),
      date('sent', (row) => row.sentAt, 'when it was sent'),
      date('answered', (row) => row.answeredAt, 'when the venue answered last'),
      date('ended', (row) => row.endedAt, 'when it ended'),
      text('url', (row) => row.url, 'the page of the offer'),
    ],
    orderViews(store, listOrders(store, briefId, ALL)),
  );
}

/** The lines of the accounts of briefs, brief by brief, the latest first. */
export function ledgerTable(store: Store, briefs: readonly Brief[]): ExportTable {
  const { text, number, date, money } = columnsFor<LedgerRow & { brief: Brief }>();
  return exportTable(
    'ledger',
    [
      number('posting', (row) => row.posting, 'lines of one posting sum up to nought'),
      date('at', (row) => row.at, 'when'),
      text('account', (row) => row.account, 'which account'),
      money('amount', (row) => row.amountMinor, 'what came in, or with a minus went out'),
      text('currency', (row) => row.brief.currency, 'ISO 4217'),
      text('brief', (row) => row.brief.name, 'whose accounts they are'),
      number('order', (row) => row.orderId, 'of which order'),
      text('words', (row) => row.words, 'what for'),
    ],
    briefs.flatMap((brief) => readLedger(store, brief.id, ALL).map((row) => ({ ...row, brief }))),
  );
}

/** What is owned, or was. */
export function holdingsTable(store: Store): ExportTable {
  const { text, number, date, money } = columnsFor<Holding>();
  return exportTable(
    'portfolio',
    [
      text('domain', (row) => row.name, 'what you own'),
      text('status', (row) => row.status, 'whether it is still yours'),
      text('plan', (row) => row.plan, 'what it is for'),
      text('brief', (row) => row.briefName, 'for which brief it was bought'),
      date('bought', (row) => row.boughtAt, 'when'),
      money('cost', (row) => row.costMinor, 'for what'),
      text('currency', (row) => row.currency, 'of the cost, ISO 4217'),
      money('fees', (row) => row.feesMinor, 'beside it'),
      text('brief_currency', (row) => row.briefCurrency, 'of the fees and the renewal, ISO 4217'),
      text('seller', (row) => row.seller, 'from whom'),
      date('renews', (row) => row.renewsAt, 'when it is to be paid for again'),
      money('renewal', (row) => row.renewalMinor, 'what that costs'),
      number('rebuild_steps_done', (row) => row.stepsDone, 'steps of its rebuild'),
      number('order', (row) => row.orderId, 'the order that brought it'),
      text('note', (row) => row.note, 'what you noted'),
    ],
    listHoldings(store),
  );
}

/** What was paid for what is owned and what it brought. */
export function entriesTable(store: Store): ExportTable {
  const { text, number, date, money } = columnsFor<MoneyEntry>();
  const { home } = readRates(store);
  return exportTable(
    'profit-and-loss',
    [
      date('date', (row) => row.at, 'when'),
      text('domain', (row) => row.domain, 'of which domain'),
      text('brief', (row) => row.brief, 'for which brief it was bought'),
      text('venue', (row) => row.venue, 'where'),
      text('kind', (row) => row.kind, 'what it is'),
      money('amount', (row) => row.amountMinor, 'what came in, or with a minus went out'),
      text('currency', () => home, 'yours, ISO 4217'),
      text('words', (row) => row.words, 'what for'),
      number('order', (row) => row.orderId, 'of which order'),
    ],
    moneyEntries(store),
  );
}

/** Orders that ended, beside what was thought of them before. */
export function outcomesTable(store: Store): ExportTable {
  const { text, number, date, money } = columnsFor<OutcomeRow>();
  return exportTable(
    'outcomes',
    [
      text('domain', (row) => row.name, 'what was to be had'),
      text('venue', (row) => row.venue, 'where'),
      text('kind', (row) => row.kind, 'how'),
      text('purpose', (row) => row.purpose, 'what the brief is for'),
      text('outcome', (row) => row.state, 'how it ended'),
      text('refused_for', (row) => row.refusedFor, 'why it was refused'),
      date('ended', (row) => row.endedAt, 'when'),
      money('went_for', (row) => row.finalMinor, 'for what, where that is known'),
      text('currency', (row) => row.currency, 'of it, ISO 4217'),
      number('chance', (row) => row.estimates.winChance ?? null, 'of winning, as it was estimated before, 0 to 1'),
      money('worth_low', (row) => row.estimates.worthLowMinor ?? null, 'what it was thought to be worth at least'),
      money('worth_high', (row) => row.estimates.worthHighMinor ?? null, 'and at most'),
    ],
    outcomes(store),
  );
}
