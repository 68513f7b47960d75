import {
  type ColumnDef,
  constructTable,
  createColumnHelper,
  metaHelper,
  type RowData,
  tableFeatures,
} from '@tanstack/react-table';
import { storeReactivityBindings } from '@tanstack/table-core/store-reactivity-bindings';
import { Fragment, type HTMLAttributes, type ReactNode } from 'react';
import { type ColumnLook, Drawn, Place } from './columns';

/**
 * Nothing changes in it: what it is made of need not be watched, and it is neither sorted nor ticked nor opened. A server that draws a
 * dozen of them for a page would spend as much on what can be done with a table as on drawing it.
 */
const plain = tableFeatures({
  coreReactivityFeature: storeReactivityBindings(),
  columnMeta: metaHelper<ColumnLook>(),
});

// biome-ignore lint/suspicious/noExplicitAny: columns of one table hold values of different types
type PlainColumns<Row extends RowData> = ColumnDef<typeof plain, Row, any>[];

/** How a column of figures looks. */
export const NUMBER: ColumnLook = { isNumber: true };
/** How the column looks that names its row. */
export const HEAD: ColumnLook = { isHead: true };

/**
 * What columns of rows of one type are made with, where they are only read: their title, what stands in a row's place, how it looks, and
 * what is drawn for the title where that is more than words.
 */
export function plainColumnsFor<Row extends RowData>() {
  const column = createColumnHelper<typeof plain, Row>();
  return (
    title: string,
    draw: (row: Row, place: number) => ReactNode,
    look: ColumnLook = {},
    head: ReactNode = title,
  ) =>
    column.display({
      id: title,
      header: () => (look.isUntitled ? <span className="sr-only">{title}</span> : head),
      cell: ({ row: { original, index } }) => draw(original, index),
      meta: look,
    });
}

interface PlainTableProps<Row extends RowData> {
  /** What the table is, for those who do not see it. */
  label: string;
  columns: PlainColumns<Row>;
  rows: readonly Row[];
  rowId(row: Row, place: number): string;
  /** Attributes of a row's line. */
  rowProps?(
    row: Row,
    place: number,
  ): HTMLAttributes<HTMLTableRowElement> & Record<`data-${string}`, string | undefined>;
  /** Rows stand under heads of their own: what stands above a row, null for nothing; they come in order. */
  groupOf?(row: Row): string | null;
  /** Its rows say by themselves what they hold; its heads are for those who do not see it. */
  isHeadless?: boolean;
  /** What stands in it while it has no rows. */
  empty?: ReactNode;
  /** What stands in its last line, below all columns. */
  last?: ReactNode;
  className?: string;
}

/** A table that is only read, drawn wherever its screen is: on the server it brings nothing into the browser. */
export function PlainTable<Row extends RowData>({
  label,
  columns,
  rows,
  rowId,
  rowProps,
  groupOf,
  isHeadless = false,
  empty,
  last,
  className = '',
}: PlainTableProps<Row>) {
  const table = constructTable({ features: plain, columns, data: rows, getRowId: rowId });
  const lines = table.getCoreRowModel().rows;
  const groups = groupOf ? lines.map(({ original }) => groupOf(original)) : [];
  const width = columns.length;
  return (
    <table aria-label={label} className={`w-full border-collapse [&_:is(td,th)+:is(td,th)]:pl-3 ${className}`}>
      <thead className={isHeadless ? 'sr-only' : ''}>
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id} className="small border-b border-rule text-left align-bottom">
            {group.headers.map((header) => {
              const look = header.column.columnDef.meta;
              return (
                <th
                  key={header.id}
                  scope="col"
                  style={{ width: look?.width }}
                  className={`py-1 ${look?.isNumber ? 'text-right' : ''} ${look?.className ?? ''}`}
                >
                  <Drawn draw={header.column.columnDef.header} given={header.getContext()} />
                </th>
              );
            })}
          </tr>
        ))}
      </thead>
      <tbody>
        {lines.map((line, n) => {
          const { className: own = '', ...props } = rowProps?.(line.original, n) ?? {};
          return (
            <Fragment key={line.id}>
              {groups[n] && groups[n] !== groups[n - 1] && (
                <tr>
                  <th scope="rowgroup" colSpan={width} className="border-b border-ink pt-4 text-left font-semibold">
                    {groups[n]}
                  </th>
                </tr>
              )}
              <tr {...props} className={`border-b border-faint align-top ${own}`}>
                {line.getAllCells().map((cell) => (
                  <Place key={cell.id} look={cell.column.columnDef.meta} edges="py-1">
                    <Drawn draw={cell.column.columnDef.cell} given={cell.getContext()} />
                  </Place>
                ))}
              </tr>
            </Fragment>
          );
        })}
        {lines.length === 0 && empty !== undefined && (
          <tr className="border-b border-faint">
            <td colSpan={width} className="small py-1">
              {empty}
            </td>
          </tr>
        )}
      </tbody>
      {columns.some(({ footer }) => footer !== undefined) && (
        <tfoot>
          {table.getFooterGroups().map((group) => (
            <tr key={group.id} className="border-t-2 border-ink font-semibold">
              {group.headers.map((footer) => (
                <Place key={footer.id} look={{ ...footer.column.columnDef.meta, isHead: false }} edges="py-1">
                  <Drawn draw={footer.column.columnDef.footer} given={footer.getContext()} />
                </Place>
              ))}
            </tr>
          ))}
        </tfoot>
      )}
      {last !== undefined && (
        <tfoot>
          <tr>
            <td colSpan={width} className="small py-1">
              {last}
            </td>
          </tr>
        </tfoot>
      )}
    </table>
  );
}
