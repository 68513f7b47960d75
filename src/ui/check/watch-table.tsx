'use client';

import type { Phase } from '../../core/lifecycle/phases';
import { explain } from '../../core/pool/explain';
import { ago, score } from '../../core/wording/format';
import { statusName } from '../../core/wording/status';
import { DomainLink } from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useNow } from '../shell/live';

/** A watched name by when it should be free. Times in ms since 1970 UTC. */
export interface WatchedLine {
  id: number;
  name: string;
  display: string;
  isByHand: boolean;
  phase: Phase;
  /** When it should be free, in words, and by what. */
  freeWords: string;
  reasons: string;
  freeAt: number | null;
  strength: number | null;
  trust: number | null;
  /** What waiting for it is worth, 0 to 100. */
  waitWorth: number | null;
  lookedAt: number | null;
  againAt: number | null;
  againWords: string;
}

const column = columnsFor<WatchedLine>();

const columnsOf = (now: number) => [
  column.accessor('display', {
    header: 'Domain',
    meta: { isHead: true, className: 'truncate' },
    cell: ({ row: { original } }) => (
      <>
        <DomainLink name={original.name}>{original.display}</DomainLink>
        {original.isByHand && <span className="small ml-1.5">by hand</span>}
      </>
    ),
  }),
  column.accessor(({ phase }) => statusName(phase), { id: 'phase', header: 'Status', meta: { className: 'w-28' } }),
  column.accessor(({ freeAt }) => freeAt ?? undefined, {
    id: 'free',
    header: 'Free, as expected, UTC',
    meta: { className: 'w-44 truncate', about: explain('drop').what },
    sortUndefined: 'last',
    cell: ({ row: { original } }) => <span title={original.reasons}>{original.freeWords}</span>,
  }),
  column.accessor(({ strength }) => strength ?? undefined, {
    id: 'strength',
    header: 'Str · trust',
    meta: { isNumber: true, className: 'w-20' },
    sortDescFirst: true,
    sortUndefined: 'last',
    cell: ({ row: { original } }) => `${score(original.strength)} · ${score(original.trust)}`,
  }),
  column.accessor(({ waitWorth }) => waitWorth ?? undefined, {
    id: 'worth',
    header: 'Worth waiting',
    meta: {
      isNumber: true,
      className: 'w-20',
      about: 'Trust and strength less spam risk, halved with every 30 days of waiting.',
    },
    sortDescFirst: true,
    sortUndefined: 'last',
    cell: ({ getValue }) => score(getValue() ?? null),
  }),
  column.accessor(({ lookedAt }) => lookedAt ?? undefined, {
    id: 'looked',
    header: 'Looked at',
    meta: { isNumber: true, className: 'small w-28' },
    sortDescFirst: true,
    sortUndefined: 'last',
    cell: ({ row: { original } }) => ago(original.lookedAt, now),
  }),
  column.accessor(({ againAt }) => againAt ?? undefined, {
    id: 'again',
    header: 'Again',
    meta: { isNumber: true, className: 'small w-24' },
    sortUndefined: 'last',
    cell: ({ row: { original } }) => original.againWords,
  }),
];

/** Watched names by when they should be free, with what they are worth waiting for. */
export function WatchTable({ rows }: { rows: WatchedLine[] }) {
  const now = useNow();
  return (
    <Table
      label="Watched names"
      className="table-fixed"
      columns={columnsOf(now)}
      rows={rows}
      rowId={({ id }) => String(id)}
      rowProps={({ name }) => ({ 'data-watched': name })}
      isSortable
    />
  );
}
