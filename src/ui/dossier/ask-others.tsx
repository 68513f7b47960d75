'use client';

import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { call } from '../api';

/** Asks about names that nobody asked about yet, as a batch. */
export function AskOthers({ names }: { names: string[] }) {
  const router = useRouter();
  const ask = async () => {
    try {
      const body = { text: names.join('\n'), name: `${names[0].slice(0, names[0].indexOf('.'))} under other TLDs` };
      const { id } = await call('POST /batches', { body });
      router.push(`/check/${id}`);
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <button type="button" className="set" onClick={() => void ask()}>
      ask about {names.length === 1 ? names[0] : `${names.length} ${names.length === 2 ? 'others' : 'more'}`}
    </button>
  );
}
