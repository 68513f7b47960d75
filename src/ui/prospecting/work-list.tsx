'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { Sent } from '../../contracts/calls';
import { PROSPECT_STATES } from '../../core/prospecting/prospects';
import { ago, bare } from '../../core/wording/format';
import { call } from '../api';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';
import type { ProspectLine } from './types';

const keyOf = ({ target, page }: ProspectLine) => `${target} ${page}`;

type Change = Omit<Sent<'PATCH /prospects'>, 'target' | 'page'>;

const column = columnsFor<ProspectLine>();
const mailOf = ({ contact }: ProspectLine) => contact?.replace(/^mailto:/, '') ?? '';

const columnsOf = (change: (row: ProspectLine, part: Change) => Promise<void>, now: number) => [
  column.accessor('page', {
    header: 'Page, its dead link',
    meta: { className: 'align-top' },
    cell: ({ row: { original: row } }) => (
      <>
        <a href={row.page} rel="noreferrer" target="_blank" className="font-semibold wrap-anywhere hover:underline">
          {bare(row.page)}
        </a>
        <span className="small block wrap-anywhere">
          “{row.anchor}” to {bare(row.target)}
          {row.standIn ? `; ${bare(row.standIn)} could stand there` : ''}
        </span>
      </>
    ),
  }),
  column.accessor(mailOf, {
    id: 'contact',
    header: 'How to reach them',
    meta: { className: 'w-52 align-top' },
    cell: ({ row: { original: row } }) => (
      <input
        className="field w-full"
        aria-label={`How to reach ${bare(row.page)}`}
        key={row.contact}
        defaultValue={mailOf(row)}
        onBlur={(event) => {
          const contact = event.target.value.trim();
          if (contact !== mailOf(row)) void change(row, { contact: contact || null });
        }}
      />
    ),
  }),
  column.accessor('state', {
    header: 'Stands',
    meta: { className: 'w-32 align-top' },
    cell: ({ row: { original: row } }) => (
      <select
        className="field w-full py-0.5"
        aria-label={`How ${bare(row.page)} stands`}
        value={row.state}
        onChange={(event) => void change(row, { state: PROSPECT_STATES.find((state) => state === event.target.value) })}
      >
        {PROSPECT_STATES.map((state) => (
          <option key={state}>{state}</option>
        ))}
      </select>
    ),
  }),
  column.accessor(({ next }) => next.words, {
    id: 'next',
    header: 'Next',
    meta: { className: 'w-44 align-top' },
    cell: ({ row: { original: row } }) => (
      <>
        <span className={row.next.isDue ? 'font-semibold' : ''}>{row.next.words}</span>
        <span className="small block">
          {row.writtenAt !== null && `written ${ago(row.writtenAt, now)}`}
          {row.answeredAt !== null && `, answered ${ago(row.answeredAt, now)}`}
        </span>
      </>
    ),
  }),
  column.accessor('note', {
    header: 'Note',
    meta: { className: 'w-44 align-top' },
    cell: ({ row: { original: row } }) => (
      <input
        className="field w-full"
        aria-label={`Note on ${bare(row.page)}`}
        key={row.note}
        defaultValue={row.note}
        onBlur={(event) => event.target.value !== row.note && void change(row, { note: event.target.value })}
      />
    ),
  }),
];

/** Pages to be written to, each with what is next; nothing is sent from here. */
export function WorkListTable({ rows }: { rows: ProspectLine[] }) {
  const redraw = useRedraw();
  const now = useNow();
  const [isWhole, setWhole] = useState(false);
  const act = async (work: () => Promise<void>) => {
    try {
      await work();
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const change = ({ target, page }: ProspectLine, part: Change) =>
    act(async () => {
      const { before } = await call('PATCH /prospects', { body: { target, page, ...part } });
      if (before === null || 'standIn' in before) return;
      const undo = () => call('PATCH /prospects', { body: { target, page, before } });
      toast(`${bare(page)} changed`, {
        action: { label: 'Undo', onClick: () => void act(async () => void (await undo())) },
      });
    });
  const look = ({ target, page }: ProspectLine) =>
    act(async () => {
      const { linksStill, linksToOwn } = await call('POST /prospects/look', { body: { target, page } });
      toast(
        linksToOwn
          ? 'It links to your page now'
          : linksStill
            ? 'It still links to what is dead'
            : 'The dead link is gone; yours is not there',
      );
    });
  const due = rows.filter(({ next }) => next.isDue);
  const shown = isWhole || due.length === 0 ? rows : due;
  return (
    <>
      <Table
        label="Outreach list"
        className="mt-1 table-fixed"
        columns={columnsOf(change, now)}
        rows={shown}
        rowId={keyOf}
        rowProps={({ page }) => ({ 'data-prospect': page })}
        opener="Letter"
        opens={({ page }) => `Letter to ${bare(page)}`}
        detail={(row) => (
          <LetterView
            row={row}
            onWritten={() => void change(row, { state: 'written' })}
            onLook={() => void look(row)}
          />
        )}
        isSortable
      />
      {shown.length < rows.length && (
        <button type="button" className="set small mt-2" onClick={() => setWhole(true)}>
          {rows.length - shown.length} more wait or are done
        </button>
      )}
    </>
  );
}

/** A draft to be read over, and sent by one's own mail program; then what came of it. */
function LetterView({ row, onWritten, onLook }: { row: ProspectLine; onWritten(): void; onLook(): void }) {
  const { letter, mail } = row;
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(`${letter?.subject}\n\n${letter?.text}`);
      toast('The letter is copied');
    } catch (error) {
      toast(`Not copied: ${(error as Error).message}`);
    }
  };
  return (
    <div className="flex items-start gap-6">
      {letter ? (
        <div className="max-w-prose grow">
          <p className="font-semibold">{letter.subject}</p>
          <p className="mt-1 whitespace-pre-line wrap-anywhere">{letter.text}</p>
        </div>
      ) : (
        <p className="grow">Choose the page that stands in first: open the broken link below.</p>
      )}
      <div className="flex w-40 flex-col gap-2">
        {letter && (
          <button type="button" className="quiet" onClick={() => void copy()}>
            Copy it
          </button>
        )}
        {mail && (
          <a className="quiet text-center" href={mail}>
            Open in my mail
          </a>
        )}
        {row.contact && /^https?:/.test(row.contact) && (
          <a className="quiet text-center" href={row.contact} rel="noreferrer" target="_blank">
            Their contact page
          </a>
        )}
        <button type="button" className="quiet" onClick={onWritten} disabled={row.state !== 'to write'}>
          It is written
        </button>
        <button type="button" className="quiet" onClick={onLook}>
          Look at the page
        </button>
      </div>
    </div>
  );
}
