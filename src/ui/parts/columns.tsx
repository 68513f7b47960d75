import {
  type ColumnDef,
  columnVisibilityFeature,
  createColumnHelper,
  createSortedRowModel,
  metaHelper,
  type RowData,
  rowExpandingFeature,
  rowSelectionFeature,
  rowSortingFeature,
  sortFn_alphanumeric,
  sortFn_basic,
  tableFeatures,
} from '@tanstack/react-table';
import type { ReactNode } from 'react';

/** How a column looks. */
export interface ColumnLook {
  /** Figures stand at the right. */
  isNumber?: boolean;
  /** The cell that names its row. */
  isHead?: boolean;
  /** Of its cells and its head. */
  className?: string;
  /** What the column shows, where its title does not say it whole. */
  about?: string;
  /** Its part of the table's width. */
  width?: string;
  /** Its title is for those who do not see it. */
  isUntitled?: boolean;
}

export const features = tableFeatures({
  rowSortingFeature,
  rowSelectionFeature,
  rowExpandingFeature,
  columnVisibilityFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, basic: sortFn_basic },
  columnMeta: metaHelper<ColumnLook>(),
});
export type Features = typeof features;

// biome-ignore lint/suspicious/noExplicitAny: columns of one table hold values of different types
export type Columns<Row extends RowData> = ColumnDef<Features, Row, any>[];

/** What columns of rows of one type are made with; on the server as in the browser. */
export const columnsFor = <Row extends RowData>() => createColumnHelper<Features, Row>();

/**
 * What a column puts in a place. It is called, not drawn as a component of its own: screens make their columns anew with each figure
 * and each minute, and a field in a cell keeps what is typed into it and its focus.
 */
export function Drawn<Given>({ draw, given }: { draw: ReactNode | ((given: Given) => ReactNode); given: Given }) {
  return typeof draw === 'function' ? draw(given) : draw;
}

/** One place of a row: a cell, or the head of its row. */
export function Place({
  look,
  edges,
  children,
}: {
  look: ColumnLook | undefined;
  /** Classes for what stands around it. */
  edges: string;
  children: ReactNode;
}) {
  const className = `${edges} ${look?.isNumber ? 'text-right' : 'text-left'} ${look?.className ?? ''}`;
  return look?.isHead ? (
    <th scope="row" className={className}>
      {children}
    </th>
  ) : (
    <td className={className}>{children}</td>
  );
}
