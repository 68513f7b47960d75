'use client';

import { useEffect, useId, useSyncExternalStore } from 'react';

/** Forms in which something is typed that is not kept yet. */
const typed = new Set<string>();
const listeners = new Set<() => void>();
const tell = () => {
  for (const listener of listeners) listener();
};

/** Tells of a form whether something in it would be lost by leaving. */
export function useUnsaved(isUnsaved: boolean): void {
  const id = useId();
  useEffect(() => {
    if (!isUnsaved) return;
    typed.add(id);
    tell();
    return () => {
      typed.delete(id);
      tell();
    };
  }, [id, isUnsaved]);
}

export const isAnyUnsaved = (): boolean => typed.size > 0;

/** What was typed may be lost: somebody said so. */
export function forgetUnsaved(): void {
  typed.clear();
  tell();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** Whether leaving would lose something. */
export const useAnyUnsaved = (): boolean => useSyncExternalStore(subscribe, isAnyUnsaved, () => false);
