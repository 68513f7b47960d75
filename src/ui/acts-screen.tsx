'use client';

import { toast } from 'sonner';
import type { LastAct } from '../contracts/acts';
import { ago } from '../core/wording/format';
import { YOU } from '../core/work/you';
import { call } from './api';
import { columnsFor } from './parts/columns';
import { Table } from './parts/table';
import { useRedraw } from './server-state';
import { useNow } from './shell/live';

const column = columnsFor<LastAct>();

const WHO = column.accessor('who', { header: 'Who', meta: { className: 'whitespace-nowrap text-muted' } });

/** @param isShared whether others than the one at the machine have done some. */
const columnsOf = (undo: (act: LastAct) => Promise<void>, now: number, isShared: boolean) => [
  column.accessor('at', {
    header: 'When',
    meta: { className: 'w-32 whitespace-nowrap text-muted' },
    cell: ({ getValue }) => ago(getValue(), now),
  }),
  ...(isShared ? [WHO] : []),
  column.accessor('words', {
    header: 'What',
    cell: ({ row: { original } }) => (
      <span className={`wrap-anywhere ${original.undoneAt === null ? '' : 'text-muted line-through'}`}>
        {original.words}
      </span>
    ),
  }),
  column.display({
    id: 'undo',
    header: 'Undo',
    meta: { className: 'text-right' },
    cell: ({ row: { original } }) =>
      original.undoneAt === null ? (
        <button
          type="button"
          className="quiet"
          aria-label={`Undo: ${original.words}`}
          onClick={() => void undo(original)}
        >
          Undo
        </button>
      ) : (
        <span className="small">undone {ago(original.undoneAt, now)}</span>
      ),
  }),
];

/** What was changed by hand lately, the latest first, each to be undone. */
export function ActsScreen({ acts }: { acts: LastAct[] }) {
  const redraw = useRedraw();
  const now = useNow();
  const isShared = acts.some(({ who }) => who !== YOU);
  const undo = async (act: LastAct) => {
    try {
      await call(act.kind === 'act' ? 'POST /acts/{id}/undo' : 'POST /actions/{id}/undo', { params: { id: act.id } });
      toast(`Undone: ${act.words}`);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="mx-auto max-w-[860px] px-6 py-6">
      <h1>Last acts</h1>
      <p className="small mt-1">
        What was changed by hand, the latest first. An account that comes back is asked for its key again; what was
        changed since by another act is undone after that one.
      </p>
      {acts.length === 0 ? (
        <p className="mt-4 border-t border-rule pt-3">Nothing has been changed by hand yet.</p>
      ) : (
        <Table
          label="Last acts"
          className="mt-3"
          columns={columnsOf(undo, now, isShared)}
          rows={acts}
          rowId={({ key }) => key}
        />
      )}
    </div>
  );
}
