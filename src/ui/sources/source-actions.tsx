'use client';

import { useRouter } from 'next/navigation';
import { AlertDialog } from 'radix-ui';
import { toast } from 'sonner';
import { call } from '../api';

/** A thing that can be done with a source, by one call; the page shows the job that it starts. */
export function SourceAction({ label, path, body }: { label: string; path: string; body?: unknown }) {
  const router = useRouter();
  return (
    <button
      type="button"
      className="quiet"
      onClick={async () => {
        try {
          await call(path, { method: 'POST', body });
          router.refresh();
        } catch (error) {
          toast((error as Error).message);
        }
      }}
    >
      {label}
    </button>
  );
}

/** Takes back what a source brought, once it was said what that does. */
export function UndoSource({ source }: { source: { id: number; name: string } }) {
  const router = useRouter();
  const undo = async () => {
    try {
      await call(`/sources/${source.id}/undo`, { method: 'POST' });
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger className="quiet">Take it back</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <AlertDialog.Content className="fixed top-1/4 left-1/2 z-50 w-[460px] -translate-x-1/2 rounded border border-rule bg-sheet p-5 shadow-lg">
          <AlertDialog.Title className="font-serif text-title font-semibold">Undo {source.name}?</AlertDialog.Title>
          <AlertDialog.Description className="my-3">
            What it named, said, offered and linked is taken back. Names that nobody else named leave the pool, but for
            those on a shortlist. What servers answered about them is kept.
          </AlertDialog.Description>
          <div className="flex gap-2">
            <AlertDialog.Action className="press" onClick={() => void undo()}>
              Undo it
            </AlertDialog.Action>
            <AlertDialog.Cancel className="quiet">Leave it</AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
