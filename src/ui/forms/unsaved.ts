'use client';

import { useEffect, useId, useState } from 'react';

/** Forms in which something is typed that is not kept yet. */
const typed = new Set<string>();

/** Tells of a form whether something in it would be lost by leaving. */
export function useUnsaved(isUnsaved: boolean): void {
  const id = useId();
  useEffect(() => {
    if (!isUnsaved) return;
    typed.add(id);
    return () => void typed.delete(id);
  }, [id, isUnsaved]);
}

/** What was typed may be lost: somebody said so. */
export const forgetUnsaved = (): void => typed.clear();

/** The same-origin page that a press on a link would lead to in this tab; null: it stays, or opens elsewhere. */
function leadsTo(event: MouseEvent): string | null {
  if (event.defaultPrevented || event.button !== 0 || event.ctrlKey || event.metaKey || event.shiftKey || event.altKey)
    return null;
  const link = (event.target as Element).closest?.('a[href]');
  if (!(link instanceof HTMLAnchorElement) || link.target === '_blank' || link.hasAttribute('download')) return null;
  const to = new URL(link.href);
  if (to.origin !== window.location.origin || to.pathname.startsWith('/api/')) return null;
  return to.pathname === window.location.pathname && to.search === window.location.search ? null : to.href;
}

/**
 * Holds up what would lose something that was typed: the browser asks when the tab is closed or loaded anew; links of ours wait.
 *
 * @returns where a link leads that waits for an answer, and what to do with it.
 */
export function useHeldUp(): { to: string | null; stay(): void } {
  const [to, setTo] = useState<string | null>(null);
  useEffect(() => {
    const onPress = (event: MouseEvent) => {
      const next = typed.size > 0 ? leadsTo(event) : null;
      if (next === null) return;
      event.preventDefault();
      event.stopPropagation();
      setTo(next);
    };
    const onClose = (event: BeforeUnloadEvent) => {
      if (typed.size > 0) event.preventDefault();
    };
    // before the router hears of it
    document.addEventListener('click', onPress, true);
    window.addEventListener('beforeunload', onClose);
    return () => {
      document.removeEventListener('click', onPress, true);
      window.removeEventListener('beforeunload', onClose);
    };
  }, []);
  return { to, stay: () => setTo(null) };
}
