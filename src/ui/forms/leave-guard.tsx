'use client';

import { useRouter } from 'next/navigation';
import { AlertDialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { forgetUnsaved, isAnyUnsaved } from './unsaved';

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

/** Asks before what was typed is lost: by a link, by closing the tab, or by a reload. Stands once, around all screens, while there is something to lose. */
export default function LeaveGuard() {
  const router = useRouter();
  const [to, setTo] = useState<string | null>(null);
  useEffect(() => {
    const onPress = (event: MouseEvent) => {
      const next = isAnyUnsaved() ? leadsTo(event) : null;
      if (next === null) return;
      event.preventDefault();
      event.stopPropagation();
      setTo(next);
    };
    const onClose = (event: BeforeUnloadEvent) => {
      if (isAnyUnsaved()) event.preventDefault();
    };
    // before the router hears of it
    document.addEventListener('click', onPress, true);
    window.addEventListener('beforeunload', onClose);
    return () => {
      document.removeEventListener('click', onPress, true);
      window.removeEventListener('beforeunload', onClose);
    };
  }, []);
  return (
    <AlertDialog.Root open={to !== null} onOpenChange={(isOpen) => !isOpen && setTo(null)}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <AlertDialog.Content className="fixed top-1/3 left-1/2 z-50 w-[400px] max-w-[calc(100vw-16px)] -translate-x-1/2 rounded-lg border border-rule bg-sheet p-5 shadow-xl">
          <AlertDialog.Title className="font-serif text-title font-semibold">
            What you typed is not kept
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-1">
            It is lost when you go on. Stay to save it or to send it off.
          </AlertDialog.Description>
          <div className="mt-4 flex gap-2">
            <AlertDialog.Cancel className="press">Stay</AlertDialog.Cancel>
            <AlertDialog.Action
              className="quiet"
              onClick={() => {
                if (to !== null) router.push(to);
                forgetUnsaved();
              }}
            >
              Go on without it
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
