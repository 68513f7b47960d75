'use client';

import { toast } from 'sonner';
import type { Suggestion } from '../../contracts/learning';
import { call } from '../api';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';

const column = columnsFor<Suggestion>();
const top = { className: 'align-top pr-4' };
const COLUMNS = [
  column.accessor('words', { header: 'What', meta: { isHead: true, className: 'align-top pr-4 font-semibold' } }),
  column.accessor('now', { header: 'Now', meta: top }),
  column.accessor('suggested', { header: 'Suggested', meta: top }),
  column.accessor('evidence', { header: 'What it rests on', meta: { className: 'w-3/12 align-top pr-4' } }),
  column.accessor('effect', { header: 'What it would have changed', meta: { className: 'w-3/12 align-top pr-4' } }),
];

/** Settings that outcomes speak for changing; nothing changes until one is accepted, and it can be taken back. */
export function Suggestions({ suggestions }: { suggestions: Suggestion[] }) {
  const redraw = useRedraw();
  const send = async (suggestion: Suggestion, isBack: boolean) => {
    if (suggestion.of === 'settings')
      await call('PATCH /settings', { body: isBack ? suggestion.back : suggestion.change });
    else
      await call('PATCH /briefs/{id}', {
        params: { id: suggestion.brief },
        body: isBack ? suggestion.back : suggestion.change,
      });
    redraw();
  };
  const apply = async (suggestion: Suggestion) => {
    try {
      await send(suggestion, false);
      toast(`${suggestion.words}: changed`, {
        action: {
          label: 'Undo',
          onClick: () => void send(suggestion, true).catch((error: Error) => toast(error.message)),
        },
      });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  if (suggestions.length === 0)
    return (
      <p className="small mt-1">
        Nothing yet: at least five outcomes of a kind are needed, and a difference that is worth it. Outcomes come from{' '}
        <Link href="/orders" className="set">
          orders
        </Link>
        ,{' '}
        <Link href="/holdings" className="set">
          holdings
        </Link>
        , reviews and marks.
      </p>
    );
  const columns = [
    ...COLUMNS,
    column.display({
      id: 'accept',
      header: () => <span className="sr-only">Accept it</span>,
      meta: { className: 'text-right align-top' },
      cell: ({ row: { original } }) => (
        <button
          type="button"
          className="quiet"
          aria-label={`Accept: ${original.words}`}
          onClick={() => void apply(original)}
        >
          Accept
        </button>
      ),
    }),
  ];
  return (
    <Table
      label="Suggested changes"
      className="mt-1"
      columns={columns}
      rows={suggestions}
      rowId={({ key }) => key}
      rowProps={({ key }) => ({ 'data-suggestion': key })}
    />
  );
}
