import { toast } from 'sonner';
import { call } from './api';

/**
 * Says what was done, with a way to undo it from there.
 *
 * @param act number of the act, as the interface answered; null: nothing was changed.
 * @param onUndone draws anew what was changed back.
 */
export function undoToast(words: string, act: number | null, onUndone: () => void): void {
  if (act === null) {
    toast(words);
    return;
  }
  const undo = async () => {
    try {
      await call('POST /acts/{id}/undo', { params: { id: act } });
      onUndone();
      toast('Undone');
    } catch (error) {
      toast((error as Error).message);
    }
  };
  toast(words, { action: { label: 'Undo', onClick: () => void undo() } });
}
