'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { useLive } from '../shell/live';

/** Draws the page's server part anew when a job changes its state, and now and then while one runs. */
export function RefreshOnJobs() {
  const router = useRouter();
  const { jobs } = useLive();
  const states = [...jobs.values()].map((job) => `${job.id}${job.state}`).join();
  const isRunning = [...jobs.values()].some((job) => job.state === 'running');
  useEffect(() => {
    if (states !== '') router.refresh();
  }, [states, router]);
  useEffect(() => {
    if (!isRunning) return;
    const timer = setInterval(() => router.refresh(), 1200);
    return () => clearInterval(timer);
  }, [isRunning, router]);
  return null;
}
