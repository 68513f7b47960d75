'use client';

import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { call } from '../api';

/** Brings a waiting question before all others. */
export function RaiseQuestion({ name }: { name: string }) {
  const router = useRouter();
  const raise = async () => {
    try {
      await call('POST /domains/{name}/raise', { params: { name } });
      toast(`${name} is asked about before all others`);
      router.refresh();
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
