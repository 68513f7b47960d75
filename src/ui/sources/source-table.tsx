'use client';

import { count, day } from '../../core/wording/format';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useNow } from '../shell/live';

/** A source with what it brought. Times in ms since 1970 UTC. */
export interface SourceLine {
  id: number;
  name: string;
  kind: string;
  isUndone: boolean;
  read: number;
  taken: number;
  isNew: number;
  repeated: number;
  excluded: number;
  rejected: number;
  createdAt: number;
}

const column = columnsFor<SourceLine>();
const figure = (
  key: 'read' | 'taken' | 'isNew' | 'repeated' | 'excluded' | 'rejected',
  header: string,
  about: string,
) =>
  column.accessor(key, {
    header,
    meta: { isNumber: true, about },
    sortDescFirst: true,
    cell: ({ getValue }) => count(getValue()),
  });

const columnsOf = (now: number) => [
  column.accessor('name', {
    header: 'Source',
    meta: { isHead: true, className: 'max-w-56 truncate' },
    cell: ({ row: { original } }) => (
      <>
        <Link href={`/sources/${original.id}`} className="font-semibold hover:underline">
          {original.name}
        </Link>
        {original.isUndone && <span className="small ml-1.5">undone</span>}
      </>
    ),
  }),
  column.accessor('kind', { header: 'Kind' }),
  figure('read', 'Read', 'Rows of a file, or pages of a crawl, that were read.'),
  figure('taken', 'Taken', 'Of them, those that name a domain that was wanted.'),
  figure('isNew', 'New in the pool', 'Domains that no source had named before.'),
  figure('repeated', 'Duplicates', 'Rows whose domain the same source had named already.'),
  figure('excluded', 'Excluded', 'Rows whose TLD or site was left out.'),
  figure('rejected', 'Rejected', 'Rows that could not be read, each kept with its reason.'),
  column.accessor('createdAt', {
    header: 'Since',
    meta: { isNumber: true },
    sortDescFirst: true,
    cell: ({ getValue }) => day(getValue(), now),
  }),
];

/** All sources with what each brought. */
export function SourceTable({ rows }: { rows: SourceLine[] }) {
  const now = useNow();
  return (
    <Table
      label="All sources"
      className="mt-2"
      columns={columnsOf(now)}
      rows={rows}
      rowId={({ id }) => String(id)}
      rowProps={({ name }) => ({ 'data-source': name })}
      isSortable
    />
  );
}
