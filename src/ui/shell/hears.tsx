'use client';

import { useLayoutEffect, useRef, useState } from 'react';

/**
 * Hears keys for a screen, wherever the focus is. What it does is always that of the last drawing: a key that comes at once after
 * another finds what the first has changed. What the server drew is marked as not hearing yet.
 *
 * @param isFirst hears before all others, which it can keep from hearing.
 */
export function Hears({ onKey, isFirst = false }: { onKey(event: KeyboardEvent): void; isFirst?: boolean }) {
  const latest = useRef(onKey);
  const [isHearing, setHearing] = useState(false);
  useLayoutEffect(() => {
    latest.current = onKey;
  });
  useLayoutEffect(() => {
    const hear = (event: KeyboardEvent) => latest.current(event);
    window.addEventListener('keydown', hear, isFirst);
    setHearing(true);
    return () => window.removeEventListener('keydown', hear, isFirst);
  }, [isFirst]);
  return <span hidden data-keys={isHearing ? 'heard' : 'unheard'} />;
}
