import { memo } from 'react';
import type { DomainView } from '../../core/pool/domain-view';
import type { Layout } from './grid-layout';

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

export const GridRow = memo(function GridRow({
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
