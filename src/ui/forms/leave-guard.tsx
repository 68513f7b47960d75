'use client';

import { useRouter } from 'next/navigation';
import { AlertDialog } from 'radix-ui';
import { forgetUnsaved } from './unsaved';

/** Asks before what was typed is lost by following a link. */
export default function LeaveGuard({ to, onStay }: { to: string; onStay(): void }) {
  const router = useRouter();
  return (
    <AlertDialog.Root open onOpenChange={(isOpen) => !isOpen && onStay()}>
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
                forgetUnsaved();
                router.push(to);
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
