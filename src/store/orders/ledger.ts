import { type Account, balancesOf, type LedgerLine, postingOf } from '../../core/orders/ledger';
import type { Commitment } from '../../core/orders/order';
import type { Store } from '../base/database';
import { all, camel, columns, first, knex, pick, run, sql } from '../base/query';
import { commitment } from './commitments';
import type { Order } from './order-rows';

const LEDGER = columns('ledger');

/** Brings the brief's accounts to what its orders commit to now. */
export function postCommitment(store: Store, { id, briefId, name }: Order, words: string): void {
  const lines = postingOf(commitmentBooked(store, briefId), commitment(store, briefId));
  if (lines.length === 0) return;
  const last = first(store, pick(knex('ledger'), { posting: sql<number | null>('max(posting)') }))?.posting ?? 0;
  for (const { account, amountMinor } of lines)
    run(
      store,
      knex('ledger').insert({
        posting: last + 1,
        at: store.now(),
        brief_id: briefId,
        order_id: id,
        account,
        amount_minor: amountMinor,
        words: `${name}: ${words}`,
      }),
    );
}

/** Balances of a brief's accounts by the ledger, in minor units of its currency. */
export function balances(store: Store, briefId: number): Record<Account, number> {
  return balancesOf(
    all(
      store,
      pick(knex('ledger'), { ...camel(LEDGER, 'account'), amountMinor: sql<number>('sum(amount_minor)') })
        .where('brief_id', briefId)
        .groupBy('account'),
    ),
  );
}

function commitmentBooked(store: Store, briefId: number): Commitment {
  const { held, spent, fees } = balances(store, briefId);
  return { heldMinor: held, spentMinor: spent, feesMinor: fees };
}

export interface LedgerRow extends LedgerLine {
  id: number;
  posting: number;
  at: number;
  orderId: number | null;
  words: string;
}

export function readLedger(store: Store, briefId: number, limit = 500): LedgerRow[] {
  return all(
    store,
    pick(knex('ledger'), camel(LEDGER, 'id', 'posting', 'at', 'order_id', 'account', 'amount_minor', 'words'))
      .where('brief_id', briefId)
      .orderBy('id', 'desc')
      .limit(limit),
  );
}
