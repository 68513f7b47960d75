'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Confirmed } from '../../core/lifecycle/confirmed';
import { count, money, plural } from '../../core/wording/format';
import { call } from '../api';
import { confirmDomain } from '../dossier/confirm';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { RefreshOnOrders } from '../orders/refresh';
import { act } from '../pool/acts';
import { Board } from './board';
import { BulkBar } from './bulk-bar';
import { type Entry, type EntryChange, type EntryOrder, ORDERS, sorted } from './entry';
import type { StageName } from './stages';
import { ShortlistTable } from './table';

interface ShortlistScreenProps {
  brief: { id: number; name: string; budgetMinor: number | null; currency: string };
  entries: Entry[];
}

/** The domains under consideration for a brief. Every change is kept at once and can be undone. */
export function ShortlistScreen({ brief, entries: given }: ShortlistScreenProps) {
  const router = useRouter();
  const path = usePathname();
  const asked = useSearchParams();
  const [entries, setEntries] = useState(given);
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const [confirmed, setConfirmed] = useState<Record<string, Confirmed | 'asking'>>({});
  useEffect(() => setEntries(given), [given]);
  const isBoard = asked.get('as') === 'board';
  const order = (ORDERS.find((one) => one === asked.get('order')) ?? 'added') as EntryOrder;
  const shown = sorted(entries, order);
  const open = entries.filter((entry) => entry.stage !== 'let go');
  const committed = open.reduce((sum, entry) => sum + (entry.maximumBidMinor ?? 0), 0);
  const view = (change: Record<string, string>) => {
    const next = new URLSearchParams({ ...Object.fromEntries(asked), ...change });
    router.replace(`${path}?${next}`, { scroll: false });
  };

  const change = async (entry: Entry, part: EntryChange, isUndo = false) => {
    setEntries((before) => before.map((other) => (other.domainId === entry.domainId ? { ...other, ...part } : other)));
    try {
      await call('PATCH /shortlist/{name}', {
        params: { name: entry.domain.name },
        body: { briefId: brief.id, ...part },
      });
      const old = { stage: entry.stage, maximumBidMinor: entry.maximumBidMinor, note: entry.note };
      if (!isUndo)
        toast(`${entry.domain.display} changed`, {
          action: { label: 'Undo', onClick: () => void change({ ...entry, ...part }, old, true) },
        });
    } catch (error) {
      setEntries((before) => before.map((other) => (other.domainId === entry.domainId ? entry : other)));
      toast((error as Error).message);
    }
  };
  /** Before money moves the verdict is taken again, down to the registrar. */
  const confirm = async ({ domain: { name } }: Entry) => {
    const note = (what: Confirmed | 'asking' | null) =>
      setConfirmed(({ [name]: _, ...others }) => (what ? { ...others, [name]: what } : others));
    note('asking');
    try {
      note(await confirmDomain(name));
      router.refresh();
    } catch (error) {
      note(null);
      toast((error as Error).message);
    }
  };
  const remove = async (going: Entry[]) => {
    try {
      await act(
        { kind: 'unshortlist', brief: brief.id },
        { ids: going.map(({ domainId }) => domainId) },
        going[0].domain.display,
        () => router.refresh(),
      );
      const ids = new Set(going.map(({ domainId }) => domainId));
      setEntries((before) => before.filter((other) => !ids.has(other.domainId)));
      setTicked(new Set());
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const tickedEntries = shown.filter(({ domainId }) => ticked.has(domainId));
  /** Moves all that are ticked, or gives them back where they were. */
  const moveAll = async (moves: [entry: Entry, stage: StageName][], isUndo = false) => {
    for (const [entry, stage] of moves) await change(entry, { stage }, true);
    if (isUndo) return;
    const back = moves.map(([entry, stage]): [Entry, StageName] => [{ ...entry, stage }, entry.stage]);
    toast(`${plural(moves.length, 'domain')} moved to ${moves[0][1]}`, {
      action: { label: 'Undo', onClick: () => void moveAll(back, true) },
    });
  };
  const tag = async (name: string) => {
    try {
      await act({ kind: 'tag', tag: name }, { ids: [...ticked] }, null, () => router.refresh());
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };

  return (
    <div className="px-6 py-6">
      <RefreshOnOrders />
      <div className="flex items-baseline gap-6">
        <h1>Shortlist for {brief.name}</h1>
        <span className="text-muted">
          {count(open.length)} under consideration, maximum bids {money(committed, brief.currency)}
          {brief.budgetMinor !== null && ` of a budget of ${money(brief.budgetMinor, brief.currency)}`}
        </span>
        <span className="ml-auto flex items-baseline gap-2">
          <label className="flex items-baseline gap-1.5">
            <span className="small">by</span>
            <select
              className="field py-0.5"
              aria-label="In order of"
              value={order}
              onChange={(event) => view({ order: event.target.value })}
            >
              {ORDERS.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          </label>
          <button
            type="button"
            className="quiet"
            aria-pressed={isBoard}
            onClick={() => view({ as: isBoard ? 'table' : 'board' })}
          >
            {isBoard ? 'As a table' : 'As a board'}
          </button>
          <Link className="quiet" href="/shortlist/plan">
            Bid plan
          </Link>
          <ExportMenu address={`/api/v1/export?what=shortlist&brief=${brief.id}`} label="the shortlist" />
        </span>
      </div>
      {brief.budgetMinor !== null && committed > brief.budgetMinor && (
        <p role="alert" className="mt-2 inline-block bg-quince px-3 py-1.5">
          The maximum bids are {money(committed - brief.budgetMinor, brief.currency)} over the budget.
        </p>
      )}
      {tickedEntries.length > 0 && (
        <BulkBar
          ticked={tickedEntries}
          onStage={(stage) => void moveAll(tickedEntries.map((entry) => [entry, stage]))}
          onTag={(name) => void tag(name)}
          onRemove={() => void remove(tickedEntries)}
          onNone={() => setTicked(new Set())}
        />
      )}
      {entries.length === 0 ? (
        <p className="mt-4 max-w-prose border-t border-rule pt-4">
          Nothing is shortlisted for this brief. In the{' '}
          <Link className="set" href="/pool">
            pool
          </Link>
          , press s on a domain, or select several and choose Shortlist.
        </p>
      ) : isBoard ? (
        <Board
          entries={shown}
          currency={brief.currency}
          onStage={(entry, stage) => {
            void change(entry, { stage });
            if (stage === 'to act on') void confirm(entry);
          }}
        />
      ) : (
        <ShortlistTable
          entries={shown}
          currency={brief.currency}
          ticked={ticked}
          confirmed={confirmed}
          onTick={({ domainId }, isTicked) =>
            setTicked((before) => {
              const next = new Set(before);
              if (isTicked) next.add(domainId);
              else next.delete(domainId);
              return next;
            })
          }
          onTickAll={(isTicked) => setTicked(new Set(isTicked ? shown.map(({ domainId }) => domainId) : []))}
          onChange={(entry, part) => void change(entry, part)}
          onConfirm={(entry) => void confirm(entry)}
          onRemove={(entry) => void remove([entry])}
        />
      )}
    </div>
  );
}
