import { homeMinor } from '../../core/listings/rates';
import { converted } from '../../core/orders/ledger';
import { type Breach, breachOf } from '../../core/orders/limits';
import { type Commitment, commitmentOf, costOf, type OrderMoney } from '../../core/orders/order';
import { Refusal } from '../../core/refusal';
import type { Store } from '../base/database';
import { all, camel, columns, knex, pick, the } from '../base/query';
import { readRates, readSettings } from '../base/settings';
import { ORDERS, type Order, orders } from './order-rows';

const BRIEFS = columns('briefs', 'b');

/** The order would break a hard limit. */
export class LimitError extends Refusal {
  constructor(readonly breach: Breach) {
    super('over-limit', limitWords(breach));
  }
}

function limitWords({ limit, limitMinor, overMinor }: Breach): string {
  const [over, most] = [overMinor, limitMinor].map((minor) => (minor / 100).toFixed(2));
  return limit === 'brief'
    ? `This order would cost ${over} more than the budget of the brief, ${most}, allows. Nothing was sent.`
    : `This order would cost ${over} more than today’s limit of ${most} (Settings) allows. Nothing was sent.`;
}

/** Orders for one name at one venue, of which only one can be won. Two venues may both sell it: each is held for. */
const groupOf = ({ domainId, venue }: Pick<Order, 'domainId' | 'venue'>) => `${domainId} ${venue}`;

const moneyOf = (
  order: Pick<Order, 'state' | 'domainId' | 'venue' | 'amountMinor' | 'finalMinor' | 'ratePpm' | 'feesMinor'>,
) => ({
  state: order.state,
  group: groupOf(order),
  amountMinor: converted(order.amountMinor, order.ratePpm),
  finalMinor: order.finalMinor === null ? null : converted(order.finalMinor, order.ratePpm),
  feesMinor: order.feesMinor,
});

/** What a brief's orders hold and have spent. */
export function commitment(store: Store, briefId: number): Commitment {
  return commitmentOf(moneyOfBrief(store, briefId));
}

function moneyOfBrief(store: Store, briefId: number): OrderMoney[] {
  const rows = all(store, orders().where('o.brief_id', briefId).where('o.state', '<>', 'dry'));
  return rows.map(moneyOf);
}

/** What the orders given on the day of a moment may cost already, UTC, over all briefs, in the user's currency. */
export function costOfDay(store: Store, now: number): number {
  return costSince(store, dayOf(now), []);
}

const DAY = 86_400_000;
/** Midnight UTC before a moment. */
export const dayOf = (at: number): number => Math.floor(at / DAY) * DAY;

function costSince(store: Store, since: number, more: (OrderMoney & { currency: string })[]): number {
  const rates = readRates(store);
  const rows = all(
    store,
    pick(knex('orders as o').join('briefs as b', 'b.id', 'o.brief_id'), {
      ...camel(ORDERS, 'state', 'domain_id', 'venue', 'amount_minor', 'final_minor', 'rate_ppm', 'fees_minor'),
      briefCurrency: BRIEFS.currency,
    })
      .where('o.created_at', '>=', since)
      .where('o.state', '<>', 'dry'),
  );
  const home = (money: OrderMoney, currency: string): OrderMoney => ({
    ...money,
    amountMinor: homeMinor(money.amountMinor, currency, rates) ?? money.amountMinor,
    finalMinor: homeMinor(money.finalMinor, currency, rates),
    feesMinor: homeMinor(money.feesMinor, currency, rates) ?? money.feesMinor,
  });
  return costOf(
    commitmentOf([
      ...rows.map((row) => home(moneyOf(row), row.briefCurrency)),
      ...more.map(({ currency, ...money }) => home(money, currency)),
    ]),
  );
}

/** The first limit that an order breaks, itself not counted yet. Call inside a write transaction. */
export function breachOfOrder(
  store: Store,
  order: Pick<
    Order,
    'briefId' | 'state' | 'domainId' | 'venue' | 'amountMinor' | 'finalMinor' | 'ratePpm' | 'feesMinor'
  >,
  at: number,
): Breach | null {
  const brief = the(
    store,
    pick(knex('briefs as b'), camel(BRIEFS, 'budget_minor', 'currency')).where('b.id', order.briefId),
  );
  const money = moneyOf(order);
  const before = moneyOfBrief(store, order.briefId);
  const briefUsed = costOf(commitmentOf(before));
  const briefAdds = costOf(commitmentOf([...before, money])) - briefUsed;
  const byBrief = breachOf(
    briefAdds,
    { briefMinor: briefUsed, dayMinor: 0 },
    { briefMinor: brief.budgetMinor, dayMinor: null },
  );
  if (byBrief) return byBrief;
  const dayUsed = costSince(store, dayOf(at), []);
  const dayAdds = costSince(store, dayOf(at), [{ ...money, currency: brief.currency }]) - dayUsed;
  const { dayLimitMinor } = readSettings(store);
  return breachOf(dayAdds, { briefMinor: 0, dayMinor: dayUsed }, { briefMinor: null, dayMinor: dayLimitMinor });
}

/** What may still be ordered: for a brief in its currency, today in the user’s; null: without a limit. */
export function limitsLeft(store: Store, briefId: number): { briefMinor: number | null; dayMinor: number | null } {
  const budget = the(store, knex('briefs').where('id', briefId).pluck('budget_minor'));
  const { dayLimitMinor } = readSettings(store);
  return {
    briefMinor: budget === null ? null : budget - costOf(commitment(store, briefId)),
    dayMinor: dayLimitMinor === null ? null : dayLimitMinor - costOfDay(store, store.now()),
  };
}
