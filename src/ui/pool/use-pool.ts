'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { formatPart, formatSorts, type PoolView } from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import type { PoolAnswer } from '../../core/pool/query';
import { type RowColumns, type RowField, rowsOfColumns } from '../../core/pool/row-columns';
import { call } from '../api';
import { useLive } from '../shell/live';
import { PAGE_ROWS } from './page-rows';

const REFRESH_MS = 500;
const SOON_MS = 30;
/** So many rows before the end of what is there, more is loaded. */
const NEAR_ROWS = 20;

/** What a question to the pool gives, with the rows drawn out. */
export type Answer = Omit<PoolAnswer, 'ids' | 'names' | 'offers'> & { rows: DomainView[] };
/** The first page as it comes with the screen; its rows may be fewer than a page has. */
export type FirstAnswer = Omit<Answer, 'rows'> & { rows: RowColumns };

export interface PoolState {
  total: number;
  size: number;
  excluded: number;
  parts: PoolAnswer['parts'];
  collisions: PoolAnswer['collisions'];
  troubles: PoolAnswer['troubles'];
  histograms: PoolAnswer['histograms'];
  /** undefined: not loaded yet. */
  rowAt(index: number): DomainView | undefined;
  /** Loads what is missing of these rows. */
  ensure(start: number, end: number): void;
  /** Changes loaded rows at once, ahead of the server. */
  patch(ids: ReadonlySet<number>, change: Partial<DomainView>): void;
  /** Loads the visible rows anew. */
  refresh(): void;
  problem: string | null;
  isLoading: boolean;
}

/**
 * Rows and counts of a view, loaded by pages of PAGE_ROWS, and brought up to date when the pool changes. While one question is under
 * way, later ones wait and only the last of them is asked: a dragged handle asks as often as answers come.
 *
 * @param fields what the rows are to carry; when more is wanted, those that are seen are loaded again.
 * @param open path of the condition whose histogram is wanted.
 * @param first the first page of the first view, which came with the screen; null when the engine was not there.
 * @param anchor the domain that must stay where it is when rows come in above it, and what to do when its place has changed.
 */
export function usePool(
  view: PoolView,
  fields: RowField[],
  open: string | null,
  first: FirstAnswer | null,
  withExcluded: boolean,
  anchor: { of(): number | null; moved(index: number): void },
): PoolState {
  const { poolVersion } = useLive();
  const [answer, setAnswer] = useState<Answer | null>(() => first && { ...first, rows: rowsOfColumns(first.rows) });
  const [problem, setProblem] = useState<string | null>(null);
  const [isLoading, setLoading] = useState(first === null);
  const [, redraw] = useState(0);
  const pages = useRef(new Map<number, DomainView[]>(answer ? [[0, answer.rows]] : []));
  const isWholePage = first !== null && first.rows.id.length >= Math.min(PAGE_ROWS, first.total);
  const asked = useRef(new Set<number>(isWholePage ? [0] : []));
  const wanted = useRef<[number, number]>([0, PAGE_ROWS]);
  const key = JSON.stringify([view.parts.map(formatPart), formatSorts(view.sorts), withExcluded]);
  const fieldsKey = fields.join();
  const current = useRef({ view, key, fields, withExcluded, anchor });
  current.current = { view, key, fields, withExcluded, anchor };
  /** Whether rows that were asked for then are those that are wanted now, with all that is drawn of them. */
  const isWanted = useCallback(
    (then: { key: string; fields: readonly RowField[] }) =>
      then.key === current.current.key && current.current.fields.every((field) => then.fields.includes(field)),
    [],
  );

  const load = useCallback(
    async (page: number, histograms: string[], anchorId: number | null = null): Promise<Answer> => {
      const { view: shown, fields: wanted, withExcluded: all } = current.current;
      const found = await call('POST /pool/columns', {
        body: {
          parts: shown.parts,
          sorts: shown.sorts,
          offset: page * PAGE_ROWS,
          limit: PAGE_ROWS,
          histograms,
          anchor: anchorId,
          withExcluded: all,
          fields: wanted,
        },
      });
      return { ...found, rows: rowsOfColumns(found.rows) };
    },
    [],
  );

  const histogramFor = open;
  const isFirst = useRef(first !== null);
  const flight = useRef<{ busy: boolean; again: (() => void) | null }>({ busy: false, again: null });
  // biome-ignore lint/correctness/useExhaustiveDependencies: the view is in its key
  useEffect(() => {
    if (isFirst.current) {
      isFirst.current = false;
      if (histogramFor === null) return;
    }
    let isGone = false;
    const askNow = async () => {
      if (isGone) return;
      flight.current.busy = true;
      setLoading(true);
      try {
        const fresh = await load(0, histogramFor === null ? [] : [histogramFor]);
        // an answer to an older question still moves the picture while a handle is dragged
        wanted.current = [0, PAGE_ROWS];
        pages.current = new Map([[0, fresh.rows]]);
        asked.current = new Set([0]);
        setAnswer(fresh);
        setProblem(null);
      } catch (error) {
        if (!isGone) setProblem((error as Error).message);
      } finally {
        flight.current.busy = false;
        const next = flight.current.again;
        flight.current.again = null;
        if (next) next();
        else setLoading(false);
      }
    };
    if (flight.current.busy) flight.current.again = () => void askNow();
    else void askNow();
    return () => {
      isGone = true;
    };
  }, [key, histogramFor, load]);

  // the pool has changed: the visible pages are read again in place, soon, but at most once in REFRESH_MS however often it changes
  const refresh = useCallback(async () => {
    const then = current.current;
    const [start, end] = wanted.current;
    const anchored = current.current.anchor.of();
    try {
      let visible = range(Math.floor(start / PAGE_ROWS), Math.floor(Math.max(start, end - 1) / PAGE_ROWS));
      const answers = await Promise.all(visible.map((page, i) => load(page, [], i === 0 ? anchored : null)));
      const at = answers[0].anchorAt;
      if (anchored !== null && at >= 0 && !answers.some(({ rows }) => rows.some(({ id }) => id === anchored))) {
        // it has moved further than the loaded rows: its new surroundings are loaded before anything is shown
        visible = range(
          Math.max(0, Math.floor((at - (end - start)) / PAGE_ROWS)),
          Math.floor((at + (end - start)) / PAGE_ROWS),
        );
        answers.splice(0, answers.length, ...(await Promise.all(visible.map((page) => load(page, [])))));
      }
      if (!isWanted(then)) return;
      pages.current = new Map(answers.map((entry, i) => [visible[i], entry.rows]));
      asked.current = new Set(visible);
      setAnswer((before) => ({ ...answers[0], histograms: before?.histograms ?? [] }));
      if (anchored !== null && at >= 0) current.current.anchor.moved(at);
    } catch {
      // the next change tries again
    }
  }, [load, isWanted]);
  const loaded = useRef(new Set(fields));
  // biome-ignore lint/correctness/useExhaustiveDependencies: the fields are in their key
  useEffect(() => {
    const isThere = fields.every((field) => loaded.current.has(field));
    // from now on rows come with these alone
    loaded.current = new Set(fields);
    if (!isThere) void refresh();
  }, [fieldsKey, refresh]);
  const refreshing = useRef(false);
  const refreshedAt = useRef(0);
  useEffect(() => {
    if (poolVersion === 0 || refreshing.current) return;
    refreshing.current = true;
    const since = performance.now() - refreshedAt.current;
    setTimeout(
      async () => {
        refreshing.current = false;
        refreshedAt.current = performance.now();
        await refresh();
      },
      Math.max(SOON_MS, REFRESH_MS - since),
    );
  }, [poolVersion, refresh]);

  const ensure = useCallback(
    (start: number, end: number) => {
      wanted.current = [start, end];
      for (const page of range(Math.floor(start / PAGE_ROWS), Math.floor(Math.max(start, end - 1) / PAGE_ROWS))) {
        if (asked.current.has(page)) continue;
        // the screen came with the first of its rows: the others are loaded when it comes near their end
        if (page === 0 && end + NEAR_ROWS <= (pages.current.get(0)?.length ?? 0)) continue;
        asked.current.add(page);
        const then = current.current;
        load(page, [])
          .then((more) => {
            if (!isWanted(then)) return;
            pages.current.set(page, more.rows);
            redraw((n) => n + 1);
          })
          .catch(() => asked.current.delete(page));
      }
    },
    [load, isWanted],
  );

  const patch = useCallback((ids: ReadonlySet<number>, change: Partial<DomainView>) => {
    for (const [page, rows] of pages.current)
      pages.current.set(
        page,
        rows.map((row) => (ids.has(row.id) ? { ...row, ...change } : row)),
      );
    redraw((n) => n + 1);
  }, []);

  return {
    total: answer?.total ?? 0,
    size: answer?.size ?? 0,
    excluded: answer?.excluded ?? 0,
    parts: answer?.parts ?? [],
    collisions: answer?.collisions ?? {},
    troubles: answer?.troubles ?? {},
    histograms: answer?.histograms ?? [],
    rowAt: (index) => pages.current.get(Math.floor(index / PAGE_ROWS))?.[index % PAGE_ROWS],
    ensure,
    patch,
    refresh: () => void refresh(),
    problem,
    isLoading,
  };
}

function range(first: number, last: number): number[] {
  return Array.from({ length: last - first + 1 }, (_, i) => first + i);
}
