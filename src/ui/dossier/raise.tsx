'use client';

import { toast } from 'sonner';
import { call } from '../api';
import { useRedraw } from '../server-state';

/** Brings a waiting question before all others. */
export function RaiseQuestion({ name }: { name: string }) {
  const redraw = useRedraw();
  const raise = async () => {
    try {
      await call('POST /domains/{name}/raise', { params: { name } });
      toast(`${name} is asked about before all others`);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <button type="button" className="set" onClick={() => void raise()}>
      ask it first
    </button>
  );
}
