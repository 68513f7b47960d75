'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { Answer } from '../../contracts/calls';
import type { Risk } from '../../core/bids/risk';
import type { Confirmed } from '../../core/lifecycle/confirmed';
import { closing, count, day, money, plural } from '../../core/wording/format';
import { call } from '../api';
import { confirmDomain } from '../dossier/confirm';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { RefreshOnOrders } from '../orders/refresh';
import type { OnChangeFn, RowSelectionState, SortingState } from '../parts/table';
import { act } from '../pool/acts';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';
import { RefreshOnJobs } from '../sources/refresh';
import { Board } from './board';
import { BudgetBar } from './budget-bar';
import { BulkBar } from './bulk-bar';
import type { Entry, EntryChange } from './entry';
import type { StageName } from './stages';
import { ORDERS, ShortlistTable } from './table';

interface ShortlistScreenProps {
  brief: { id: number; name: string; budgetMinor: number | null; currency: string; feesMinor: number; risk: Risk };
  plan: Omit<Answer<'GET /plan'>, 'entries' | 'bids' | 'turns'>;
  entries: Entry[];
}

const RISK_WORDS: [risk: Risk, words: string][] = [
  ['cautious', 'cautious: the low end of worth, all maximums at once within the budget'],
  ['even', 'even: the middle of worth'],
  ['bold', 'bold: the mean of worth, more bids than the budget could pay if all were won'],
];

/** An order as the address has it: a column, with a minus before it when the greatest comes first. */
const sortingOf = (order: string | null): SortingState =>
  order === null || order === 'due' || order === ''
    ? []
    : [{ id: order.replace(/^-/, ''), desc: order.startsWith('-') }];

/** The domains under consideration for a brief, and which of them to go for up to what. Every change is kept at once and can be undone. */
export function ShortlistScreen({ brief, plan, entries: given }: ShortlistScreenProps) {
  const router = useRouter();
  const redraw = useRedraw();
  const path = usePathname();
  const asked = useSearchParams();
  const now = useNow();
  const [entries, setEntries] = useState(given);
  const [ticked, setTicked] = useState<RowSelectionState>({});
  const [confirmed, setConfirmed] = useState<Record<string, Confirmed | 'asking'>>({});
  useEffect(() => setEntries(given), [given]);
  const isBoard = asked.get('as') === 'board';
  const sorting = sortingOf(asked.get('order'));
  const onSorting: OnChangeFn<SortingState> = (update) => {
    const [first] = typeof update === 'function' ? update(sorting) : update;
    view({ order: first ? `${first.desc ? '-' : ''}${first.id}` : 'due' });
  };
  const open = entries.filter(({ stage }) => stage !== 'had' && stage !== 'let go');
  const committed = open.reduce((sum, entry) => sum + (entry.maximumBidMinor ?? 0), 0);
  const next = Math.min(...open.flatMap(({ decidedAt }) => (decidedAt !== null && decidedAt > now ? decidedAt : [])));
  const view = (change: Record<string, string>) => {
    const parameters = new URLSearchParams({ ...Object.fromEntries(asked), ...change });
    router.replace(`${path}?${parameters}`, { scroll: false });
  };

  const change = async (entry: Entry, part: EntryChange, isUndo = false) => {
    setEntries((before) => before.map((other) => (other.domainId === entry.domainId ? { ...other, ...part } : other)));
    try {
      await call('PATCH /shortlist/{name}', {
        params: { name: entry.domain.name },
        body: { briefId: brief.id, ...part },
      });
      // the plan follows
      redraw();
      const fields = Object.keys(part) as (keyof EntryChange)[];
      const old: EntryChange = Object.fromEntries(fields.map((field) => [field, entry[field]]));
      if (!isUndo)
        toast(`${entry.domain.display}: kept`, {
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
      redraw();
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
        redraw,
      );
      const ids = new Set(going.map(({ domainId }) => domainId));
      setEntries((before) => before.filter((other) => !ids.has(other.domainId)));
      setTicked({});
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const tickedEntries = entries.filter(({ domainId }) => ticked[domainId]);
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
      await act({ kind: 'tag', tag: name }, { ids: tickedEntries.map(({ domainId }) => domainId) }, null, () =>
        redraw(),
      );
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };

  const onStage = (entry: Entry, stage: StageName) => {
    void change(entry, { stage });
    if (stage === 'to act on') void confirm(entry);
  };

  return (
    <div className="px-5 py-4">
      <RefreshOnOrders />
      <RefreshOnJobs />
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <h1>{brief.name}</h1>
        <span className="text-muted">
          {count(open.length)} under consideration
          {Number.isFinite(next) && `, the next decision ${closing(next, now)}`}
        </span>
        <span className="ml-auto flex flex-wrap items-baseline gap-2">
          {!isBoard && (
            <label className="flex items-baseline gap-1.5">
              <span className="small">sorted by</span>
              <select
                className="field py-0.5"
                aria-label="Sorted by"
                value={sorting[0]?.id ?? 'due'}
                onChange={(event) => view({ order: event.target.value })}
              >
                {ORDERS.map(([id, words]) => (
                  <option key={id} value={id}>
                    {words}
                  </option>
                ))}
              </select>
            </label>
          )}
          <button
            type="button"
            className="quiet"
            aria-pressed={isBoard}
            onClick={() => view({ as: isBoard ? 'table' : 'board' })}
          >
            {isBoard ? 'As a table' : 'As a board'}
          </button>
          <ExportMenu
            address={`/api/v1/export?what=shortlist&brief=${brief.id}`}
            label="the shortlist"
            also={{ address: `/api/v1/export?what=plan&brief=${brief.id}`, label: 'the bid plan' }}
          />
        </span>
      </div>
      {brief.budgetMinor === null ? (
        <p className="mt-2">
          The brief has no budget, so nothing is planned.{' '}
          <Link href="/briefs" className="set">
            Set one
          </Link>
        </p>
      ) : (
        <BudgetBar
          budgetMinor={brief.budgetMinor}
          boundMinor={plan.heldBeforeMinor}
          plannedMinor={plan.heldMinor}
          surplusMinor={plan.surplusMinor}
          overMinor={Math.max(0, committed - brief.budgetMinor)}
          currency={brief.currency}
        />
      )}
      {tickedEntries.length > 0 && (
        <BulkBar
          ticked={tickedEntries}
          onStage={(stage) => void moveAll(tickedEntries.map((entry) => [entry, stage]))}
          onTag={(name) => void tag(name)}
          onRemove={() => void remove(tickedEntries)}
          onNone={() => setTicked({})}
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
        <Board entries={entries} currency={brief.currency} onStage={onStage} />
      ) : (
        <ShortlistTable
          entries={entries}
          currency={brief.currency}
          feesMinor={brief.feesMinor}
          sorting={sorting}
          ticked={ticked}
          confirmed={confirmed}
          onSorting={onSorting}
          onTicked={setTicked}
          onChange={(entry, part) => void change(entry, part)}
          onStage={onStage}
          onConfirm={(entry) => void confirm(entry)}
          onRemove={(entry) => void remove([entry])}
        />
      )}
      {brief.budgetMinor !== null && entries.length > 0 && <HowPlanned brief={brief} plan={plan} />}
    </div>
  );
}

/** By what the plan is made, and how sure it is to be. */
function HowPlanned({ brief, plan }: Pick<ShortlistScreenProps, 'brief' | 'plan'>) {
  const redraw = useRedraw();
  const now = useNow();
  const { sales, worstMinor, spentMinor } = plan;
  const show = (minor: number) => money(Math.round(minor / 100) * 100, brief.currency);
  const setRisk = async (risk: Risk) => {
    try {
      await call('PATCH /briefs/{id}', { params: { id: brief.id }, body: { risk } });
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <section aria-label="How it is planned" className="mt-4 max-w-[110ch]">
      <label className="flex flex-wrap items-baseline gap-2">
        <span className="whitespace-nowrap">How sure</span>
        <select
          className="field max-w-full py-0.5"
          value={brief.risk}
          onChange={(event) => void setRisk(event.target.value as Risk)}
        >
          {RISK_WORDS.map(([risk, words]) => (
            <option key={risk} value={risk}>
              {words}
            </option>
          ))}
        </select>
      </label>
      <p className="small mt-1">
        The plan is the best choice for the budget, found exactly: each name has up to sixteen bids below its maximum to
        choose from, and what they bring over their cost on average is made the most. It spends {show(spentMinor)} on
        average, and {show(worstMinor)} if all were won at their maximum. It is made anew whenever something ends.{' '}
        {sales.count === 0 || sales.from === null || sales.to === null ? (
          <>
            No names that were sold are known, so no worth is suggested:{' '}
            <Link href="/sources?add=sales" className="set">
              add a list of sales
            </Link>
            .
          </>
        ) : (
          `Worth is suggested by ${plural(sales.count, 'sale')} from ${day(sales.from, now)} to ${day(sales.to, now)}.`
        )}
      </p>
    </section>
  );
}
