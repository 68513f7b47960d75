import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { memo, type PointerEvent, useRef } from 'react';
import type { ColumnSet, Sort } from '../../core/pool/conditions';
import { explain } from '../../core/pool/explain';
import type { FactName } from '../../core/pool/facts';
import { Explained } from '../parts/explained';
import type { Layout } from './grid-layout';
import { TICK_PX } from './grid-sizes';

const HINT = 'Click to sort; with Shift also by this. Drag to move the column.';

/** Height of the column heads, which stay on top. */
/** Two lines of 20 with 4 between them: a finger tells one from the other (WCAG 2.2, 2.5.8). */
export const HEAD_PX = 46;

interface HeadProps {
  layout: Layout;
  sorts: Sort[];
  columns: ColumnSet | null;
  pinned: number;
  onSort(fact: FactName, isAdded: boolean): void;
  onColumns(columns: ColumnSet): void;
}

/** The column heads: click sorts, Shift adds an order, dragging moves, the edge sizes, the line pins. */
export const Head = memo(function Head({ layout, sorts, columns, pinned, onSort, onColumns }: HeadProps) {
  const set = () => columnSetOf(layout, columns, pinned);
  const resize = (id: string, width: number) => {
    const next = set();
    onColumns({
      ...next,
      shown: next.shown.map((entry) =>
        entry.id === id ? { id, width: Math.max(30, Math.min(800, Math.round(width))) } : entry,
      ),
    });
  };
  return (
    <SortableContext items={layout.cells.map(({ column }) => column.id)} strategy={horizontalListSortingStrategy}>
      <div
        role="row"
        aria-rowindex={1}
        className="sticky top-0 z-10 grid items-end border-b border-rule bg-sheet pb-1.5"
        style={{ gridTemplateColumns: layout.template, height: HEAD_PX, width: layout.width }}
      >
        <span role="columnheader" aria-label="Selected" className="sticky left-0 z-[2] bg-sheet" />
        {layout.cells.map((cell, index) => (
          <HeadCell
            key={cell.column.id}
            cell={cell}
            sorts={sorts}
            onSort={onSort}
            onResize={(width) => resize(cell.column.id, width)}
            onPin={
              cell.isLastPinned || (pinned === 0 && index === 0)
                ? (count) => onColumns({ ...set(), pinned: count })
                : undefined
            }
            pinned={pinned}
            edges={layout.cells.map(({ width }) => width)}
          />
        ))}
      </div>
    </SortableContext>
  );
});

/** What is shown now, as a view keeps it. */
export function columnSetOf(layout: Layout, columns: ColumnSet | null, pinned: number): ColumnSet {
  return {
    shown: layout.cells.map(({ column }) => ({
      id: column.id,
      width: columns?.shown.find(({ id }) => id === column.id)?.width ?? null,
    })),
    pinned,
  };
}

function HeadCell({
  cell,
  sorts,
  onSort,
  onResize,
  onPin,
  pinned,
  edges,
}: {
  cell: Layout['cells'][number];
  sorts: Sort[];
  onSort(fact: FactName, isAdded: boolean): void;
  onResize(width: number): void;
  onPin?: (count: number) => void;
  pinned: number;
  edges: number[];
}) {
  const { column, width, style } = cell;
  const { setNodeRef, listeners, attributes, transform, transition, isDragging } = useSortable({ id: column.id });
  const first = sorts[0];
  const isSorted = column.sorts.some(({ fact }) => fact === first?.fact);
  const drag = useRef<{ x: number; width: number } | null>(null);
  const edge = {
    onPointerDown: (event: PointerEvent) => {
      event.stopPropagation();
      event.preventDefault();
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { x: event.clientX, width };
    },
    onPointerMove: (event: PointerEvent) => {
      if (drag.current && event.currentTarget.hasPointerCapture(event.pointerId))
        onResize(drag.current.width + event.clientX - drag.current.x);
    },
    onPointerUp: () => {
      drag.current = null;
    },
  };
  /** Columns whose middle lies left of the pointer are pinned. */
  const pinAt = (clientX: number, row: Element | null) => {
    let left = (row?.getBoundingClientRect().left ?? 0) + TICK_PX;
    let count = 0;
    for (const size of edges) {
      if (clientX < left + size / 2) break;
      left += size;
      count++;
    }
    if (count !== pinned) onPin?.(count);
  };
  return (
    <span
      ref={setNodeRef}
      role="columnheader"
      data-column={column.id}
      aria-sort={isSorted ? (first.descending ? 'descending' : 'ascending') : undefined}
      className={`small relative h-full bg-sheet px-1.5 leading-tight flex flex-col justify-end ${column.numeric ? 'text-right' : ''} ${isDragging ? 'z-20 shadow-lg' : ''}`}
      style={{
        ...style,
        zIndex: isDragging ? 20 : cell.isPinned ? 2 : undefined,
        transform: transform ? `translate3d(${Math.round(transform.x)}px, 0, 0)` : undefined,
        transition,
      }}
    >
      <span
        {...listeners}
        {...attributes}
        role="group"
        tabIndex={-1}
        aria-roledescription={undefined}
        className={`flex cursor-grab flex-wrap gap-x-[3px] gap-y-[4px] whitespace-nowrap pb-px ${column.numeric ? 'justify-end' : ''}`}
      >
        {column.sorts.length === 0 &&
          (column.words ? (
            <Explained words={column.words}>
              <button type="button" className="min-h-[20px]">
                {column.title}
              </button>
            </Explained>
          ) : (
            column.title
          ))}
        {column.sorts.map(({ fact, label }) => {
          const place = sorts.findIndex((sort) => sort.fact === fact);
          return (
            <Explained key={fact} words={explain(fact)} hint={HINT}>
              <button
                type="button"
                className={`min-h-[20px] ${column.numeric ? 'text-right' : 'text-left'} ${place >= 0 ? 'font-semibold text-ink' : 'hover:text-ink'}`}
                onClick={(event) => onSort(fact, event.shiftKey)}
              >
                {label ?? column.title}
                {place >= 0 && (
                  <span aria-hidden="true">
                    {sorts[place].descending ? ' ↓' : ' ↑'}
                    {sorts.length > 1 && <sup>{place + 1}</sup>}
                  </span>
                )}{' '}
              </button>
            </Explained>
          );
        })}
      </span>
      <span
        role="separator"
        aria-orientation="vertical"
        aria-label={`Width of ${column.title}`}
        aria-valuenow={Math.round(width)}
        aria-valuemin={30}
        aria-valuemax={800}
        tabIndex={0}
        className="absolute inset-y-1 -right-1 z-10 w-2 cursor-col-resize border-r border-transparent hover:border-muted focus-visible:border-damson"
        {...edge}
        onKeyDown={(event) => {
          const turn = { ArrowLeft: -8, ArrowRight: 8 }[event.key];
          if (turn === undefined) return;
          event.preventDefault();
          event.stopPropagation();
          onResize(width + turn);
        }}
      />
      {onPin && (
        <span
          role="separator"
          aria-orientation="vertical"
          aria-label="Columns left of this line stay when the others scroll"
          aria-valuenow={pinned}
          aria-valuemin={0}
          aria-valuemax={edges.length}
          tabIndex={0}
          title="drag: columns left of this line stay when the others scroll"
          className={`absolute bottom-0 z-10 h-3 w-1.5 cursor-col-resize rounded-t bg-muted/50 hover:bg-damson focus-visible:bg-damson ${pinned === 0 ? '-left-0.5' : 'right-0.5'}`}
          onPointerDown={(event) => {
            event.stopPropagation();
            event.preventDefault();
            event.currentTarget.setPointerCapture(event.pointerId);
          }}
          onPointerMove={(event) =>
            event.currentTarget.hasPointerCapture(event.pointerId) &&
            pinAt(event.clientX, event.currentTarget.closest('[role=row]'))
          }
          onKeyDown={(event) => {
            const turn = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
            if (turn === undefined) return;
            event.preventDefault();
            event.stopPropagation();
            onPin(Math.max(0, Math.min(edges.length, pinned + turn)));
          }}
        />
      )}
    </span>
  );
}
