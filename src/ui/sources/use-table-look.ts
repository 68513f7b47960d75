import { useRef, useState } from 'react';
import { useAttempt } from '../fields';
import type { TableLook } from './list-mapping';

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
      setLook(await ask({ file }));
    });
  const lookAgain = (change: Partial<Pick<L, 'delimiter' | 'hasHeader' | 'columns'>>) =>
    attempt('Looking again', async () => {
      const before = latest.current;
      if (!before) return;
      const next = { ...before, ...change };
      setLook(next);
      const query = new URLSearchParams({
        upload: next.upload,
        delimiter: next.delimiter,
        header: next.hasHeader ? '1' : '0',
      });
      if (change.columns) query.set('columns', change.columns.join(','));
      setLook(await ask({ query }));
    });
  return { look, latest, setLook, take, lookAgain, problem, busy, attempt };
}

/** A name for a source, from its file's. */
export function nameOfFile(file: File): string {
  return file.name.replace(/\.(csv|tsv|txt|jsonl|ndjson|xlsx|gz)$/gi, '').replace(/\.(csv|tsv|txt|jsonl)$/i, '');
}
