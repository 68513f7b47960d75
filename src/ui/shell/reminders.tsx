'use client';

import { useQuery } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import type { NewsKind } from '../../core/news/news';
import { closing } from '../../core/wording/format';
import { call } from '../api';
import { useNow } from './live';

const EVERY_MS = 60_000;
const NEWS_EVERY_MS = 30_000;
const KEPT = 'reminded';
const MOST_KEPT = 500;

/** Between two tabs that both look, the first shows it. */
const NOTED = 'notified-until';

/** Shows what happens as notifications of the browser, of the kinds that are chosen, once for all its tabs. */
export function Notifications({ kinds }: { kinds: readonly NewsKind[] }) {
  const { data } = useQuery({
    queryKey: ['news', ...kinds],
    enabled: kinds.length > 0,
    refetchInterval: NEWS_EVERY_MS,
    refetchIntervalInBackground: true,
    queryFn: async ({ signal }) => {
      const kept = localStorage.getItem(NOTED);
      // what happened before anybody looked is no news
      const since = kept === null ? Number.MAX_SAFE_INTEGER : Number(kept);
      return call('GET /news', { query: { since, kinds: kinds.join() }, signal });
    },
  });
  useEffect(() => {
    if (!data) return;
    const until = Number(localStorage.getItem(NOTED) ?? data.now);
    localStorage.setItem(NOTED, String(Math.max(until, data.now)));
    const isAllowed = 'Notification' in window && Notification.permission === 'granted';
    if (!isAllowed || until >= data.now) return;
    const [first, ...more] = data.news;
    if (!first) return;
    const rest = more.length > 0 ? ` And ${more.length} more.` : '';
    const shown = new Notification(first.domain, { body: `${first.words}${rest}`, tag: first.id });
    shown.onclick = () => {
      window.focus();
      window.location.assign(more.length > 0 ? '/' : `/domains/${first.domain}`);
    };
  }, [data]);
  return null;
}

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
