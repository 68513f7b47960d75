'use client';

import { type RefObject, useMemo, useRef } from 'react';
import type { DomainView } from '../../core/pool/domain-view';

export interface Anchor {
  /** Id of the row that is to stay where it is; null: none is loaded there. */
  of(): number | null;
  /** The row stands at another place now. */
  moved(index: number): void;
}

interface Anchored {
  anchor: Anchor;
  hovered: RefObject<number | null>;
  cursorAt: RefObject<number>;
  rowAt: RefObject<((index: number) => DomainView | undefined) | null>;
  scrollBy: RefObject<((rows: number) => void) | null>;
}

/** What lies under the pointer, or under the cursor, stays where it is when rows come in above it. */
export function useAnchor(setCursor: (change: (before: number) => number) => void): Anchored {
  const hovered = useRef<number | null>(null);
  const cursorAt = useRef(0);
  const rowAt = useRef<((index: number) => DomainView | undefined) | null>(null);
  const scrollBy = useRef<((rows: number) => void) | null>(null);
  const anchor = useMemo(() => {
    let held: { id: number; at: number } | null = null;
    return {
      of: () => {
        const at = hovered.current ?? cursorAt.current;
        const row = rowAt.current?.(at);
        held = row ? { id: row.id, at } : null;
        return held?.id ?? null;
      },
      moved: (index: number) => {
        if (!held || index === held.at) return;
        scrollBy.current?.(index - held.at);
        if (hovered.current !== null) hovered.current += index - held.at;
        setCursor((before) => (held && before === held.at ? index : before));
      },
    };
  }, [setCursor]);
  return { anchor, hovered, cursorAt, rowAt, scrollBy };
}
