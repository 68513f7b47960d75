'use client';

import { useEffect, useId } from 'react';

/** Forms in which something is typed that is not kept yet. */
export const typed = new Set<string>();

/** Tells of a form whether something in it would be lost by leaving. */
export function useUnsaved(isUnsaved: boolean): void {
  const id = useId();
  useEffect(() => {
    if (!isUnsaved) return;
    typed.add(id);
    return () => void typed.delete(id);
  }, [id, isUnsaved]);
}
