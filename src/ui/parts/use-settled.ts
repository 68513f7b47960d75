import { useEffect, useState } from 'react';

/** A value once it has stayed the same for a while: what is asked of the server follows it, and not every letter. */
export function useSettled<T>(value: T, restMs: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), restMs);
    return () => clearTimeout(timer);
  }, [value, restMs]);
  return settled;
}
