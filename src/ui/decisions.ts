import { useCallback, useRef, useState } from 'react';
import { toast } from 'sonner';
import { useRedraw } from './server-state';

/**
 * Sends decisions that can be taken back, the last first.
 *
 * @param keep keeps them, and says how each stood before.
 */
export function useDecisions<Change>(keep: (changes: Change[]) => Promise<Change[]>) {
  const redraw = useRedraw();
  const undone = useRef<Change[][]>([]);
  const kept = useRef(keep);
  kept.current = keep;
  const send = useCallback(
    async (changes: Change[], isUndo: boolean) => {
      try {
        const before = await kept.current(changes);
        if (!isUndo) undone.current.push(before);
        redraw();
      } catch (error) {
        toast((error as Error).message);
      }
    },
    [redraw],
  );
  const decide = useCallback((changes: Change[]) => void send(changes, false), [send]);
  const takeBack = useCallback(() => {
    const last = undone.current.pop();
    if (last) void send(last, true);
    else toast('There is nothing to take back');
  }, [send]);
  return { decide, takeBack };
}

/** The row that keys are about. `here` has it also for a key that comes before the row is drawn. */
export function useCursor() {
  const [at, showAt] = useState(0);
  const here = useRef(0);
  const setAt = useCallback((index: number) => {
    here.current = Math.max(0, index);
    showAt(here.current);
  }, []);
  return { at, here, setAt };
}
