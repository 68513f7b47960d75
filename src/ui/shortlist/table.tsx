'use client';

import { createContext, type KeyboardEvent, useContext, useMemo } from 'react';
import { DUE_TITLES, dueOf, inDueOrder } from '../../core/bids/due';
import type { Confirmed } from '../../core/lifecycle/confirmed';
import { closing, isSoon, money, phaseWords } from '../../core/wording/format';
import { shortWay, wayWords } from '../../core/wording/orders';
import { FitLine } from '../fit-line';
import Link from '../link';
import { openOrder } from '../orders/open';
import { AmountField } from '../parts/amount-field';
import { columnsFor } from '../parts/columns';
import { type MoneyFigures, MoneyLine, type MoneySpan, spanOf } from '../parts/money-line';
import { type OnChangeFn, type RowSelectionState, type SortingState, Table } from '../parts/table';
import { placeOf, pressed } from '../shell/key-list';
import { useNow } from '../shell/live';
import { Details } from './details';
import { type Entry, type EntryChange, nextWords, priceOf, wayOf } from './entry';
import { STAGE_STEPS, type StageName } from './stages';

const LINE_WIDTH = 160;

interface TableProps {
  entries: Entry[];
  currency: string;
  feesMinor: number;
  sorting: SortingState;
  ticked: RowSelectionState;
  confirmed: Record<string, Confirmed | 'asking'>;
  onSorting: OnChangeFn<SortingState>;
  onTicked: OnChangeFn<RowSelectionState>;
  onChange(entry: Entry, change: EntryChange): void;
  onStage(entry: Entry, stage: StageName): void;
  onConfirm(entry: Entry): void;
  onRemove(entry: Entry): void;
}

/** What cells want beside their row. */
const Beside = createContext<Pick<TableProps, 'currency' | 'onChange' | 'onStage'> & { span: MoneySpan; now: number }>({
  currency: '',
  span: spanOf([]),
  now: 0,
  onChange() {},
  onStage() {},
});

const figuresOf = (entry: Entry): MoneyFigures => {
  const way = wayOf(entry);
  return {
    priceMinor: priceOf(way),
    rivalsMinor: way?.others?.toMinor ?? null,
    maximumMinor: entry.mostMinor,
    worthLowMinor: entry.worthLowMinor,
    worthHighMinor: entry.worthHighMinor,
  };
};

const column = columnsFor<Entry>();
/** undefined stands last, in whichever direction. */
const known = (value: number | null) => value ?? undefined;

const COLUMNS = [
  column.accessor((entry) => entry.domain.display, {
    id: 'domain',
    header: 'Domain',
    sortFn: 'alphanumeric',
    cell: ({ row }) => <NameCell entry={row.original} />,
    meta: { isHead: true, className: 'min-w-59 max-w-72' },
  }),
  // by what is sure: a name of which nothing is known does not stand above one that was measured
  column.accessor(({ fit }) => (fit.score === null ? undefined : fit.least), {
    id: 'fit',
    header: 'Fit',
    sortUndefined: 'last',
    sortDescFirst: true,
    cell: ({ row }) => <FitLine fit={row.original.fit} width={40} />,
    meta: { about: 'How well it suits the brief, 0 to 100: what is sure, and what it may be at most' },
  }),
  column.accessor((entry) => known(priceOf(wayOf(entry))), {
    id: 'price',
    header: 'How to have it',
    sortUndefined: 'last',
    cell: ({ row }) => <WayCell entry={row.original} />,
    meta: { className: 'whitespace-nowrap', about: 'The way that the plan takes, or would; sorted by price' },
  }),
  column.accessor(({ decidedAt }) => known(decidedAt), {
    id: 'closing',
    header: 'Closes',
    sortUndefined: 'last',
    cell: ({ row }) => <ClosesCell entry={row.original} />,
    meta: { className: 'whitespace-nowrap', about: 'When its auction closes or it drops' },
  }),
  column.display({
    id: 'money',
    header: () => <LineTitle />,
    cell: ({ row }) => <LineCell entry={row.original} />,
    meta: {
      // a drawing shrinks: what takes the rest of the width would leave it next to none
      className: 'min-w-46',
      about:
        'Bar: price now. Dots: rivals’ likely top. Stroke: your maximum. Band: what it is worth, six times in ten.',
    },
  }),
  column.accessor(({ mostMinor }) => known(mostMinor), {
    id: 'maximum',
    header: 'Maximum',
    sortUndefined: 'last',
    sortDescFirst: true,
    cell: ({ row }) => <MaximumCell entry={row.original} />,
    meta: { isNumber: true, about: 'The most to pay: as reckoned from its worth, or what you type' },
  }),
  column.accessor(({ stage }) => STAGE_STEPS.findIndex(([name]) => name === stage), {
    id: 'stage',
    header: 'Stage',
    cell: ({ row }) => <StageCell entry={row.original} />,
  }),
  column.display({
    id: 'next',
    header: 'Next, or note',
    cell: ({ row }) => <NextCell entry={row.original} />,
    // takes what is left of the width, and no more
    meta: { className: 'w-full max-w-0 min-w-56' },
  }),
  // sorted by alone
  column.accessor('addedAt', { id: 'added', header: 'Added' }),
  column.accessor(({ oldestAt }) => oldestAt ?? 0, { id: 'stalest', header: 'Stalest' }),
];
const HIDDEN = ['added', 'stalest'];

/** In what order the shortlist can stand; the first is by when a decision is due. */
export const ORDERS = [
  ['due', 'deadline'],
  ['fit', 'fit'],
  ['price', 'price'],
  ['maximum', 'maximum'],
  ['stage', 'stage'],
  ['domain', 'domain'],
  ['added', 'when added'],
  ['stalest', 'stalest first'],
] as const;

/** Names under consideration, one a line, grouped by when a decision is due; what a decision rests on opens in place. */
export function ShortlistTable(props: TableProps) {
  const { entries, currency, confirmed, feesMinor, onChange, onStage, onConfirm, onRemove } = props;
  const now = useNow();
  const inOrder = useMemo(() => inDueOrder(entries, now), [entries, now]);
  const span = useMemo(() => spanOf(entries.map(figuresOf)), [entries]);
  const onKey = (event: KeyboardEvent, entry: Entry) => {
    if (/^(INPUT|SELECT|TEXTAREA)$/.test((event.target as HTMLElement).tagName)) return;
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const key = pressed('shortlist, on a row', event);
    if (key === 'stage') onStage(entry, STAGE_STEPS[placeOf(event)][0]);
    else if (key === 'order') openOrder(entry.domain.name);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Beside value={{ currency, span, now, onChange, onStage }}>
      <div className="mt-2 overflow-x-auto">
        <Table
          label="Shortlist"
          columns={COLUMNS}
          hidden={HIDDEN}
          rows={inOrder}
          rowId={({ domainId }) => String(domainId)}
          rowProps={({ domain }) => ({ 'data-domain': domain.name })}
          nameOf={({ domain }) => domain.display}
          groupOf={(entry) => DUE_TITLES[dueOf({ stage: entry.stage, at: entry.decidedAt }, now)]}
          sorting={props.sorting}
          onSorting={props.onSorting}
          ticked={props.ticked}
          onTicked={props.onTicked}
          onKey={onKey}
          detail={(entry) => (
            <Details
              entry={entry}
              currency={currency}
              feesMinor={feesMinor}
              confirmed={confirmed[entry.domain.name]}
              onChange={onChange}
              onConfirm={onConfirm}
              onRemove={onRemove}
            />
          )}
        />
      </div>
      <p className="small mt-1.5">
        Bar: price now. Dots: rivals’ likely top. Stroke: your maximum. Band: worth, six times in ten. Enter opens the
        reckoning, o orders, 1 to {STAGE_STEPS.length} set the stage.
      </p>
    </Beside>
  );
}

function NameCell({ entry: { domain, note, notes } }: { entry: Entry }) {
  const { display, ending } = domain;
  return (
    <Link
      href={`/domains/${domain.name}`}
      className="wrap-break-word hover:underline"
      title={notes.last ?? (note || undefined)}
    >
      <span className="font-semibold">{display.slice(0, display.length - ending.length - 1)}</span>
      <span className="whitespace-nowrap text-muted">.{ending}</span>
    </Link>
  );
}

function WayCell({ entry }: { entry: Entry }) {
  const { now } = useContext(Beside);
  const way = wayOf(entry);
  if (way === null) return <span className="text-muted">{phaseWords(entry.domain, now)}</span>;
  return (
    <span title={wayWords(way, now)}>
      {shortWay(way, now)}
      {entry.ways.length > 1 && <span className="small"> +{entry.ways.length - 1}</span>}
    </span>
  );
}

function ClosesCell({ entry: { decidedAt } }: { entry: Entry }) {
  const { now } = useContext(Beside);
  return (
    <span className={isSoon(decidedAt, now) ? 'rounded-[3px] bg-quince px-1' : ''}>{closing(decidedAt, now)}</span>
  );
}

function LineTitle() {
  const { span, currency } = useContext(Beside);
  return (
    <>
      Price to worth, {money(span.leastMinor, null)}–{money(span.mostMinor, currency)}
    </>
  );
}

function LineCell({ entry }: { entry: Entry }) {
  const { span, currency } = useContext(Beside);
  return <MoneyLine figures={figuresOf(entry)} currency={currency} span={span} width={LINE_WIDTH} />;
}

function MaximumCell({ entry }: { entry: Entry }) {
  const { onChange } = useContext(Beside);
  const { mostMinor, domain, maximumBidMinor } = entry;
  return (
    <AmountField
      label={`Maximum bid of ${domain.display}`}
      className="w-16"
      minor={maximumBidMinor}
      placeholder={mostMinor === null ? 'none' : money(Math.round(mostMinor / 100) * 100, null)}
      onKeep={(minor) => onChange(entry, { maximumBidMinor: minor })}
    />
  );
}

function StageCell({ entry }: { entry: Entry }) {
  const { onStage } = useContext(Beside);
  return (
    <select
      className="rounded border border-transparent bg-transparent py-0.5 hover:border-rule"
      aria-label={`Stage of ${entry.domain.display}`}
      value={entry.stage}
      onChange={(event) => onStage(entry, event.target.value as StageName)}
    >
      {STAGE_STEPS.map(([name]) => (
        <option key={name}>{name}</option>
      ))}
    </select>
  );
}

function NextCell({ entry }: { entry: Entry }) {
  const { currency } = useContext(Beside);
  const next = nextWords(entry, currency);
  // where the plan goes for it, or the person means to
  const isDue =
    (entry.stage === 'to act on' && entry.mostMinor !== 0) || (entry.bid?.isIn === true && entry.order === null);
  return (
    <span className="flex items-baseline gap-2">
      <span className="min-w-0 grow truncate" title={[next, entry.note].filter(Boolean).join('; ')}>
        {next} {entry.note !== '' && <span className="small">{entry.note}</span>}
      </span>
      {isDue && (
        <button
          type="button"
          className="set shrink-0"
          aria-label={`Order ${entry.domain.display}`}
          onClick={() => openOrder(entry.domain.name)}
        >
          order
        </button>
      )}
    </span>
  );
}
