'use client';

import { toast } from 'sonner';
import type { OrderLine } from '../../contracts/orders';
import { ago, closing, moment, money, plural } from '../../core/wording/format';
import { countdown, KIND_WORDS, type OrderShown, standing } from '../../core/wording/orders';
import { call } from '../api';
import { ExportMenu } from '../export-menu';
import Link, { DomainLink } from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';
import { useNow, useSeconds } from '../shell/live';
import { LadderChart } from './ladder-chart';
import { Accounts, type BriefMoney, Ledger, type LedgerLine } from './money';
import { ByHand, Raise } from './order-amounts';
import { Log } from './order-log';
import { RefreshOnOrders } from './refresh';

interface OrdersScreenProps {
  open: OrderShown[];
  ended: OrderShown[];
  log: OrderLine[];
  ledger: LedgerLine[];
  briefs: BriefMoney[];
  isDryRun: boolean;
  hasAccounts: boolean;
  day: { usedMinor: number; limitMinor: number | null; currency: string };
}

const RUNNING: ReadonlySet<string> = new Set(['leading', 'outbid']);

/** All that was ordered: what runs, what waits, what came of it, every act, and the accounts. */
export function OrdersScreen({ open, ended, log, ledger, briefs, isDryRun, hasAccounts, day }: OrdersScreenProps) {
  const running = open.filter(({ state }) => RUNNING.has(state));
  const waiting = open.filter(({ state }) => !RUNNING.has(state));
  return (
    <div className="px-6 py-6">
      <RefreshOnOrders />
      <div className="flex items-baseline gap-6">
        <h1>Bids and orders</h1>
        <span className="text-muted">
          {running.length === 0 ? 'no auction of yours is running' : `${plural(running.length, 'auction')} running`}
          {waiting.length > 0 && `, ${plural(waiting.length, 'order')} waiting`}. Today’s orders may cost{' '}
          {money(day.usedMinor, day.currency)}
          {day.limitMinor === null ? '; the day has no limit' : ` of a limit of ${money(day.limitMinor, day.currency)}`}{' '}
          (
          <Link href="/settings#acting" className="set">
            settings
          </Link>
          ).
        </span>
        <span className="ml-auto">
          <ExportMenu address="/api/v1/export?what=orders" label="all orders" />
        </span>
      </div>
      {isDryRun && (
        <p role="status" className="mt-2 inline-block bg-quince px-3 py-1.5">
          Dry run: orders are written down and nothing is sent.{' '}
          <Link href="/settings#acting" className="set">
            Switch it off
          </Link>{' '}
          when you mean it.
        </p>
      )}
      {!isDryRun && !hasAccounts && (
        <p className="mt-2 max-w-prose">
          No venue can be reached from here, so you bid, buy and register by hand: an order says the exact terms, links
          to the listing, and keeps what you say came of it.
        </p>
      )}
      {open.length === 0 && ended.length === 0 && (
        <p className="mt-4 max-w-prose border-t border-rule pt-4">
          Nothing is ordered yet. Press o on a domain, in the pool, the review, its dossier or the{' '}
          <Link href="/shortlist" className="set">
            shortlist
          </Link>
          : it asks for the terms of this moment, and one more press gives the order.
        </p>
      )}
      {running.length > 0 && (
        <section aria-label="Running auctions" className="mt-5">
          <h2>Running</h2>
          {running.map((order) => (
            <Running key={order.id} order={order} />
          ))}
        </section>
      )}
      <div className="mt-6 grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_400px] gap-x-10">
        <div className="flex flex-col gap-6">
          {waiting.length > 0 && (
            <section aria-label="Waiting orders">
              <h2>Waiting</h2>
              {waiting.map((order) => (
                <Waiting key={order.id} order={order} />
              ))}
            </section>
          )}
          {ended.length > 0 && <Ended orders={ended} />}
          {ledger.length > 0 && <Ledger lines={ledger} />}
        </div>
        <div className="flex flex-col gap-6">
          <Accounts briefs={briefs} />
          <Log lines={log} />
        </div>
      </div>
    </div>
  );
}

function NameAndVenue({ order }: { order: OrderShown }) {
  return (
    <div className="min-w-0">
      <Link href={`/domains/${order.name}`} className="block truncate font-semibold hover:underline">
        {order.name}
      </Link>
      <span className="small block truncate">
        {KIND_WORDS[order.kind]} at {order.venue} for {order.briefName}
      </span>
    </div>
  );
}

function Running({ order }: { order: OrderShown }) {
  const now = useSeconds();
  const rest = order.closesAt === null ? null : order.closesAt - now;
  const isLast = rest !== null && rest < 10 * 60_000;
  return (
    <div
      className="grid grid-cols-1 lg:grid-cols-[240px_minmax(0,1fr)_150px_250px] items-center gap-x-6 border-t border-rule py-2"
      data-order={order.name}
      data-state={order.state}
    >
      <div className="min-w-0">
        <NameAndVenue order={order} />
        <strong className={order.state === 'outbid' ? 'bg-quince px-1' : ''}>{standing(order)}</strong>
      </div>
      <div className="overflow-x-auto">
        <LadderChart order={order} width={430} />
      </div>
      <div className="text-right">
        <span className={`font-serif text-[22px] ${isLast ? 'bg-quince px-1' : ''}`} role="timer" aria-live="off">
          {order.closesAt === null ? '' : countdown(order.closesAt, now)}
        </span>
        <span className="small block whitespace-nowrap">
          {order.bids === 1 ? '1 bid' : `${order.bids ?? 0} bids`}, heard {ago(order.answeredAt, now)}
        </span>
      </div>
      <Raise order={order} />
    </div>
  );
}

function Waiting({ order }: { order: OrderShown }) {
  const now = useNow();
  const redraw = useRedraw();
  const does = async (work: () => Promise<unknown>) => {
    try {
      await work();
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const take = async () => {
    const { name, briefId, venue, counterMinor: amountMinor } = order;
    if (amountMinor !== null)
      await call('POST /orders', { body: { name, briefId, venue, kind: 'offer', amountMinor } });
  };
  return (
    <div
      className="grid grid-cols-1 lg:grid-cols-[minmax(0,240px)_minmax(0,1fr)_auto] items-center gap-x-4 border-t border-rule py-1.5"
      data-order={order.name}
      data-state={order.state}
    >
      <NameAndVenue order={order} />
      <div>
        {standing(order)}, up to {money(order.amountMinor, order.currency)}
        {order.sendAt !== null && order.state === 'queued' && `, goes out ${moment(order.sendAt, now)}`}
        {order.reason && order.state === 'sent' && <span className="small block">{order.reason}</span>}
        {order.closesAt !== null && <span className="small block">{closing(order.closesAt, now)}</span>}
      </div>
      <div className="flex items-center gap-2">
        {order.state === 'countered' && (
          <button type="button" className="press" onClick={() => void does(take)}>
            Take it
          </button>
        )}
        {order.state === 'by hand' ? (
          <ByHand order={order} />
        ) : (
          <button
            type="button"
            className="quiet"
            aria-label={`Take the order for ${order.name} back`}
            onClick={() => void does(() => call('POST /orders/{id}/withdraw', { params: { id: order.id } }))}
          >
            Take back
          </button>
        )}
      </div>
    </div>
  );
}

const column = columnsFor<OrderShown>();

const endedColumns = (now: number) => [
  column.accessor('name', {
    header: 'Domain',
    meta: { isHead: true, className: 'max-w-56 truncate' },
    cell: ({ getValue }) => <DomainLink name={getValue()} />,
  }),
  column.accessor((order) => standing(order), { id: 'standing', header: 'What came of it' }),
  column.accessor(({ kind, venue }) => `${KIND_WORDS[kind]} at ${venue}`, {
    id: 'where',
    header: 'Where',
    meta: { className: 'small' },
  }),
  column.accessor('amountMinor', {
    header: 'Up to',
    meta: { isNumber: true, className: 'whitespace-nowrap' },
    sortDescFirst: true,
    cell: ({ row: { original }, getValue }) => money(getValue(), original.currency),
  }),
  column.accessor('endedAt', {
    header: 'Ended',
    meta: { isNumber: true, className: 'small whitespace-nowrap' },
    sortDescFirst: true,
    cell: ({ getValue }) => ago(getValue(), now),
  }),
];

function Ended({ orders }: { orders: OrderShown[] }) {
  const now = useNow();
  return (
    <section aria-label="Ended orders">
      <h2>Ended</h2>
      <Table
        label="Ended orders"
        columns={endedColumns(now)}
        rows={orders}
        rowId={({ id }) => String(id)}
        rowProps={({ name, state }) => ({ 'data-order': name, 'data-state': state })}
        isSortable
      />
    </section>
  );
}
