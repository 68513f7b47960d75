'use client';

import type { RangeRecord } from '../../core/learning/calibration';
import type { WindowRecord } from '../../core/learning/windows';
import { count, day, duration } from '../../core/wording/format';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import type { RedirectOutcome } from './types';

const figure = { isNumber: true };

interface WorthRow {
  key: string;
  record: RangeRecord;
}
const worth = columnsFor<WorthRow>();
const WORTH_COLUMNS = [
  worth.accessor('key', { header: 'purpose', meta: { isHead: true } }),
  worth.accessor(({ record }) => record.below, { id: 'below', header: 'below', meta: figure }),
  worth.accessor(({ record }) => record.within, {
    id: 'within',
    header: 'within, 6 in 10 meant',
    meta: figure,
    cell: ({ row: { original }, getValue }) => `${getValue()} of ${original.record.count}`,
  }),
  worth.accessor(({ record }) => record.above, { id: 'above', header: 'above', meta: figure }),
];

/** Ranges of worth against what names went for. */
export function WorthTable({ all, groups }: { all: RangeRecord; groups: WorthRow[] }) {
  if (all.count === 0) return <p className="mt-1">No name whose worth was said has gone for a price yet.</p>;
  return (
    <Table
      label="Worths against prices"
      className="mt-1"
      columns={WORTH_COLUMNS}
      rows={[...groups, { key: 'all', record: all }]}
      rowId={({ key }) => key}
    />
  );
}

const drop = columnsFor<WindowRecord>();
const DROP_COLUMNS = [
  drop.accessor('key', {
    header: 'TLD',
    meta: { isHead: true },
    cell: ({ getValue }) => (getValue() === 'all' ? 'all' : `.${getValue()}`),
  }),
  drop.accessor('inside', {
    header: 'inside',
    meta: figure,
    cell: ({ row: { original } }) => `${original.inside} of ${original.inside + original.early + original.late}`,
  }),
  drop.accessor('early', { header: 'early', meta: figure }),
  drop.accessor('late', { header: 'late', meta: figure }),
  drop.accessor('renewed', { header: 'renewed instead', meta: figure }),
  drop.accessor('widthMs', { header: 'middle width', meta: figure, cell: ({ getValue }) => duration(getValue()) }),
];

/** Expected drops against what came. */
export function WindowTable({ all, groups }: { all: WindowRecord; groups: WindowRecord[] }) {
  if (all.count === 0)
    return <p className="mt-1">No watched name with an expected window has dropped or been renewed yet.</p>;
  return (
    <Table
      label="Drop windows against drops"
      className="mt-1"
      columns={DROP_COLUMNS}
      rows={[...(groups.length > 1 ? groups : []), all]}
      rowId={({ key }) => key}
      isSortable
    />
  );
}

const percent = (part: number, all: number) => (all === 0 ? '–' : `${Math.round((100 * part) / all)}%`);
const redirect = columnsFor<RedirectOutcome>();
const redirectColumns = (now: number) => [
  redirect.accessor('name', {
    header: 'domain',
    meta: { isHead: true },
    cell: ({ row: { original } }) => <Redirected outcome={original} />,
  }),
  redirect.accessor(({ planned }) => planned?.moved, {
    id: 'planned',
    header: 'planned: of the links',
    meta: figure,
    cell: ({ getValue }) => (getValue() === undefined ? '–' : percent(getValue() ?? 0, 1)),
  }),
  redirect.accessor(({ planned }) => planned?.relevant, {
    id: 'relevant',
    header: 'relevant',
    meta: figure,
    cell: ({ getValue }) => (getValue() === undefined ? '–' : percent(getValue() ?? 0, 1)),
  }),
  redirect.accessor(({ came }) => came?.came, {
    id: 'came',
    header: 'came: visits',
    meta: figure,
    cell: ({ row: { original } }) => (
      <>
        {original.came ? count(original.came.came) : 'no log taken'}
        {original.from !== null && original.to !== null && (
          <span className="small block">
            {day(original.from, now)} to {day(original.to, now)}
          </span>
        )}
      </>
    ),
  }),
  redirect.accessor(({ came }) => came && came.moved / Math.max(1, came.came), {
    id: 'carried',
    header: 'carried',
    meta: figure,
    cell: ({ row: { original } }) => (original.came ? percent(original.came.moved, original.came.came) : '–'),
  }),
  redirect.accessor(({ came }) => came && came.relevant / Math.max(1, came.came), {
    id: 'relevantCame',
    header: 'relevant',
    meta: figure,
    cell: ({ row: { original } }) => (original.came ? percent(original.came.relevant, original.came.came) : '–'),
  }),
];

function Redirected({ outcome: { name, came } }: { outcome: RedirectOutcome }) {
  return (
    <>
      <Link href={`/domains/${name}/redirects`} className="set wrap-anywhere">
        {name}
      </Link>
      {came && came.missed.length > 0 && (
        <span className="small block">
          no rule for{' '}
          {came.missed
            .slice(0, 3)
            .map(({ path, requests }) => `${path} (${requests})`)
            .join(', ')}
        </span>
      )}
    </>
  );
}

/** What redirects were meant to carry, and what the log of the server says that they did. */
export function RedirectTable({ redirects, now }: { redirects: RedirectOutcome[]; now: number }) {
  if (redirects.length === 0) return <p className="mt-1">No redirect was decided yet.</p>;
  return (
    <Table
      label="Redirects against visits"
      className="mt-1"
      columns={redirectColumns(now)}
      rows={redirects}
      rowId={({ name }) => name}
      rowProps={({ name }) => ({ 'data-redirected': name })}
      isSortable
    />
  );
}
