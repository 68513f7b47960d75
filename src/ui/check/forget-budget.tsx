'use client';

import { toast } from 'sonner';
import { call } from '../api';
import { useRedraw } from '../server-state';

/** Forgets what a server taught, where it has changed its mind. */
export function ForgetBudget({ server }: { server: string }) {
  const redraw = useRedraw();
  const forget = async () => {
    try {
      await call('DELETE /registries/{server}', { params: { server } });
      toast(`${server} is asked as declared again`);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <button type="button" className="set whitespace-nowrap" onClick={() => void forget()}>
      forget that
    </button>
  );
}
