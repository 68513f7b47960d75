import type { CSSProperties } from 'react';
import type { Column } from './columns';
import { TICK_PX } from './grid-sizes';

export interface Layout {
  template: string;
  width: number;
  /** Wider than there is room for. */
  isPanned: boolean;
  cells: { column: Column; width: number; style: CSSProperties; isPinned: boolean; isLastPinned: boolean }[];
}

/** Widths of the columns: where the person set none, the domain takes what is left. */
export function fitted(shown: { column: Column; width: number }[], room: number, isFree: boolean): number[] {
  const widths = shown.map(({ width }) => width);
  const rest = room - TICK_PX - 12 - widths.reduce((sum, width) => sum + width, 0);
  const domain = shown.findIndex(({ column }) => column.id === 'domain');
  if (domain >= 0 && (rest > 0 || isFree)) widths[domain] = Math.max(170, widths[domain] + rest);
  return widths;
}

export function layoutOf(shown: { column: Column }[], widths: number[], pinned: number, room: number): Layout {
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
