'use client';

import { ago, count } from '../../core/wording/format';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useNow } from '../shell/live';

/** A batch of names that are checked, with how far it is. Times in ms since 1970 UTC. */
export interface BatchLine {
  id: number;
  name: string;
  names: number;
  free: number;
  lapsing: number;
  waiting: number;
  createdAt: number;
}

const column = columnsFor<BatchLine>();
const figure = (key: 'names' | 'free' | 'lapsing' | 'waiting', header: string) =>
  column.accessor(key, {
    header,
    meta: { isNumber: true },
    sortDescFirst: true,
    cell: ({ getValue }) => count(getValue()),
  });

const columnsOf = (now: number) => [
  column.accessor('name', {
    header: 'Batch',
    meta: { isHead: true },
    cell: ({ row: { original } }) => (
      <Link href={`/check/${original.id}`} className="font-semibold hover:underline">
        {original.name}
      </Link>
    ),
  }),
  figure('names', 'Names'),
  figure('free', 'Available'),
  figure('lapsing', 'Lapsing'),
  figure('waiting', 'Waiting'),
  column.accessor('createdAt', {
    header: 'Pasted',
    meta: { isNumber: true, className: 'small' },
    sortDescFirst: true,
    cell: ({ getValue }) => ago(getValue(), now),
  }),
];

/** Batches, the latest first. */
export function BatchTable({ rows }: { rows: BatchLine[] }) {
  const now = useNow();
  return <Table label="Batches" columns={columnsOf(now)} rows={rows} rowId={({ id }) => String(id)} isSortable />;
}
