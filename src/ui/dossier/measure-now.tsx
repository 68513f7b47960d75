'use client';

import { toast } from 'sonner';
import { call } from '../api';
import { useRedraw } from '../server-state';

/** Has what is missing found out now: by asking who has it (check), or by the costly looks (measure). */
export function MeasureNow({
  name,
  id,
  what,
  children,
}: {
  name: string;
  id: number;
  what: 'check' | 'measure';
  children: string;
}) {
  const redraw = useRedraw();
  const start = async () => {
    try {
      if (what === 'check') await call('POST /checks', { body: { names: [name] } });
      else await call('POST /measures', { body: { ids: [id] } });
      toast('Under way; the page follows');
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <button type="button" className="set" onClick={() => void start()}>
      {children}
    </button>
  );
}
