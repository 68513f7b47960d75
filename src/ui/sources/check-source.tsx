'use client';

import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { call } from '../api';

export function CheckSource({ sourceId }: { sourceId: number }) {
  const router = useRouter();
  return (
    <button
      type="button"
      className="quiet"
      onClick={async () => {
        try {
          await call('/checks', { body: { sourceId } });
          router.refresh();
        } catch (error) {
          toast((error as Error).message);
        }
      }}
    >
      Check and measure all of them
    </button>
  );
}
