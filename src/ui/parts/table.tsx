'use client';

import {
  type OnChangeFn,
  type RowData,
  type RowSelectionState,
  type SortingState,
  useTable,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp, ChevronRight } from 'lucide-react';
import { Fragment, type HTMLAttributes, type KeyboardEvent, type ReactElement, type ReactNode, useState } from 'react';
import { type Columns, Drawn, features, Place } from './columns';
import { Explained } from './explained';

export type { OnChangeFn, RowSelectionState, SortingState };

const NONE: readonly string[] = [];

interface TableProps<Row extends RowData> {
  /** What the table is, for those who do not see it. */
  label: string;
  columns: Columns<Row>;
  rows: readonly Row[];
  rowId(row: Row, place: number): string;
  /** Attributes of a row's line. */
  rowProps?(row: Row): HTMLAttributes<HTMLTableRowElement> & Record<`data-${string}`, string | undefined>;
  /** Rows stand under heads of their own while nobody has sorted them otherwise: what stands above a row; they come in order. */
  groupOf?(row: Row): string;
  /** Heads sort, and the order is the table's own business. */
  isSortable?: boolean;
  /** Rows come in their order: whoever gives them sorts them anew, and always by something. */
  isSortedElsewhere?: boolean;
  /** In which order, where others want to know it. */
  sorting?: SortingState;
  onSorting?: OnChangeFn<SortingState>;
  /** Columns that are only sorted by, or left out by choice. */
  hidden?: readonly string[];
  /** Which rows are ticked, by their ids; without it there are no ticks. */
  ticked?: RowSelectionState;
  onTicked?: OnChangeFn<RowSelectionState>;
  /** What a row is called where it is ticked or opened. */
  nameOf?(row: Row): string;
  /** What opens below a row; `close` shuts it again. */
  detail?(row: Row, close: () => void): ReactNode;
  /** What the button that opens it is called; absent: its details. */
  opens?(row: Row): string;
  /** The word that the button shows beside its sign; `opens` begins with it. */
  opener?: string;
  onKey?(event: KeyboardEvent, row: Row): void;
  /** What stands in it while it has no rows. */
  empty?: ReactNode;
  className?: string;
}

/** The one table of all screens: heads that sort, ticks, groups, and details that open in place. */
export function Table<Row extends RowData>({
  label,
  columns,
  rows,
  rowId,
  rowProps,
  groupOf,
  isSortable = false,
  isSortedElsewhere = false,
  sorting: given,
  onSorting,
  hidden = NONE,
  ticked,
  onTicked,
  nameOf = (row) => rowId(row, 0),
  detail,
  opens = (row) => `Details of ${nameOf(row)}`,
  opener,
  onKey,
  empty,
  className = '',
}: TableProps<Row>) {
  const [own, setOwn] = useState<SortingState>([]);
  const sorting = given ?? (isSortable ? own : undefined);
  const table = useTable({
    features,
    columns,
    data: rows as Row[],
    getRowId: rowId,
    getRowCanExpand: () => detail !== undefined,
    // what is open stays open when figures come anew
    autoResetExpanded: false,
    enableSorting: sorting !== undefined,
    manualSorting: isSortedElsewhere,
    enableSortingRemoval: !isSortedElsewhere,
    enableRowSelection: ticked !== undefined,
    onSortingChange: onSorting ?? setOwn,
    onRowSelectionChange: onTicked,
    state: {
      ...(sorting && { sorting }),
      ...(ticked && { rowSelection: ticked }),
      columnVisibility: Object.fromEntries(hidden.map((id) => [id, false])),
    },
  });
  const { rows: lines } = table.getRowModel();
  const isGrouped = groupOf !== undefined && !sorting?.length;
  const width = table.getVisibleLeafColumns().length + (ticked ? 1 : 0) + (detail ? 1 : 0);
  const groups = isGrouped ? lines.map(({ original }) => groupOf(original)) : [];
  return (
    <table aria-label={label} className={`w-full border-collapse bg-sheet ${className}`}>
      <thead>
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id} className="small border-b border-rule text-left">
            {ticked && (
              <th scope="col" className="w-9 py-1.5 pr-3 pl-2">
                <input
                  type="checkbox"
                  className="block size-3.5"
                  aria-label="Tick all"
                  checked={lines.length > 0 && table.getIsAllRowsSelected()}
                  onChange={table.getToggleAllRowsSelectedHandler()}
                />
              </th>
            )}
            {detail && (
              <th scope="col" className={opener ? 'w-24' : 'w-6'}>
                <span className="sr-only">Details</span>
              </th>
            )}
            {group.headers.map((header) => {
              const { column } = header;
              const look = column.columnDef.meta;
              const sorted = column.getIsSorted();
              return (
                <th
                  key={header.id}
                  scope="col"
                  style={{ width: look?.width }}
                  aria-sort={sorted ? (sorted === 'asc' ? 'ascending' : 'descending') : undefined}
                  className={`px-1.5 py-1.5 ${look?.isNumber ? 'text-right' : ''} ${look?.className ?? ''}`}
                >
                  <Told about={look?.about}>
                    {column.getCanSort() ? (
                      <button
                        type="button"
                        className={`inline-flex min-h-6 items-center gap-0.5 hover:text-ink ${sorted ? 'font-semibold text-ink' : ''}`}
                        onClick={column.getToggleSortingHandler()}
                      >
                        <Drawn draw={column.columnDef.header} given={header.getContext()} />
                        {sorted === 'asc' && <ArrowUp size={11} aria-hidden />}
                        {sorted === 'desc' && <ArrowDown size={11} aria-hidden />}
                      </button>
                    ) : look?.about === undefined ? (
                      <Drawn draw={column.columnDef.header} given={header.getContext()} />
                    ) : (
                      <button type="button" className="min-h-6 cursor-help">
                        <Drawn draw={column.columnDef.header} given={header.getContext()} />
                      </button>
                    )}
                  </Told>
                </th>
              );
            })}
          </tr>
        ))}
      </thead>
      <tbody onKeyDown={walk}>
        {lines.map((line, n) => {
          const { original } = line;
          const name = nameOf(original);
          const isOpen = line.getIsExpanded();
          return (
            <Fragment key={line.id}>
              {isGrouped && groups[n] !== groups[n - 1] && (
                <tr className="border-b border-rule bg-paper">
                  <th colSpan={width} scope="colgroup" className="px-2 pt-2 pb-0.5 text-left font-semibold">
                    {groups[n]}
                  </th>
                </tr>
              )}
              <tr
                {...rowProps?.(original)}
                onKeyDown={onKey && ((event) => onKey(event, original))}
                className={`border-b border-faint ${isOpen || line.getIsSelected() ? 'bg-damson-soft' : ''}`}
              >
                {ticked && (
                  <td className="pr-3 pl-2">
                    <input
                      type="checkbox"
                      className="block size-3.5"
                      aria-label={`Tick ${name}`}
                      checked={line.getIsSelected()}
                      onChange={line.getToggleSelectedHandler()}
                    />
                  </td>
                )}
                {detail && (
                  <td className={opener ? 'align-top' : ''}>
                    <button
                      type="button"
                      className={`flex min-w-6 items-center rounded-[3px] whitespace-nowrap text-muted hover:text-ink ${opener ? 'py-1 pl-1 leading-tight' : 'min-h-6 justify-center'}`}
                      aria-label={opens(original)}
                      title={opens(original)}
                      aria-expanded={isOpen}
                      data-opens
                      onClick={line.getToggleExpandedHandler()}
                    >
                      <ChevronRight size={14} aria-hidden className={isOpen ? 'rotate-90' : ''} />
                      {opener && <span className="set">{opener}</span>}
                    </button>
                  </td>
                )}
                {line.getVisibleCells().map((cell) => (
                  <Place key={cell.id} look={cell.column.columnDef.meta} edges="px-1.5 py-1">
                    <Drawn draw={cell.column.columnDef.cell} given={cell.getContext()} />
                  </Place>
                ))}
              </tr>
              {detail && isOpen && (
                <tr className="border-b border-faint bg-damson-soft" data-detail={line.id}>
                  <td colSpan={width} className="px-10 pt-1 pb-3">
                    {detail(original, () => line.toggleExpanded(false))}
                  </td>
                </tr>
              )}
            </Fragment>
          );
        })}
        {lines.length === 0 && empty !== undefined && (
          <tr className="border-b border-faint">
            <td colSpan={width} className="small px-1.5 py-1">
              {empty}
            </td>
          </tr>
        )}
      </tbody>
      {columns.some(({ footer }) => footer !== undefined) && (
        <tfoot>
          {table.getFooterGroups().map((group) => (
            <tr key={group.id} className="border-t-2 border-ink font-semibold">
              {ticked && <td />}
              {detail && <td />}
              {group.headers.map((footer) => (
                <Place key={footer.id} look={{ ...footer.column.columnDef.meta, isHead: false }} edges="px-1.5 py-1">
                  <Drawn draw={footer.column.columnDef.footer} given={footer.getContext()} />
                </Place>
              ))}
            </tr>
          ))}
        </tfoot>
      )}
    </table>
  );
}

/** A head with what its column shows, where that is to be told. */
function Told({ about, children }: { about: string | undefined; children: ReactElement }) {
  return about === undefined ? children : <Explained words={{ what: about, from: '' }}>{children}</Explained>;
}

/** The arrows go from row to row among what opens their details. */
function walk(event: KeyboardEvent<HTMLElement>): void {
  const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
  const from = event.target as HTMLElement;
  if (step === 0 || from.dataset.opens === undefined) return;
  const stops = [...event.currentTarget.querySelectorAll<HTMLElement>('[data-opens]')];
  stops[stops.indexOf(from) + step]?.focus();
  event.preventDefault();
}
