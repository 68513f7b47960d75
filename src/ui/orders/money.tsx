'use client';

import type { LedgerRow } from '../../contracts/orders';
import type { Account } from '../../core/orders/ledger';
import { moment, money } from '../../core/wording/format';
import { ExportMenu } from '../export-menu';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useNow } from '../shell/live';

export interface BriefMoney {
  id: number;
  name: string;
  currency: string;
  budgetMinor: number | null;
  balances: Record<Account, number>;
}

/** In its brief's currency. */
export type LedgerLine = LedgerRow & { currency: string };

const account = columnsFor<BriefMoney>();
const ACCOUNTS = [
  account.accessor('name', { header: 'Brief', meta: { isHead: true, className: 'max-w-40 truncate' } }),
  account.accessor(({ balances }) => balances.held, {
    id: 'held',
    header: 'held',
    meta: { isNumber: true },
    cell: ({ getValue }) => money(getValue(), null),
  }),
  account.accessor(({ balances }) => balances.spent + balances.fees, {
    id: 'spent',
    header: 'spent, fees',
    meta: { isNumber: true },
    cell: ({ getValue }) => money(getValue(), null),
  }),
  account.accessor(({ budgetMinor, balances }) => (budgetMinor === null ? undefined : budgetMinor + balances.budget), {
    id: 'left',
    header: 'left',
    meta: { isNumber: true, className: 'whitespace-nowrap' },
    sortUndefined: 'last',
    cell: ({ row: { original }, getValue }) =>
      getValue() === undefined ? 'no budget' : money(getValue() ?? null, original.currency),
  }),
];

const posting = columnsFor<LedgerLine>();
const ledgerColumns = (now: number) => [
  posting.accessor('posting', { header: 'posting' }),
  posting.accessor('at', { header: 'when', sortDescFirst: true, cell: ({ getValue }) => moment(getValue(), now) }),
  posting.accessor('words', { header: 'what', meta: { className: 'wrap-anywhere' } }),
  posting.accessor('account', { header: 'account' }),
  posting.accessor('amountMinor', {
    header: 'amount',
    meta: { isNumber: true, className: 'whitespace-nowrap' },
    sortDescFirst: true,
    cell: ({ row: { original }, getValue }) => money(getValue(), original.currency),
  }),
];

export function Accounts({ briefs }: { briefs: BriefMoney[] }) {
  const used = briefs.filter(({ balances, budgetMinor }) => balances.budget !== 0 || budgetMinor !== null);
  if (used.length === 0) return null;
  return (
    <section aria-label="Accounts">
      <h2>Accounts</h2>
      <Table label="Accounts" columns={ACCOUNTS} rows={used} rowId={({ id }) => String(id)} isSortable />
    </section>
  );
}

export function Ledger({ lines }: { lines: LedgerLine[] }) {
  const now = useNow();
  return (
    <details>
      <summary className="font-semibold">Ledger, in double entry</summary>
      <p className="text-right">
        <ExportMenu address="/api/v1/export?what=ledger" label="the ledger of all briefs" />
      </p>
      <Table
        label="Ledger"
        className="mt-1"
        columns={ledgerColumns(now)}
        rows={lines}
        rowId={({ id }) => String(id)}
        isSortable
      />
    </details>
  );
}
