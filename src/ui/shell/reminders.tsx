'use client';

import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { closing } from '../../core/wording/format';
import { call } from '../api';
import { useNow } from './live';

const EVERY_MS = 60_000;
const KEPT = 'reminded';
const MOST_KEPT = 500;

/** Reminds of deadlines of one's own once each, so long before as Settings say. */
export function Reminders({ minutes }: { minutes: number }) {
  const router = useRouter();
  const now = useRef(0);
  now.current = useNow();
  const { data: deadlines } = useQuery({
    queryKey: ['deadlines', 'soon', minutes],
    enabled: minutes > 0,
    refetchInterval: EVERY_MS,
    // also of a tab that nobody looks at: that is what they are for
    refetchIntervalInBackground: true,
    queryFn: async ({ signal }) =>
      (
        await call('GET /deadlines', {
          query: { scope: 'mine', kinds: 'closing,price-step,answer,drop,expiry,renewal', hours: minutes / 60 },
          signal,
        })
      ).deadlines,
  });
  useEffect(() => {
    if (!deadlines) return;
    const told: string[] = JSON.parse(localStorage.getItem(KEPT) ?? '[]');
    for (const { uid, at, name, words } of deadlines) {
      const key = `${uid} ${at}`;
      if (told.includes(key)) continue;
      told.push(key);
      toast(`${name} ${words}, ${closing(at, now.current) || 'now'}`, {
        duration: 20_000,
        action: { label: 'Look', onClick: () => router.push(`/domains/${name}`) },
      });
    }
    localStorage.setItem(KEPT, JSON.stringify(told.slice(-MOST_KEPT)));
  }, [deadlines, router]);
  return null;
}
