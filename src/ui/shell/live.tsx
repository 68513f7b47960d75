'use client';

import { useQueryClient } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext, useEffect, useMemo, useState } from 'react';
import type { JobView } from '../../contracts/jobs';

/** What was asked about the pool is asked again when it changes, so often at most; what a decision rests on is dearer to reckon. */
const FOLLOWED = [
  { key: 'pool', everyMs: 400 },
  { key: 'decision', everyMs: 4000 },
];
const SOON_MS = 30;

/** Does something soon after the first of many changes, and then so often at most; a timer that is set stays. */
function beat(everyMs: number, act: () => void): { follow(): void; stop(): void } {
  let soon: ReturnType<typeof setTimeout> | undefined;
  let doneAt = Number.NEGATIVE_INFINITY;
  return {
    follow() {
      soon ??= setTimeout(
        () => {
          soon = undefined;
          doneAt = performance.now();
          act();
        },
        Math.max(SOON_MS, everyMs - (performance.now() - doneAt)),
      );
    },
    stop: () => clearTimeout(soon),
  };
}

interface Live {
  /** Jobs heard of since the page was opened, newest state. */
  jobs: ReadonlyMap<number, JobView>;
  /** Grows when the pool changes. */
  poolVersion: number;
  /** Grows when an order changes. */
  ordersAt: number;
  /** ms since 1970 UTC on the product's clock. */
  now: number;
  /** What the product's clock is ahead of the machine's, ms. */
  aheadMs: number;
}

const LiveContext = createContext<Live>({ jobs: new Map(), poolVersion: 0, ordersAt: 0, now: 0, aheadMs: 0 });

export function useLive(): Live {
  return useContext(LiveContext);
}

/** The product's now, moving on by the half minute. */
export function useNow(): number {
  return useContext(LiveContext).now;
}

/** The product's now, moving on by the second: for what closes soon. */
export function useSeconds(): number {
  const { now, aheadMs } = useLive();
  const [second, setSecond] = useState(now);
  useEffect(() => {
    const tick = () => setSecond(Date.now() + aheadMs);
    const timer = setInterval(tick, 1000);
    return () => clearInterval(timer);
  }, [aheadMs]);
  return Math.max(second, now);
}

/** Listens to the engine's events, once for the whole page. `startNow` is the server's clock when it drew the page. */
export function LiveProvider({ startNow, children }: { startNow: number; children: ReactNode }) {
  const [jobs, setJobs] = useState<ReadonlyMap<number, JobView>>(new Map());
  const [poolVersion, setPoolVersion] = useState(0);
  const [ordersAt, setOrdersAt] = useState(0);
  const [now, setNow] = useState(startNow);
  const [aheadMs, setAhead] = useState(0);

  useEffect(() => {
    const offset = startNow - Date.now();
    setNow(startNow);
    setAhead(offset);
    const timer = setInterval(() => setNow(Date.now() + offset), 30_000);
    return () => clearInterval(timer);
  }, [startNow]);

  const client = useQueryClient();
  useEffect(() => {
    const beats = FOLLOWED.map(({ key, everyMs }) =>
      beat(everyMs, () => void client.invalidateQueries({ queryKey: [key] })),
    );
    const stream = new EventSource('/api/v1/events');
    stream.onmessage = (message) => {
      const event = JSON.parse(message.data);
      if (event.type === 'job') setJobs((before) => new Map(before).set(event.job.id, event.job));
      else if (event.type === 'pool') {
        setPoolVersion(event.version);
        for (const { follow } of beats) follow();
      } else if (event.type === 'orders') setOrdersAt(event.at);
    };
    return () => {
      stream.close();
      for (const { stop } of beats) stop();
    };
  }, [client]);

  const live = useMemo(
    () => ({ jobs, poolVersion, ordersAt, now, aheadMs }),
    [jobs, poolVersion, ordersAt, now, aheadMs],
  );
  return <LiveContext value={live}>{children}</LiveContext>;
}
