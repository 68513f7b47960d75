'use client';

import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { Toaster } from 'sonner';
import type { NewsKind } from '../../core/news/news';
import { BriefContext } from '../decision/brief-context';
import { useHeldUp } from '../forms/unsaved';
import { onOrderAsked } from '../orders/open';
import { ServerState } from '../server-state';
import { Header, PLACES } from './header';
import { Hears } from './hears';
import { pressed } from './key-list';
import { LiveProvider } from './live';
import { Notifications, Reminders } from './reminders';

const LeaveGuard = dynamic(() => import('../forms/leave-guard'), { ssr: false });
const Palette = dynamic(() => import('./palette'), { ssr: false });
const OrderDialog = dynamic(() => import('../orders/order-dialog'), { ssr: false });
const Keys = dynamic(() => import('./keys'), { ssr: false });

/** Whether keys typed now belong to a field or an open dialog. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  if (event.ctrlKey || event.metaKey || event.altKey) return true;
  if (document.querySelector('[role=dialog],[role=menu]')) return true;
  // nothing is typed into these; what they hear themselves stays theirs
  if (target instanceof HTMLInputElement && TICKED.has(target.type)) return event.key === ' ' || event.key === 'Enter';
  return target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);
}
const TICKED = new Set(['file', 'checkbox']);

/**
 * Escape leaves a field, and Enter one of a single line that sends nothing: what is typed stays, and keys are the screen's again.
 *
 * @returns whether a field was left.
 */
function leaveField(event: KeyboardEvent): boolean {
  const field = event.target as HTMLElement;
  if (event.defaultPrevented || event.isComposing || field.closest('[role=dialog],[role=menu],[cmdk-root]'))
    return false;
  const isLine = (field instanceof HTMLInputElement && !TICKED.has(field.type)) || field instanceof HTMLSelectElement;
  const isField = isLine || field instanceof HTMLTextAreaElement;
  if (!isField) return false;
  if (event.key !== 'Escape' && !(event.key === 'Enter' && isLine && !field.closest('form'))) return false;
  field.blur();
  return true;
}

/** What stands around every screen: header, palette, list of keys, messages. */
export function Shell({
  briefs,
  briefId,
  startNow,
  reminderMinutes,
  notifies,
  children,
}: {
  briefs: { id: number; name: string }[];
  briefId: number;
  startNow: number;
  reminderMinutes: number;
  /** Which news the browser shows as they happen. */
  notifies: NewsKind[];
  children: ReactNode;
}) {
  const router = useRouter();
  const [open, setOpen] = useState<'palette' | 'keys' | null>(null);

  const heldUp = useHeldUp();
  const [ordering, setOrdering] = useState<string | null>(null);
  useEffect(() => onOrderAsked(setOrdering), []);
  // what is drawn by the server hears nothing yet
  useEffect(() => {
    document.body.dataset.listens = 'true';
  }, []);

  const leader = useRef(false);
  const onKey = (event: KeyboardEvent) => {
    const key = pressed('everywhere', event);
    if (key === 'palette') {
      event.preventDefault();
      setOpen('palette');
      return;
    }
    if (leaveField(event)) return;
    if (isTyping(event)) return;
    if (leader.current) {
      leader.current = false;
      const place = PLACES.find(({ key }) => key === event.key);
      if (!place) return;
      // the key says where to go, whatever it does on this screen
      event.preventDefault();
      event.stopImmediatePropagation();
      router.push(place.href);
    } else if (key === 'go') {
      leader.current = true;
      setTimeout(() => {
        leader.current = false;
      }, 1500);
    } else if (key === 'list') setOpen('keys');
  };

  return (
    <ServerState>
      <BriefContext value={briefId}>
        <LiveProvider startNow={startNow}>
          <Hears onKey={onKey} isFirst />
          <a
            href="#content"
            className="sr-only focus:not-sr-only focus:fixed focus:top-1 focus:left-1 focus:z-50 focus:bg-damson focus:px-3 focus:py-1.5 focus:text-on-damson"
          >
            Skip to the content
          </a>
          <div className="flex h-screen flex-col print:block print:h-auto">
            <Header briefs={briefs} briefId={briefId} onPalette={() => setOpen('palette')} />
            {/* relative: else what is hidden but read aloud, far down, would make the page itself scroll */}
            <main
              id="content"
              tabIndex={-1}
              className="outline-none relative min-h-0 flex-1 overflow-auto print:overflow-visible"
            >
              {children}
            </main>
          </div>
          {open === 'palette' && <Palette onClose={() => setOpen(null)} />}
          {ordering !== null && <OrderDialog name={ordering} briefId={briefId} onClose={() => setOrdering(null)} />}
          {open === 'keys' && <Keys onClose={() => setOpen(null)} />}
          <Reminders minutes={reminderMinutes} />
          <Notifications kinds={notifies} />
          <Toaster
            expand
            visibleToasts={3}
            duration={8000}
            position="bottom-right"
            toastOptions={{
              unstyled: true,
              classNames: {
                toast: 'flex w-80 items-center gap-3 rounded border border-rule bg-sheet px-4 py-2.5 shadow-lg',
                actionButton: 'quiet ml-auto',
              },
            }}
          />
          {heldUp.to !== null && <LeaveGuard to={heldUp.to} onStay={heldUp.stay} />}
        </LiveProvider>
      </BriefContext>
    </ServerState>
  );
}
