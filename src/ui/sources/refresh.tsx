'use client';

import { useEffect, useRef, useTransition } from 'react';
import { useRedraw } from '../server-state';
import { useLive } from '../shell/live';

const AGAIN_MS = 1200;
/** Between two drawings passes so many times what the last one took. */
const REST = 4;

/**
 * Draws the page's server part anew when a job changes its state, and now and then while one runs. Once more after a change: what
 * the last drawing showed may have been read before it.
 */
export function RefreshOnJobs() {
  const redraw = useRedraw();
  const { jobs } = useLive();
  const [isDrawing, startDrawing] = useTransition();
  const states = [...jobs.values()].map((job) => `${job.id}${job.state}`).join();
  const isRunning = [...jobs.values()].some((job) => job.state === 'running');
  const drawing = useRef({ shown: '', again: false, began: 0, isOn: false, tookMs: 0 });
  useEffect(() => {
    const last = drawing.current;
    if (isDrawing) return;
    if (last.isOn) last.tookMs = performance.now() - last.began;
    last.isOn = false;
    const isNew = states !== last.shown;
    if (!isNew && !last.again && !isRunning) return;
    const draw = () => {
      Object.assign(last, { shown: states, again: isNew, began: performance.now(), isOn: true });
      startDrawing(redraw);
    };
    const timer = setTimeout(draw, isNew ? 0 : Math.max(AGAIN_MS, REST * last.tookMs));
    return () => clearTimeout(timer);
  }, [isDrawing, states, isRunning, redraw]);
  return null;
}
