'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { formatView, type PoolView } from '../../core/pool/conditions';
import type { PoolAnswer } from '../../core/pool/query';
import { call } from '../api';
import { useLive } from '../shell/live';
import type { DomainView } from '../types';
import { PAGE_ROWS } from './page-rows';

const REFRESH_MS = 700;

/** What a question to the pool gives, with the rows drawn out. */
export type Answer = Omit<PoolAnswer, 'ids'> & { rows: DomainView[] };

export interface PoolState {
  total: number;
  size: number;
  perCondition: PoolAnswer['perCondition'];
  histograms: PoolAnswer['histograms'];
  /** undefined: not loaded yet. */
  rowAt(index: number): DomainView | undefined;
  /** Loads what is missing of these rows. */
  ensure(start: number, end: number): void;
  /** Changes a loaded row at once, ahead of the server. */
  patch(name: string, change: Partial<DomainView>): void;
  problem: string | null;
  isLoading: boolean;
}

/**
 * Rows and counts of a view, loaded by pages of PAGE_ROWS, and brought up to date when the pool changes.
 *
 * @param first the first page of the first view, which came with the screen; null when the engine was not there.
 */
export function usePool(view: PoolView, openCondition: number | null, first: Answer | null): PoolState {
  const { poolVersion } = useLive();
  const [answer, setAnswer] = useState<Answer | null>(first);
  const [problem, setProblem] = useState<string | null>(null);
  const [isLoading, setLoading] = useState(first === null);
  const [, redraw] = useState(0);
  const pages = useRef(new Map<number, DomainView[]>(first ? [[0, first.rows]] : []));
  const asked = useRef(new Set<number>(first ? [0] : []));
  const wanted = useRef<[number, number]>([0, PAGE_ROWS]);
  const key = formatView(view).toString();
  const viewRef = useRef(view);
  viewRef.current = view;
  const keyRef = useRef(key);
  keyRef.current = key;

  const load = useCallback(async (page: number, histograms: number[], signal?: AbortSignal): Promise<Answer> => {
    return call<Answer>('/pool/query', {
      body: { ...viewRef.current, offset: page * PAGE_ROWS, limit: PAGE_ROWS, histograms },
      signal,
    });
  }, []);

  const histogramFor =
    openCondition !== null && view.conditions[openCondition]?.type === 'range' ? openCondition : null;

  // a new question: the first answer replaces everything, an older one still under way is dropped
  const isFirst = useRef(first !== null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the view is in its key
  useEffect(() => {
    if (isFirst.current) {
      isFirst.current = false;
      return;
    }
    const stop = new AbortController();
    setLoading(true);
    wanted.current = [0, PAGE_ROWS];
    load(0, histogramFor === null ? [] : [histogramFor], stop.signal)
      .then((fresh) => {
        pages.current = new Map([[0, fresh.rows]]);
        asked.current = new Set([0]);
        setAnswer(fresh);
        setProblem(null);
      })
      .catch((error: Error) => !stop.signal.aborted && setProblem(error.message))
      .finally(() => !stop.signal.aborted && setLoading(false));
    return () => stop.abort();
  }, [key, histogramFor, load]);

  // the pool has changed: the visible pages are read again in place, at most once in REFRESH_MS however often it changes
  const refreshing = useRef(false);
  const refresh = useCallback(async () => {
    const [start, end] = wanted.current;
    const visible = range(Math.floor(start / PAGE_ROWS), Math.floor(Math.max(start, end - 1) / PAGE_ROWS));
    const mine = keyRef.current;
    try {
      const answers = await Promise.all(visible.map((page) => load(page, [])));
      if (mine !== keyRef.current) return;
      pages.current = new Map(answers.map((entry, i) => [visible[i], entry.rows]));
      asked.current = new Set(visible);
      setAnswer((before) => ({ ...answers[0], histograms: before?.histograms ?? [] }));
    } catch {
      // the next change tries again
    }
  }, [load]);
  useEffect(() => {
    if (poolVersion === 0 || refreshing.current) return;
    refreshing.current = true;
    setTimeout(async () => {
      refreshing.current = false;
      await refresh();
    }, REFRESH_MS);
  }, [poolVersion, refresh]);

  const ensure = useCallback(
    (start: number, end: number) => {
      wanted.current = [start, end];
      for (const page of range(Math.floor(start / PAGE_ROWS), Math.floor(Math.max(start, end - 1) / PAGE_ROWS))) {
        if (asked.current.has(page)) continue;
        asked.current.add(page);
        const mine = keyRef.current;
        load(page, [])
          .then((more) => {
            if (mine !== keyRef.current) return;
            pages.current.set(page, more.rows);
            redraw((n) => n + 1);
          })
          .catch(() => asked.current.delete(page));
      }
    },
    [load],
  );

  const patch = useCallback((name: string, change: Partial<DomainView>) => {
    for (const [page, rows] of pages.current)
      pages.current.set(
        page,
        rows.map((row) => (row.name === name ? { ...row, ...change } : row)),
      );
    redraw((n) => n + 1);
  }, []);

  return {
    total: answer?.total ?? 0,
    size: answer?.size ?? 0,
    perCondition: answer?.perCondition ?? [],
    histograms: answer?.histograms ?? [],
    rowAt: (index) => pages.current.get(Math.floor(index / PAGE_ROWS))?.[index % PAGE_ROWS],
    ensure,
    patch,
    problem,
    isLoading,
  };
}

function range(first: number, last: number): number[] {
  return Array.from({ length: last - first + 1 }, (_, i) => first + i);
}
