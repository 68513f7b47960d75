import { useEffect, useLayoutEffect, useRef } from 'react';
import { recall, remember } from '../recall';

interface Place {
  /** Of the view, as it stands in the address. */
  address: string;
  cursor: number;
  top: number;
}

const KEY = 'place in the pool';
const isPlace = (value: unknown): value is Place =>
  typeof value === 'object' && value !== null && 'address' in value && 'cursor' in value && 'top' in value;

const grid = () => document.getElementById('grid');

/** Comes back to the row and the scroll at which a view was left, and hears its keys there. */
export function usePlace(address: string, cursor: number, moveTo: (cursor: number) => void): void {
  const latest = useRef({ address, cursor });
  latest.current = { address, cursor };
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the screen comes
  useEffect(() => {
    const place = recall(KEY, isPlace);
    const element = grid();
    if (place?.address !== address || !element || (place.cursor === 0 && place.top === 0)) return;
    element.scrollTop = place.top;
    moveTo(place.cursor);
    element.focus({ preventScroll: true });
  }, []);
  // before the rows are gone, their scroll is still known
  useLayoutEffect(() => {
    const keep = () => remember(KEY, { ...latest.current, top: grid()?.scrollTop ?? 0 });
    window.addEventListener('pagehide', keep);
    return () => {
      window.removeEventListener('pagehide', keep);
      keep();
    };
  }, []);
}
