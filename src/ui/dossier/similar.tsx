'use client';

import { useQuery } from '@tanstack/react-query';
import type { SimilarName } from '../../contracts/dossier';
import { count, score } from '../../core/wording/format';
import { statusName } from '../../core/wording/status';
import { call } from '../api';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';

const column = columnsFor<SimilarName>();
const COLUMNS = [
  column.accessor('name', {
    header: 'Name, and why',
    meta: { isHead: true, className: 'truncate' },
    cell: ({ row: { original } }) => (
      <>
        <Link href={`/domains/${original.name}`} className="hover:underline">
          {original.name}
        </Link>
        <span className="small ml-1.5">{original.why}</span>
      </>
    ),
  }),
  column.accessor(({ phase }) => statusName(phase), {
    id: 'phase',
    header: 'Status',
    meta: { className: 'small w-28' },
  }),
  column.accessor('referringDomains', {
    header: 'Referring',
    meta: { isNumber: true, className: 'w-20' },
    sortDescFirst: true,
    sortUndefined: 'last',
    cell: ({ getValue }) => count(getValue()),
  }),
  column.accessor('strength', {
    header: 'Strength',
    meta: { isNumber: true, className: 'w-20' },
    sortDescFirst: true,
    cell: ({ getValue }) => score(getValue()) || '?',
  }),
];

/** Names of the pool that are like this one; looked for once the page is there. */
export function SimilarNames({ name }: { name: string }) {
  const { data: names, error } = useQuery({
    queryKey: ['similar', name],
    queryFn: async ({ signal }) => (await call('GET /domains/{name}/similar', { params: { name }, signal })).names,
  });
  if (error) return <p className="small">{error.message}</p>;
  if (names === undefined) return <p className="small">looking…</p>;
  if (names.length === 0) return <p className="small">None in the pool is like it.</p>;
  return (
    <Table
      label="Similar names in the pool"
      className="table-fixed"
      columns={COLUMNS}
      rows={names}
      rowId={({ name: one }) => one}
      isSortable
    />
  );
}
