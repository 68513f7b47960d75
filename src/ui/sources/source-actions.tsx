'use client';

import { AlertDialog } from 'radix-ui';
import { toast } from 'sonner';
import { call } from '../api';
import { useRedraw } from '../server-state';

const UNDO = 'Undo import';

/** A thing that can be done with a source, by one call; the page shows the job that it starts. */
function SourceAction({ label, act }: { label: string; act(): Promise<unknown> }) {
  const redraw = useRedraw();
  return (
    <button
      type="button"
      className="quiet"
      onClick={async () => {
        try {
          await act();
          redraw();
        } catch (error) {
          toast((error as Error).message);
        }
      }}
    >
      {label}
    </button>
  );
}

/** Looks at all that a source named. */
export function CheckSource({ id }: { id: number }) {
  return (
    <SourceAction label="Check and measure all of them" act={() => call('POST /checks', { body: { sourceId: id } })} />
  );
}

export function RefreshSource({ id }: { id: number }) {
  return <SourceAction label="Read it again now" act={() => call('POST /sources/{id}/refresh', { params: { id } })} />;
}

/** Takes back what a source brought, once it was said what that does. */
export function UndoSource({ source }: { source: { id: number; name: string } }) {
  const redraw = useRedraw();
  const undo = async () => {
    try {
      await call('POST /sources/{id}/undo', { params: { id: source.id } });
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger className="quiet">{UNDO}</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <AlertDialog.Content className="fixed top-1/4 left-1/2 z-50 w-[460px] max-w-[calc(100vw-16px)] -translate-x-1/2 rounded border border-rule bg-sheet p-5 shadow-lg">
          <AlertDialog.Title className="font-serif text-title font-semibold">Undo {source.name}?</AlertDialog.Title>
          <AlertDialog.Description className="my-3">
            What it found, stated, offered and linked is undone. Names found nowhere else leave the pool, but for those
            on a shortlist. What servers answered about them is kept.
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
