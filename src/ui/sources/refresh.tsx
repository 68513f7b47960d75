'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { useLive } from '../shell/live';

const AGAIN_MS = 1200;

/**
 * Draws the page's server part anew when a job changes its state, and now and then while one runs. Once more after a change: the
 * router lets one refresh fall when another is under way, and the one that fell might have been the last.
 */
export function RefreshOnJobs() {
  const router = useRouter();
  const { jobs } = useLive();
  const states = [...jobs.values()].map((job) => `${job.id}${job.state}`).join();
  const isRunning = [...jobs.values()].some((job) => job.state === 'running');
  useEffect(() => {
    if (states === '') return;
    router.refresh();
    const again = setTimeout(() => router.refresh(), AGAIN_MS);
    return () => clearTimeout(again);
  }, [states, router]);
  useEffect(() => {
    if (!isRunning) return;
    const timer = setInterval(() => router.refresh(), AGAIN_MS);
    return () => clearInterval(timer);
  }, [isRunning, router]);
  return null;
}
