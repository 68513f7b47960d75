import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import type { DomainView } from '../../core/pool/domain-view';
import { forget, recall, remember } from '../recall';

/** One verdict of a review. */
export interface Step {
  index: number;
  verdict: 'keep' | 'pass' | 'spam' | 'clean' | 'snoozed';
  reason: string | null;
  actions: number[];
}

/** Where a review stands: its rows as it was begun with, how far it is, and what was said. */
export interface Run {
  rows: DomainView[];
  total: number;
  at: number;
  steps: Step[];
  spentMs: number;
}

const PARAMETER = 'run';
const keyOf = (run: string) => `review ${run}`;
const isRun = (value: unknown): value is Run =>
  typeof value === 'object' && value !== null && 'rows' in value && 'at' in value && 'steps' in value;

/** The run that the address names; a review that is begun anew has none yet. */
const runOfAddress = () => new URLSearchParams(window.location.search).get(PARAMETER);

/**
 * Keeps where a review stands over a reload, or when it is come back to from a dossier: the address names the run, and a review that is
 * begun anew gets one of its own.
 *
 * @param state where it stands now.
 * @param resume takes it up where it was left.
 */
export function useRun(state: Run, resume: (run: Run) => void): void {
  const latest = useRef(state);
  latest.current = state;
  const [run, setRun] = useState<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when the screen comes
  useEffect(() => {
    const named = runOfAddress();
    const before = named === null ? null : recall(keyOf(named), isRun);
    if (named !== null && before) {
      resume(before);
      setRun(named);
      return;
    }
    const fresh = String(Date.now());
    const address = new URLSearchParams(window.location.search);
    address.set(PARAMETER, fresh);
    window.history.replaceState(window.history.state, '', `?${address}`);
    setRun(fresh);
  }, []);
  useLayoutEffect(() => {
    if (run === null) return;
    const keep = () => {
      const { rows, at } = latest.current;
      if (at >= rows.length) forget(keyOf(run));
      else remember(keyOf(run), latest.current);
    };
    window.addEventListener('pagehide', keep);
    return () => {
      window.removeEventListener('pagehide', keep);
      keep();
    };
  }, [run]);
}
