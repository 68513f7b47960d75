'use client';

import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { call } from '../api';

/** Forgets what a server taught, where it has changed its mind. */
export function ForgetBudget({ server }: { server: string }) {
  const router = useRouter();
  const forget = async () => {
    try {
      await call('DELETE /registries/{server}', { params: { server } });
      toast(`${server} is asked as declared again`);
      router.refresh();
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
