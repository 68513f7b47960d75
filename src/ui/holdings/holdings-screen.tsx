'use client';

import { toast } from 'sonner';
import type { Holding } from '../../contracts/portfolio';
import { PLANS, STATUSES } from '../../core/money/holding-kinds';
import type { Grouping, ProfitLine } from '../../core/money/profit';
import { count, day, isSoon, money, plural } from '../../core/wording/format';
import { call } from '../api';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { AmountField } from '../parts/amount-field';
import { columnsFor } from '../parts/columns';
import { dayField } from '../parts/day-field';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';
import { undoToast } from '../undo';
import { EntryForm } from './entry-form';
import { Profit } from './profit';

/** With what it brought and what a renewal costs, in the person's currency. */
export interface HoldingShown extends Holding {
  resultMinor: number;
  homeRenewalMinor: number | null;
}

type Change = Partial<Pick<Holding, 'renewsAt' | 'renewalMinor' | 'note' | 'plan' | 'status'>>;
const YEAR = 365.25 * 86_400_000;
/** What is done next, by the plan. */
const NEXT: Record<string, { path: string; words: string }> = {
  redirect: { path: 'redirects', words: 'where its addresses move' },
  rebuild: { path: 'rebuild', words: 'what to bring back' },
  resell: { path: 'sale', words: 'offer it for sale' },
};

/** What is owned: what it cost, what it costs to keep, what is done with it, and what it brought. */
export function HoldingsScreen({
  holdings,
  currency,
  by,
  lines,
}: {
  holdings: HoldingShown[];
  currency: string;
  by: Grouping;
  lines: ProfitLine[];
}) {
  const redraw = useRedraw();
  const now = useNow();
  const kept = holdings.filter(({ status }) => status !== 'sold' && status !== 'given up');
  const within = kept.filter(({ renewsAt }) => renewsAt !== null && renewsAt < now + YEAR);
  const renewals = within.reduce((sum, { homeRenewalMinor }) => sum + (homeRenewalMinor ?? 0), 0);
  const result = holdings.reduce((sum, { resultMinor }) => sum + resultMinor, 0);
  const change = async (name: string, part: Change, isUndo = false) => {
    try {
      const { before } = await call('PATCH /holdings/{name}', { params: { name }, body: part });
      redraw();
      if (!isUndo)
        toast(`${name} changed`, { action: { label: 'Undo', onClick: () => void change(name, before, true) } });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const bringIn = async (file: File | undefined) => {
    if (!file) return;
    try {
      const answer = await call('POST /holdings', { file });
      undoToast(
        `${plural(answer.taken, 'domain')} taken, ${count(answer.known)} known already, ${count(answer.setAside)} rejected`,
        answer.act,
        redraw,
      );
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="px-6 py-6">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1>Portfolio</h1>
        {holdings.length > 0 && (
          <span className="text-muted">
            {plural(kept.length, 'domain')} kept; renewals within a year {money(renewals, currency)}; result so far{' '}
            {money(result, currency)}
          </span>
        )}
        <span className="ml-auto">
          {holdings.length > 0 && <ExportMenu address="/api/v1/export?what=portfolio" label="what you own" />}
        </span>
        <Link className="quiet" href="/learning">
          Outcomes
        </Link>
        <label className="quiet cursor-pointer focus-within:outline-2 focus-within:outline-damson">
          Bring in what you own
          <input
            type="file"
            className="sr-only"
            onChange={(event) => {
              void bringIn(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </label>
      </div>
      {holdings.length === 0 ? (
        <p className="mt-4 max-w-prose border-t border-rule pt-4">
          Nothing is owned yet. What an{' '}
          <Link href="/orders" className="set">
            order
          </Link>{' '}
          wins stands here with its cost and its renewal. What you have already is brought in from a table with domain,
          and bought, cost, currency, renews, renewal and registrar where you have them.
        </p>
      ) : (
        <Table
          label="Portfolio"
          className="mt-4"
          columns={columnsOf(change, currency, now)}
          rows={holdings}
          rowId={({ name }) => name}
          rowProps={({ name }) => ({ 'data-holding': name })}
          opener="Enter a sum"
          opens={({ name }) => `Enter a sum for ${name}`}
          detail={({ name }, close) => <EntryForm name={name} currency={currency} onDone={close} />}
          isSortable
        />
      )}
      {lines.length > 0 && <Profit by={by} lines={lines} currency={currency} />}
    </div>
  );
}

const column = columnsFor<HoldingShown>();

const columnsOf = (change: (name: string, part: Change) => Promise<void>, currency: string, now: number) => [
  column.accessor('name', {
    header: 'Domain',
    meta: { className: 'min-w-52 align-top' },
    cell: ({ row: { original: holding } }) => <NameAndNext holding={holding} />,
  }),
  column.accessor('boughtAt', {
    header: 'Had since, from',
    meta: { className: 'align-top' },
    sortDescFirst: true,
    cell: ({ row: { original: holding } }) => (
      <>
        {day(holding.boughtAt, now)}, {holding.seller}
        {holding.briefName && <span className="small block">{holding.briefName}</span>}
      </>
    ),
  }),
  column.accessor('plan', {
    header: 'Plan',
    meta: { className: 'align-top' },
    cell: ({ row: { original: holding } }) => (
      <Choice
        label={`Plan for ${holding.name}`}
        value={holding.plan}
        options={PLANS}
        onChange={(plan) => void change(holding.name, { plan })}
      />
    ),
  }),
  column.accessor('status', {
    header: 'Stands',
    meta: { className: 'align-top' },
    cell: ({ row: { original: holding } }) => (
      <Choice
        label={`How ${holding.name} stands`}
        value={holding.status}
        options={STATUSES}
        onChange={(status) => void change(holding.name, { status })}
      />
    ),
  }),
  column.accessor('costMinor', {
    header: 'Cost, fees',
    meta: { isNumber: true, className: 'align-top whitespace-nowrap' },
    sortDescFirst: true,
    cell: ({ row: { original: holding } }) => (
      <>
        {money(holding.costMinor, holding.currency)}
        {holding.feesMinor > 0 && (
          <span className="small block">+ {money(holding.feesMinor, holding.briefCurrency)}</span>
        )}
      </>
    ),
  }),
  column.accessor('renewsAt', {
    header: 'Renews, for',
    meta: { className: 'align-top whitespace-nowrap' },
    cell: ({ row: { original: holding } }) => (
      <Renewal holding={holding} currency={currency} onChange={(part) => void change(holding.name, part)} />
    ),
  }),
  column.accessor('resultMinor', {
    header: `Result, ${currency}`,
    meta: { isNumber: true, className: 'align-top font-semibold whitespace-nowrap' },
    sortDescFirst: true,
    cell: ({ getValue }) => money(getValue(), null),
  }),
  column.accessor('note', {
    header: 'Note',
    meta: { className: 'w-36 align-top' },
    cell: ({ row: { original: holding } }) => (
      <input
        className="field w-full"
        aria-label={`Note on ${holding.name}`}
        key={holding.note}
        defaultValue={holding.note}
        onBlur={(event) =>
          event.target.value !== holding.note && void change(holding.name, { note: event.target.value })
        }
      />
    ),
  }),
];

function NameAndNext({ holding }: { holding: Holding }) {
  const next = holding.status === 'sold' || holding.status === 'given up' ? undefined : NEXT[holding.plan];
  return (
    <>
      <Link
        href={`/domains/${holding.name}`}
        className="block min-h-[24px] w-fit font-semibold wrap-anywhere hover:underline"
      >
        {holding.name}
      </Link>
      {next && (
        <Link href={`/domains/${holding.name}/${next.path}`} className="set small block min-h-[24px] w-fit">
          {next.words}
        </Link>
      )}
      {holding.plan === 'rebuild' && holding.stepsDone > 0 && (
        <span className="small block">{plural(holding.stepsDone, 'step')} done</span>
      )}
    </>
  );
}

function Choice<Option extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly Option[];
  onChange(value: Option): void;
}) {
  return (
    <select
      className="field py-0.5"
      aria-label={label}
      value={value}
      onChange={(event) => {
        const chosen = options.find((option) => option === event.target.value);
        if (chosen) onChange(chosen);
      }}
    >
      {options.map((option) => (
        <option key={option}>{option}</option>
      ))}
    </select>
  );
}

function Renewal({
  holding,
  currency,
  onChange,
}: {
  holding: Holding;
  currency: string;
  onChange(part: Change): void;
}) {
  const now = useNow();
  return (
    <>
      <input
        type="date"
        className={`field py-0.5 ${isSoon(holding.renewsAt, now) ? 'bg-quince' : ''}`}
        aria-label={`Renewal date of ${holding.name}`}
        key={holding.renewsAt}
        defaultValue={holding.renewsAt === null ? '' : dayField(holding.renewsAt)}
        onBlur={(event) => {
          const at = event.target.value === '' ? null : Date.parse(event.target.value);
          const before = holding.renewsAt === null ? '' : dayField(holding.renewsAt);
          if (before !== event.target.value) onChange({ renewsAt: at });
        }}
      />{' '}
      <AmountField
        className="w-16"
        label={`Renewal price of ${holding.name}`}
        minor={holding.renewalMinor}
        onKeep={(renewalMinor) => onChange({ renewalMinor })}
      />{' '}
      {holding.briefCurrency ?? currency}
    </>
  );
}
