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
import { sortableKeyboardCoordinates } from '@dnd-kit/sortable';
import {
  type KeyboardEvent,
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
import { type KeyOf, pressed } from '../shell/key-list';
import { useNow } from '../shell/live';
import { DEFAULT_COLUMNS, FEW_COLUMNS, shownColumns } from './columns';
import { DENSITIES, type Density } from './density';
import { columnSetOf, HEAD_PX, Head } from './grid-head';
import { fitted, type Layout, layoutOf } from './grid-layout';
import { GridRow } from './grid-rows';
import { areaHeight, scrollFor, visibleWindow } from './scroll';
import { isSelected, type Selection } from './selection';
import type { PoolState } from './use-pool';

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

/** Below this there is room for a few columns. */
const FEW_PX = 600;

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
  const shown = shownColumns(columns ?? (width < FEW_PX ? FEW_COLUMNS : null));
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
    const moves: Partial<Record<KeyOf<'pool'>, number>> = {
      next: cursor + 1,
      previous: cursor - 1,
      pageDown: cursor + page,
      pageUp: cursor - page,
      first: 0,
      last: pool.total - 1,
    };
    if (event.target !== event.currentTarget && (event.target as HTMLElement).closest('[role=columnheader]')) return;
    if (onKey(event)) {
      event.preventDefault();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const row = pool.rowAt(cursor);
    const key = pressed('pool', event);
    const to = key === null ? undefined : moves[key];
    if (to !== undefined) {
      const next = Math.max(0, Math.min(pool.total - 1, to));
      if (event.shiftKey) onSelect(next, 'range');
      onCursor(next);
    } else if (key === 'open' && row) onOpen(row);
    else if (key === 'select' && row) onSelect(cursor, 'one');
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
    <DndContext
      id="columns"
      sensors={sensors}
      collisionDetection={closestCenter}
      autoScroll={ONLY_AT_THE_EDGE}
      onDragEnd={dropped}
    >
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

/** A column that is dragged scrolls the others only where it is at the edge: the last one in sight can be dropped on. */
const ONLY_AT_THE_EDGE = { threshold: { x: 0.03, y: 0 } };

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
