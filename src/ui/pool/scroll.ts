/** Browsers refuse elements much taller than this. */
export const TALLEST_PX = 12_000_000;

export interface Window {
  /** First row drawn, and one past the last. */
  start: number;
  end: number;
  /** Where the first drawn row stands, from the top of what is visible. */
  shiftPx: number;
}

/** Height of the scrolled area: that of all rows, or as tall as a browser bears. */
export function areaHeight(rows: number, rowPx: number): number {
  return Math.min(rows * rowPx, TALLEST_PX);
}

/**
 * Which rows are visible. Under TALLEST_PX the scroll position is the row position; above, the position is scaled, so
 * that the ends of the bar are the first and the very last row.
 */
export function visibleWindow(scrollPx: number, viewPx: number, rows: number, rowPx: number): Window {
  const full = rows * rowPx;
  const area = areaHeight(rows, rowPx);
  const reach = Math.max(1, area - viewPx);
  const top = full <= area ? scrollPx : (Math.min(reach, scrollPx) / reach) * (full - viewPx);
  const start = Math.max(0, Math.floor(top / rowPx));
  const end = Math.min(rows, Math.ceil((top + viewPx) / rowPx) + 1);
  return { start, end, shiftPx: start * rowPx - top };
}

/** Scroll position that brings a row into view with the least movement; the given one when it is visible already. */
export function scrollFor(row: number, scrollPx: number, viewPx: number, rows: number, rowPx: number): number {
  const full = rows * rowPx;
  const area = areaHeight(rows, rowPx);
  const scale = full <= area ? 1 : (full - viewPx) / Math.max(1, area - viewPx);
  const top = scrollPx * scale;
  if (row * rowPx < top) return (row * rowPx) / scale;
  if ((row + 1) * rowPx > top + viewPx) return ((row + 1) * rowPx - viewPx) / scale;
  return scrollPx;
}
