import { useRef, useState } from 'react';
import { useAttempt } from '../fields';
import type { Corrected, TableLook } from './list-mapping';

/**
 * A file looked at by the server, and looked at again with what the person corrected.
 *
 * @param ask looks at a file, or again at one that was sent.
 */
export function useTableLook<L extends TableLook & { columns: string[] }>(
  ask: (given: { file?: File; query?: URLSearchParams }) => Promise<L>,
) {
  const [look, show] = useState<L | null>(null);
  /** What was seen last: what is asked for in turn goes by it, not by what was on the screen when it was asked. */
  const latest = useRef<L | null>(null);
  const setLook = (next: L | null) => {
    latest.current = next;
    show(next);
  };
  const { problem, busy, attempt } = useAttempt();
  const take = (file: File) =>
    attempt('Looking at the file', async () => {
      setLook(null);
      chosen.current = {};
      setLook(await ask({ file }));
    });
  /** What was said of it and holds until another file is chosen. */
  const chosen = useRef<Pick<Corrected, 'order' | 'sheet' | 'headRows'>>({});
  const lookAgain = (change: Partial<Pick<L, 'columns'>> & Corrected) =>
    attempt('Looking again', async () => {
      const before = latest.current;
      if (!before) return;
      const { order, sheet, headRows } = { ...chosen.current, ...change };
      chosen.current = { order, sheet, headRows: change.sheet ? undefined : headRows };
      const next = { ...before, ...change };
      setLook(next);
      const query = new URLSearchParams({ upload: next.upload });
      // another sheet is another table
      if (!change.sheet) {
        query.set('delimiter', next.delimiter);
        query.set('header', next.hasHeader ? '1' : '0');
        if (headRows !== undefined) query.set('headRows', String(headRows));
      }
      if (order) query.set('order', order);
      if (sheet) query.set('sheet', sheet);
      const columns = change.columns ?? (change.order ? before.columns : null);
      if (columns) query.set('columns', columns.join(','));
      setLook(await ask({ query }));
    });
  return { look, latest, chosen, setLook, take, lookAgain, problem, busy, attempt };
}

/** A name for a source, from its file's. */
export function nameOfFile(file: File): string {
  return file.name
    .replace(/\.(csv|tsv|txt|json|jsonl|ndjson|xlsx|ods|xml|html|parquet|zip|gz|zst|bz2)$/gi, '')
    .replace(/\.(csv|tsv|txt|jsonl)$/i, '');
}
