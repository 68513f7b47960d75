'use client';

import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import {
  horizontalListSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable';
import {
  type CSSProperties,
  type KeyboardEvent,
  memo,
  type PointerEvent,
  type RefObject,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import type { ColumnSet, Sort } from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import type { FactName } from '../../core/pool/facts';
import { useNow } from '../shell/live';
import { type Column, DEFAULT_COLUMNS, shownColumns } from './columns';
import { DENSITIES, type Density } from './density';
import { areaHeight, scrollFor, visibleWindow } from './scroll';
import { isSelected, type Selection } from './selection';
import type { PoolState } from './use-pool';

/** Height of the column heads, which stay on top. */
const HEAD_PX = 40;
const TICK_PX = 28;
/** The frame of the rows is set anew after so many. */
const STEADY_ROWS = 64;

interface GridProps {
  pool: PoolState;
  sorts: Sort[];
  columns: ColumnSet | null;
  density: Density;
  cursor: number;
  selection: Selection;
  /** Where the pointer or the cursor is: this row must stay where it is. */
  onHover(index: number | null): void;
  onCursor(index: number): void;
  onSort(fact: FactName, isAdded: boolean): void;
  onColumns(columns: ColumnSet): void;
  onSelect(index: number, how: 'one' | 'range'): void;
  onOpen(row: DomainView): void;
  /** Keys the grid does not know itself. @returns whether it was one. */
  onKey(event: KeyboardEvent): boolean;
  /** Told once how to scroll so that a row stands where another stood. */
  scrollBy: { current: ((rows: number) => void) | null };
}

/** All rows of a view. Only the visible ones exist; the scroll bar reaches to the very last. */
export function Grid(props: GridProps) {
  const { pool, sorts, columns, density, cursor, selection, scrollBy } = props;
  const { onHover, onCursor, onSort, onColumns, onSelect, onOpen, onKey } = props;
  const rowPx = DENSITIES[density];
  const scroller = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(640);
  const [width, setWidth] = useState(980);
  /** The rows are drawn by the server; keys are heard once the script runs. */
  const [isReady, setReady] = useState(false);
  useEffect(() => setReady(true), []);
  /** Room above the first row, where rows went away above the pointer and there is nothing to scroll. Gone when it leaves. */
  const [slack, setSlack] = useState(0);
  const shown = shownColumns(columns);
  const pinned = Math.min(columns?.pinned ?? DEFAULT_COLUMNS.pinned, shown.length);
  const widths = fitted(shown, width, columns === null || columns.shown.every((entry) => entry.width === null));
  const wide = widths.join(' ');
  const ids = shown.map(({ column }) => column.id).join(' ');
  // the same object as long as it means the same: rows are drawn anew when it changes
  // biome-ignore lint/correctness/useExhaustiveDependencies: widths and columns are in their texts
  const layout = useMemo(() => layoutOf(shown, widths, pinned, width), [wide, ids, pinned, width]);
  const latest = useRef({ onSelect, onSort, onColumns });
  latest.current = { onSelect, onSort, onColumns };
  const select = useCallback((index: number, how: 'one' | 'range') => latest.current.onSelect(index, how), []);
  const sort = useCallback((fact: FactName, isAdded: boolean) => latest.current.onSort(fact, isAdded), []);
  const arrange = useCallback((set: ColumnSet) => latest.current.onColumns(set), []);

  useLayoutEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const watch = new ResizeObserver(() => {
      setHeight(element.clientHeight - HEAD_PX);
      setWidth(element.clientWidth);
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  scrollBy.current = (rows) => {
    const element = scroller.current;
    if (!element) return;
    const top = element.scrollTop + rows * rowPx - slack;
    element.scrollTop = Math.max(0, top);
    setSlack(Math.max(0, -top));
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: only a move of the cursor scrolls
  useEffect(() => {
    const element = scroller.current;
    if (element)
      element.scrollTop = scrollFor(cursor, element.scrollTop, element.clientHeight - HEAD_PX, pool.total, rowPx);
  }, [cursor]);

  const byKey = (event: KeyboardEvent) => {
    const page = Math.max(1, Math.floor(height / rowPx) - 1);
    const moves: Record<string, number> = {
      ArrowDown: cursor + 1,
      j: cursor + 1,
      J: cursor + 1,
      ArrowUp: cursor - 1,
      k: cursor - 1,
      K: cursor - 1,
      PageDown: cursor + page,
      PageUp: cursor - page,
      Home: 0,
      End: pool.total - 1,
    };
    if (event.target !== event.currentTarget && (event.target as HTMLElement).closest('[role=columnheader]')) return;
    if (onKey(event)) {
      event.preventDefault();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const row = pool.rowAt(cursor);
    if (event.key in moves) {
      const next = Math.max(0, Math.min(pool.total - 1, moves[event.key]));
      if (event.shiftKey) onSelect(next, 'range');
      onCursor(next);
    } else if (event.key === 'Enter' && row) onOpen(row);
    else if ((event.key === 'x' || event.key === ' ') && row) onSelect(cursor, 'one');
    else return;
    event.preventDefault();
  };

  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const dropped = ({ active, over }: DragEndEvent) => {
    const ids = layout.cells.map(({ column }) => column.id);
    const from = ids.indexOf(String(active.id));
    const to = over ? ids.indexOf(String(over.id)) : -1;
    if (from < 0 || to < 0 || from === to) return;
    const next = columnSetOf(layout, columns, pinned);
    next.shown.splice(to, 0, ...next.shown.splice(from, 1));
    onColumns(next);
  };
  return (
    <DndContext id="columns" sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
      <div
        ref={scroller}
        role="grid"
        id="grid"
        tabIndex={0}
        onScroll={(event) => {
          if (event.currentTarget.scrollTop > 0) setSlack(0);
        }}
        onMouseLeave={() => {
          onHover(null);
          setSlack(0);
        }}
        aria-activedescendant={pool.rowAt(cursor) ? `row-${cursor}` : undefined}
        onKeyDown={byKey}
        aria-label="Domains"
        aria-multiselectable
        aria-busy={!isReady || pool.isLoading}
        aria-rowcount={pool.total + 1}
        aria-colcount={shown.length + 1}
        className="relative min-h-0 flex-1 overflow-auto bg-sheet outline-offset-[-2px]"
        style={{ overflowAnchor: 'none' }}
      >
        <Head layout={layout} sorts={sorts} columns={columns} pinned={pinned} onSort={sort} onColumns={arrange} />
        <Body
          scroller={scroller}
          pool={pool}
          height={height}
          rowPx={rowPx}
          slack={slack}
          layout={layout}
          cursor={cursor}
          selection={selection}
          onCursor={onCursor}
          onSelect={select}
          onHover={onHover}
        />
      </div>
    </DndContext>
  );
}

interface BodyProps extends Pick<GridProps, 'pool' | 'cursor' | 'selection' | 'onCursor' | 'onSelect' | 'onHover'> {
  scroller: RefObject<HTMLDivElement | null>;
  height: number;
  rowPx: number;
  slack: number;
  layout: Layout;
}

/** The visible rows: all that is drawn anew while the grid scrolls. */
function Body({ scroller, pool, height, rowPx, slack, layout, cursor, selection, ...acts }: BodyProps) {
  const now = useNow();
  const [scroll, setScroll] = useState(0);
  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const follow = () => setScroll(element.scrollTop);
    element.addEventListener('scroll', follow, { passive: true });
    return () => element.removeEventListener('scroll', follow);
  }, [scroller]);
  const { start, end, shiftPx } = visibleWindow(scroll, height, pool.total, rowPx);
  const { ensure } = pool;
  useEffect(() => ensure(start, end), [ensure, start, end]);
  /** Rows stand where they are while others come in; only their frame moves with every frame of a scroll. */
  const base = start - (start % STEADY_ROWS);
  const rows = Array.from({ length: Math.max(0, end - start) }, (_, i) => start + i);
  return (
    <div role="rowgroup" style={{ height: areaHeight(pool.total, rowPx), width: layout.width }}>
      <div role="presentation" className="sticky h-0" style={{ top: HEAD_PX, width: layout.width }}>
        <div role="presentation" style={{ transform: `translateY(${slack + shiftPx - (start - base) * rowPx}px)` }}>
          {rows.map((index) => {
            const row = pool.rowAt(index);
            return (
              <GridRow
                // elements are used again for the rows that come in: changing their text is cheaper than making them
                key={index % STEADY_ROWS}
                index={index}
                top={(index - base) * rowPx}
                rowPx={rowPx}
                row={row}
                now={now}
                layout={layout}
                isCurrent={index === cursor}
                isSelected={row !== undefined && isSelected(selection, row.id)}
                {...acts}
              />
            );
          })}
        </div>
      </div>
    </div>
  );
}

interface Layout {
  template: string;
  width: number;
  /** Wider than there is room for. */
  isPanned: boolean;
  cells: { column: Column; width: number; style: CSSProperties; isPinned: boolean; isLastPinned: boolean }[];
}

/** Widths of the columns: where the person set none, the domain takes what is left. */
function fitted(shown: { column: Column; width: number }[], room: number, isFree: boolean): number[] {
  const widths = shown.map(({ width }) => width);
  const rest = room - TICK_PX - 12 - widths.reduce((sum, width) => sum + width, 0);
  const domain = shown.findIndex(({ column }) => column.id === 'domain');
  if (domain >= 0 && (rest > 0 || isFree)) widths[domain] = Math.max(170, widths[domain] + rest);
  return widths;
}

function layoutOf(shown: { column: Column }[], widths: number[], pinned: number, room: number): Layout {
  // where everything has room nothing is pinned: a cell that sticks costs with every frame
  const isPanned = TICK_PX + 12 + widths.reduce((sum, width) => sum + width, 0) > room;
  let left = TICK_PX;
  const cells = shown.map(({ column }, i) => {
    const isPinned = i < pinned;
    const style: CSSProperties = isPinned && isPanned ? { position: 'sticky', left, zIndex: 1 } : {};
    left += widths[i];
    return { column, width: widths[i], style, isPinned, isLastPinned: i === pinned - 1 };
  });
  return {
    template: `${TICK_PX}px ${widths.map((width) => `${width}px`).join(' ')}`,
    width: left + 12,
    isPanned,
    cells,
  };
}

interface HeadProps {
  layout: Layout;
  sorts: Sort[];
  columns: ColumnSet | null;
  pinned: number;
  onSort(fact: FactName, isAdded: boolean): void;
  onColumns(columns: ColumnSet): void;
}

/** The column heads: click sorts, Shift adds an order, dragging moves, the edge sizes, the line pins. */
const Head = memo(function Head({ layout, sorts, columns, pinned, onSort, onColumns }: HeadProps) {
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
function columnSetOf(layout: Layout, columns: ColumnSet | null, pinned: number): ColumnSet {
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
        className="cursor-grab"
      >
        {column.sorts.length === 0 && column.title}
        {column.sorts.map(({ fact, label }) => {
          const place = sorts.findIndex((sort) => sort.fact === fact);
          return (
            <button
              key={fact}
              type="button"
              title="click to sort; with Shift also by this; drag to move the column"
              className={`mr-1 last:mr-0 ${column.numeric ? 'text-right' : 'text-left'} ${place >= 0 ? 'font-semibold text-ink' : 'hover:text-ink'}`}
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

interface RowProps {
  index: number;
  top: number;
  rowPx: number;
  row: DomainView | undefined;
  now: number;
  layout: Layout;
  isCurrent: boolean;
  isSelected: boolean;
  onCursor(index: number): void;
  onSelect(index: number, how: 'one' | 'range'): void;
  onHover(index: number | null): void;
}

const GridRow = memo(function GridRow({
  index,
  top,
  rowPx,
  row,
  now,
  layout,
  isCurrent,
  isSelected: isChosen,
  onCursor,
  onSelect,
  onHover,
}: RowProps) {
  const ground = isCurrent ? 'bg-damson-soft' : 'bg-sheet';
  const style = {
    gridTemplateColumns: layout.template,
    transform: `translateY(${top}px)`,
    height: rowPx,
    width: layout.width,
  };
  if (!row)
    return (
      <div
        role="row"
        aria-rowindex={index + 2}
        className={`absolute top-0 left-0 grid items-center border-b border-faint ${ground}`}
        style={style}
      >
        <span role="gridcell" className="col-span-2 small pl-8">
          …
        </span>
      </div>
    );
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the grid's keys do the same
    <div
      role="row"
      id={`row-${index}`}
      aria-rowindex={index + 2}
      aria-selected={isChosen}
      data-domain={row.name}
      className={`absolute top-0 left-0 grid items-center whitespace-nowrap border-b border-faint ${ground} ${isCurrent ? 'shadow-[inset_3px_0_var(--damson)]' : ''}`}
      style={style}
      onMouseEnter={() => onHover(index)}
      onClick={(event) => {
        if (event.shiftKey) onSelect(index, 'range');
        else if (event.ctrlKey || event.metaKey) onSelect(index, 'one');
        onCursor(index);
      }}
    >
      <span
        role="gridcell"
        className={`${layout.isPanned ? 'sticky left-0 z-[1]' : ''} flex h-full items-center ${ground} ${isCurrent ? 'shadow-[inset_3px_0_var(--damson)]' : ''}`}
      >
        <input
          type="checkbox"
          className="ml-2 block"
          aria-label={`Select ${row.display}`}
          tabIndex={-1}
          checked={isChosen}
          onChange={() => undefined}
          onClick={(event) => {
            event.stopPropagation();
            onSelect(index, event.shiftKey ? 'range' : 'one');
            onCursor(index);
          }}
        />
      </span>
      <RowCells row={row} now={now} layout={layout} ground={ground} />
    </div>
  );
});

/** Drawn anew only when its row has changed: a page of figures is most of what a scroll costs. */
const RowCells = memo(
  function RowCells({ row, now, layout, ground }: { row: DomainView; now: number; layout: Layout; ground: string }) {
    return layout.cells.map(({ column, width, style, isPinned, isLastPinned }) => (
      <span
        key={column.id}
        role="gridcell"
        data-cell={column.id}
        title={column.origin(row, now) || undefined}
        className={`overflow-hidden text-ellipsis px-1.5 ${column.numeric ? 'text-right' : ''} ${isPinned ? `flex h-full items-center ${ground}` : ''} ${isLastPinned ? 'border-r border-faint' : ''}`}
        style={style}
      >
        {isPinned ? (
          <span className="block min-w-0 overflow-hidden text-ellipsis">{column.cell(row, now, width)}</span>
        ) : (
          column.cell(row, now, width)
        )}
      </span>
    ));
  },
  (before, after) =>
    before.row === after.row &&
    before.now === after.now &&
    before.ground === after.ground &&
    before.layout.template === after.layout.template &&
    before.layout.isPanned === after.layout.isPanned &&
    before.layout.cells.every(
      (cell, i) => cell.column === after.layout.cells[i]?.column && cell.isPinned === after.layout.cells[i]?.isPinned,
    ),
);
