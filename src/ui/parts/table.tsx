'use client';

import {
  type ColumnDef,
  columnVisibilityFeature,
  createColumnHelper,
  createSortedRowModel,
  metaHelper,
  type OnChangeFn,
  type RowData,
  type RowSelectionState,
  rowExpandingFeature,
  rowSelectionFeature,
  rowSortingFeature,
  type SortingState,
  sortFn_alphanumeric,
  sortFn_basic,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp, ChevronRight } from 'lucide-react';
import { Fragment, type HTMLAttributes, type KeyboardEvent, type ReactElement, type ReactNode, useState } from 'react';
import { Explained } from './explained';

/** How a column looks. */
interface ColumnLook {
  /** Figures stand at the right. */
  isNumber?: boolean;
  /** The cell that names its row. */
  isHead?: boolean;
  /** Of its cells and its head. */
  className?: string;
  /** What the column shows, where its title does not say it whole. */
  about?: string;
}

const features = tableFeatures({
  rowSortingFeature,
  rowSelectionFeature,
  rowExpandingFeature,
  columnVisibilityFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
  columnMeta: metaHelper<ColumnLook>(),
});
type Features = typeof features;

// biome-ignore lint/suspicious/noExplicitAny: columns of one table hold values of different types
export type Columns<Row extends RowData> = ColumnDef<Features, Row, any>[];
export type { OnChangeFn, RowSelectionState, SortingState };

/** What columns of rows of one type are made with. */
export const columnsFor = <Row extends RowData>() => createColumnHelper<Features, Row>();

const NONE: readonly string[] = [];

interface TableProps<Row extends RowData> {
  /** What the table is, for those who do not see it. */
  label: string;
  columns: Columns<Row>;
  rows: readonly Row[];
  rowId(row: Row): string;
  /** Attributes of a row's line. */
  rowProps?(row: Row): HTMLAttributes<HTMLTableRowElement> & Record<`data-${string}`, string | undefined>;
  /** Rows stand under heads of their own while nobody has sorted them otherwise: what stands above a row; they come in order. */
  groupOf?(row: Row): string;
  /** Heads sort, and the order is the table's own business. */
  isSortable?: boolean;
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
  className?: string;
}

/**
 * What a column puts in a place. It is called, not drawn as a component of its own: screens make their columns anew with each figure
 * and each minute, and a field in a cell keeps what is typed into it and its focus.
 */
function Drawn<Given>({ draw, given }: { draw: ReactNode | ((given: Given) => ReactNode); given: Given }) {
  return typeof draw === 'function' ? draw(given) : draw;
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
  sorting: given,
  onSorting,
  hidden = NONE,
  ticked,
  onTicked,
  nameOf = rowId,
  detail,
  opens = (row) => `Details of ${nameOf(row)}`,
  opener,
  onKey,
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
              <th scope="col" className="w-8 px-2 py-1.5">
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
                  aria-sort={sorted ? (sorted === 'asc' ? 'ascending' : 'descending') : undefined}
                  className={`px-1.5 py-1.5 font-normal ${look?.isNumber ? 'text-right' : ''} ${look?.className ?? ''}`}
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
                  <td className="px-2">
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
                {line.getVisibleCells().map((cell) => {
                  const look = cell.column.columnDef.meta;
                  const place = `px-1.5 py-1 font-normal ${look?.isNumber ? 'text-right' : 'text-left'} ${look?.className ?? ''}`;
                  return look?.isHead ? (
                    <th key={cell.id} scope="row" className={place}>
                      <Drawn draw={cell.column.columnDef.cell} given={cell.getContext()} />
                    </th>
                  ) : (
                    <td key={cell.id} className={place}>
                      <Drawn draw={cell.column.columnDef.cell} given={cell.getContext()} />
                    </td>
                  );
                })}
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
      </tbody>
      {columns.some(({ footer }) => footer !== undefined) && (
        <tfoot>
          {table.getFooterGroups().map((group) => (
            <tr key={group.id} className="border-t-2 border-ink font-semibold">
              {ticked && <td />}
              {detail && <td />}
              {group.headers.map((footer) => {
                const look = footer.column.columnDef.meta;
                return (
                  <td
                    key={footer.id}
                    className={`px-1.5 py-1 ${look?.isNumber ? 'text-right' : 'text-left'} ${look?.className ?? ''}`}
                  >
                    <Drawn draw={footer.column.columnDef.footer} given={footer.getContext()} />
                  </td>
                );
              })}
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
