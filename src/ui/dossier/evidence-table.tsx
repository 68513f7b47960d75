'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import type { TableView } from '../../contracts/dossier';
import type { Cell, TableColumn } from '../../core/evidence/arrange';
import { hundredths } from '../../core/formats/figures';
import { count, day, moment } from '../../core/wording/format';
import { call } from '../api';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { type SortingState, Table } from '../parts/table';
import { useSettled } from '../parts/use-settled';
import { useNow } from '../shell/live';

interface Ask {
  sort: string | null;
  isDown: boolean;
  filter: string;
  limit: number;
}

const queryOf = ({ sort, isDown, filter }: Ask) =>
  new URLSearchParams({
    ...(sort ? { sort, order: isDown ? 'down' : 'up' } : {}),
    ...(filter ? { filter } : {}),
  });

const orderOf = ({ sort, isDown }: Ask): SortingState => (sort === null ? [] : [{ id: sort, desc: isDown }]);
const column = columnsFor<TableView['rows'][number]>();

const MORE = 50;
const WAIT_MS = 150;

/**
 * A table of evidence: a click on a title sorts by it, letters search it, and what was found can be taken out as a file. Rows beyond the
 * first come from the server, so that tens of thousands do no harm.
 *
 * @param shown keys of the columns to show, each with its width.
 */
export function EvidenceTable({
  domain,
  table,
  label,
  first,
  shown,
  isTimeExact = false,
  noteUnder = shown[0][0],
}: {
  domain: string;
  table: string;
  label: string;
  first: TableView;
  shown: readonly (readonly [key: string, width: string])[];
  isTimeExact?: boolean;
  /** Key of the column that a row's note stands under. */
  noteUnder?: string;
}) {
  const now = useNow();
  const start = useRef<Ask>({ sort: null, isDown: false, filter: '', limit: first.rows.length });
  const [ask, setAsk] = useState(start.current);
  const asked = useSettled(ask, WAIT_MS);
  const isFirst = asked === start.current;
  const query = queryOf(ask);
  const address = `/domains/${encodeURIComponent(domain)}/tables/${table}`;
  const { data, error } = useQuery({
    queryKey: ['table', domain, table, asked],
    enabled: !isFirst,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => {
      const of = queryOf(asked);
      of.set('limit', String(asked.limit));
      return call('GET /domains/{name}/tables/{table}', { params: { name: domain, table }, query: of, signal });
    },
  });
  const part = isFirst ? first : (data ?? first);
  const problem = error?.message;
  const columns = shown.flatMap(([key, width], n) => {
    const place = part.columns.findIndex((column) => column.key === key);
    if (place < 0) return [];
    const { title, type } = part.columns[place];
    return [
      column.accessor(({ cells }) => cells[place], {
        id: key,
        header: title,
        meta: { isNumber: type === 'number', width, className: 'align-top' },
        // numbers and times are looked at from the top first
        sortDescFirst: type !== 'text',
        cell: ({ row: { original } }) => {
          const cell = original.cells[place];
          const words = cellWords(cell, type, now, isTimeExact);
          return (
            <>
              <span className="block truncate" title={typeof cell === 'string' ? cell : undefined}>
                {n === 0 && original.href ? (
                  <Link href={original.href} className="hover:underline">
                    {words}
                  </Link>
                ) : (
                  <bdi>{words}</bdi>
                )}
              </span>
              {key === noteUnder && original.note && <span className="small block break-words">{original.note}</span>}
            </>
          );
        },
      }),
    ];
  });
  return (
    <div>
      <div className="mb-1 flex flex-wrap items-center gap-2 print:hidden">
        <input
          type="search"
          className="field w-52 max-w-full py-0.5"
          placeholder="search"
          aria-label={`Search ${label}`}
          value={ask.filter}
          maxLength={200}
          onChange={(event) => setAsk((before) => ({ ...before, filter: event.target.value }))}
        />
        <span className="small" role="status">
          {part.found === part.total ? count(part.total) : `${count(part.found)} of ${count(part.total)}`}
        </span>
        <span className="small ml-auto">
          <ExportMenu address={`/api/v1${address}?${query}`} label={label} className="underline" />
        </span>
      </div>
      {problem && (
        <p className="bg-quince px-2 py-1" role="alert">
          {problem}
        </p>
      )}
      <Table
        label={label}
        className="table-fixed bg-transparent!"
        columns={columns}
        rows={part.rows}
        rowId={(_, n) => String(n)}
        isSortedElsewhere
        sorting={orderOf(ask)}
        onSorting={(change) =>
          setAsk((before) => {
            const [order] = typeof change === 'function' ? change(orderOf(before)) : change;
            return { ...before, sort: order?.id ?? null, isDown: order?.desc ?? false };
          })
        }
        empty={part.total === 0 ? 'Nothing yet.' : 'Nothing holds these words.'}
      />
      {part.rows.length < part.found && (
        <button
          type="button"
          className="set mt-1 print:hidden"
          onClick={() => setAsk((before) => ({ ...before, limit: Math.min(1000, before.limit + MORE) }))}
        >
          {part.rows.length >= 1000
            ? 'the file has the rest'
            : `${Math.min(MORE, part.found - part.rows.length)} more of ${count(part.found - part.rows.length)}`}
          <span className="sr-only"> {label}</span>
        </button>
      )}
    </div>
  );
}

function cellWords(cell: Cell, type: TableColumn['type'], now: number, isTimeExact: boolean): string {
  if (cell === null) return '';
  if (type === 'time' && typeof cell === 'number') return isTimeExact ? moment(cell, now) : day(cell, now);
  return typeof cell === 'number' ? hundredths(cell) : cell;
}
