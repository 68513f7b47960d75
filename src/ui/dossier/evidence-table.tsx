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
  const columns = shown.flatMap(([key, width]) => {
    const place = part.columns.findIndex((column) => column.key === key);
    return place < 0 ? [] : [{ ...part.columns[place], place, width }];
  });
  const sortBy = (key: string, type: TableColumn['type']) =>
    setAsk((before) => {
      // numbers and times are looked at from the top first
      const isFirst = before.sort !== key;
      return { ...before, sort: key, isDown: isFirst ? type !== 'text' : !before.isDown };
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
      <table className="w-full table-fixed" aria-label={label}>
        <thead className="small">
          <tr>
            {columns.map(({ key, title, type, width }) => (
              <th
                key={key}
                scope="col"
                style={{ width }}
                className={`pr-2 font-normal ${type === 'number' ? 'text-right' : 'pl-2 text-left first:pl-0'}`}
                aria-sort={ask.sort === key ? (ask.isDown ? 'descending' : 'ascending') : undefined}
              >
                <button type="button" className="hover:underline" onClick={() => sortBy(key, type)}>
                  {title}
                  {ask.sort === key && <span aria-hidden="true"> {ask.isDown ? '↓' : '↑'}</span>}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {part.rows.map((row, n) => (
            <tr key={n} className="border-t border-rule align-top">
              {columns.map(({ key, type, place }, column) => (
                <td
                  key={key}
                  className={`py-0.5 pr-2 ${type === 'number' ? 'text-right' : 'pl-2 first:pl-0'}`}
                  title={typeof row.cells[place] === 'string' ? (row.cells[place] as string) : undefined}
                >
                  <span className="block truncate">
                    {column === 0 && row.href ? (
                      <Link href={row.href} className="hover:underline">
                        {cellWords(row.cells[place], type, now, isTimeExact)}
                      </Link>
                    ) : (
                      <bdi>{cellWords(row.cells[place], type, now, isTimeExact)}</bdi>
                    )}
                  </span>
                  {key === noteUnder && row.note && <span className="small block break-words">{row.note}</span>}
                </td>
              ))}
            </tr>
          ))}
          {part.rows.length === 0 && (
            <tr>
              <td colSpan={columns.length} className="small border-t border-rule py-1">
                {part.total === 0 ? 'Nothing yet.' : 'Nothing holds these words.'}
              </td>
            </tr>
          )}
        </tbody>
      </table>
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
