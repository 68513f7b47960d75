'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { PlanEntry } from '../../contracts/plan';
import type { PlannedBid, Turn } from '../../core/bids/plan';
import type { Risk } from '../../core/bids/risk';
import { closing, count, day, moment, money, plural } from '../../core/wording/format';
import { call } from '../api';
import Link from '../link';
import { MaximumSteps } from '../orders/maximum-steps';
import { openOrder } from '../orders/open';
import { RefreshOnOrders } from '../orders/refresh';
import { WayList } from '../orders/way-list';
import { useNow } from '../shell/live';
import { readBid } from '../shortlist/stages';
import { RefreshOnJobs } from '../sources/refresh';
import type { PlanView } from './plan-view';
import { Falling, WorthHints } from './worth-hints';

const RISK_WORDS: [risk: Risk, words: string][] = [
  ['cautious', 'cautious: the low end of worth, all maximums at once within the budget'],
  ['even', 'even: the middle of worth'],
  ['bold', 'bold: the mean of worth, more bids than the budget could pay if all were won'],
];

/** Which of the shortlist to go for, up to what, in which order. Whatever goes in can be changed here, and the plan follows. */
export function PlanScreen({ plan, chosen }: { plan: PlanView; chosen: Risk }) {
  const router = useRouter();
  const now = useNow();
  const { brief, bids, entries } = plan;
  const byId = new Map(entries.map((entry) => [entry.id, entry]));
  const inside = bids.filter(({ isIn }) => isIn);
  const outside = bids.filter(({ isIn }) => !isIn);
  const planned = new Set(bids.map(({ id }) => id));
  const missing = entries.filter(({ id }) => !planned.has(id));
  const show = (minor: number) => money(Math.round(minor / 100) * 100, null);
  const setRisk = async (risk: Risk) => {
    try {
      await call('PATCH /briefs/{id}', { params: { id: brief.id }, body: { risk } });
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="px-6 py-6">
      <RefreshOnJobs />
      <RefreshOnOrders />
      <div className="flex items-baseline gap-6">
        <h1>Bid plan for {brief.name}</h1>
        <Link href="/shortlist" className="quiet ml-auto">
          Shortlist
        </Link>
      </div>
      <p className="mt-2">
        {brief.budgetMinor === null ? (
          <>
            The brief has no budget, so nothing can be planned.{' '}
            <Link href="/briefs" className="set">
              Set one
            </Link>
          </>
        ) : (
          <>
            <strong>{show(plan.leftMinor)}</strong> of {show(brief.budgetMinor)} {brief.currency} are left
            {plan.heldBeforeMinor > 0 && ` (${show(plan.heldBeforeMinor)} are bid or spent, by the maximum bids)`}. The
            plan holds {show(plan.heldMinor)}, spends {show(plan.spentMinor)} on average and brings{' '}
            <strong>{show(plan.surplusMinor)}</strong> over its cost; if all were won at their maximum it would cost{' '}
            {show(plan.worstMinor)}.
          </>
        )}
      </p>
      <label className="mt-2 flex items-baseline gap-2">
        <span className="small whitespace-nowrap">How sure</span>
        <select className="field py-0.5" value={chosen} onChange={(event) => void setRisk(event.target.value as Risk)}>
          {RISK_WORDS.map(([risk, words]) => (
            <option key={risk} value={risk}>
              {words}
            </option>
          ))}
        </select>
        <span className="small">
          The best choice for the budget, found exactly: each name has up to sixteen bids below its maximum to choose
          from, and what they bring over their cost on average is made the most. Made anew whenever something ends.
        </span>
      </label>
      <Sales known={plan.sales} />
      <PlanTable
        title="Go for these, in this order"
        label="In the plan"
        bids={inside}
        byId={byId}
        plan={plan}
        now={now}
      />
      {outside.length > 0 && (
        <PlanTable title="Left out" label="Left out" bids={outside} byId={byId} plan={plan} now={now} />
      )}
      {missing.length > 0 && (
        <section className="mt-6" aria-label="Not planned">
          <div className="flex items-baseline">
            <h2>
              Not planned <span className="small font-normal">{plural(missing.length, 'domain')}</span>
            </h2>
            <span className="small ml-auto">
              <AmountTitles />
            </span>
          </div>
          <table className="mt-1.5 w-full">
            <tbody>
              {missing.map((entry) => (
                <tr key={entry.id} className="border-t border-rule align-top" data-domain={entry.name}>
                  <td className="w-72 py-1.5 pr-3">
                    <Link href={`/domains/${entry.name}`} className="font-semibold wrap-anywhere hover:underline">
                      {entry.display}
                    </Link>
                  </td>
                  <td className="py-1.5 pr-3">
                    <Ways entry={entry} currency={brief.currency} />
                    {entry.way !== null && (entry.worthLowMinor === null || entry.worthHighMinor === null) && (
                      <span className="small block">say what it is worth to you</span>
                    )}
                    <WorthHints entry={entry} briefId={brief.id} />
                  </td>
                  <td className="py-1 text-right">
                    <Amounts entry={entry} briefId={brief.id} feesMinor={brief.feesMinor} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      {entries.length === 0 && (
        <p className="mt-4 border-t border-rule pt-4">
          Nothing on the shortlist waits for a decision.{' '}
          <Link href="/pool" className="set">
            Find something
          </Link>
        </p>
      )}
    </div>
  );
}

function PlanTable({
  title,
  label,
  bids,
  byId,
  plan,
  now,
}: {
  title: string;
  label: string;
  bids: PlannedBid[];
  byId: ReadonlyMap<number, PlanEntry>;
  plan: PlanView;
  now: number;
}) {
  const show = (minor: number) => money(Math.round(minor / 100) * 100, null);
  return (
    <section className="mt-6" aria-label={label}>
      <h2>{title}</h2>
      {bids.length === 0 ? (
        <p className="small mt-1">nothing, with what is known and the money that is left</p>
      ) : (
        <table className="mt-1.5 w-full">
          <thead>
            <tr className="small text-left">
              <th scope="col" className="font-normal">
                Domain
              </th>
              <th scope="col" className="font-normal">
                Decided
              </th>
              <th scope="col" className="pl-3 text-right font-normal whitespace-nowrap">
                Maximum
              </th>
              <th scope="col" className="pl-3 text-right font-normal whitespace-nowrap">
                To win
              </th>
              <th scope="col" className="pl-3 text-right font-normal whitespace-nowrap">
                Costs then
              </th>
              <th scope="col" className="pl-3 text-right font-normal whitespace-nowrap">
                Brings
              </th>
              <th scope="col" className="pl-4 font-normal">
                Why, and how it can be had
              </th>
              <th scope="col" className="text-right font-normal">
                <AmountTitles />
              </th>
            </tr>
          </thead>
          <tbody>
            {bids.map((bid) => {
              const entry = byId.get(bid.id);
              const turn = plan.turns[bid.id];
              return (
                <tr key={bid.id} className="border-t border-rule align-top" data-domain={bid.name}>
                  <td className="w-56 py-1.5 pr-3">
                    <Link href={`/domains/${bid.name}`} className="font-semibold wrap-anywhere hover:underline">
                      {bid.name}
                    </Link>
                    {entry?.order && <span className="small block">{entry.order}</span>}
                    <button
                      type="button"
                      className={`${bid.isIn ? 'press' : 'quiet'} mt-1 block`}
                      aria-label={`Order ${bid.name}`}
                      onClick={() => openOrder(bid.name)}
                    >
                      Order
                    </button>
                  </td>
                  <td
                    className="py-1.5 pr-3 whitespace-nowrap"
                    title={bid.at === null ? undefined : moment(bid.at, now)}
                  >
                    {bid.at === null ? 'at once' : closing(bid.at, now)}
                  </td>
                  <td className="py-1.5 pl-3 text-right font-semibold">
                    {entry?.mostMinor == null ? '' : show(entry.mostMinor)}
                  </td>
                  <td className="py-1.5 pl-3 text-right">{Math.round(100 * bid.winChance)}%</td>
                  <td className="py-1.5 pl-3 text-right">{show(bid.paidMinor)}</td>
                  <td className="py-1.5 pl-3 text-right">{show(bid.surplusMinor)}</td>
                  <td className="py-1.5 pl-4">
                    {bid.why[0].toUpperCase() + bid.why.slice(1)}.{entry && <MostToPay entry={entry} />}
                    {entry && <Ways entry={entry} currency={plan.brief.currency} />}
                    {turn && <Turns turn={turn} />}
                    {entry && <Falling entry={entry} briefId={plan.brief.id} />}
                    {entry && <WorthHints entry={entry} briefId={plan.brief.id} />}
                  </td>
                  <td className="py-1 pl-4 text-right">
                    {entry && <Amounts entry={entry} briefId={plan.brief.id} feesMinor={plan.brief.feesMinor} />}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** The way to the one maximum of a row, behind a click. */
function MostToPay({ entry: { maximum, mostMinor, maximumBidMinor, display } }: { entry: PlanEntry }) {
  if (maximum === null || mostMinor === null) return null;
  return (
    <details>
      <summary className="small">How its maximum is reckoned</summary>
      <MaximumSteps
        maximum={maximum}
        ownMinor={maximumBidMinor}
        mostMinor={mostMinor}
        label={`How the maximum of ${display} is reckoned`}
      />
    </details>
  );
}

/** How it can be had, and what should be known before money moves. */
function Ways({ entry, currency }: { entry: PlanEntry; currency: string }) {
  return (
    <div>
      <WayList ways={entry.ways} chosen={entry.way} currency={currency} label={`Other ways to have ${entry.display}`} />
      {entry.concerns.length > 0 && (
        <span className="block">
          <strong>Before you pay:</strong> {entry.concerns.join('; ')}.
        </span>
      )}
    </div>
  );
}

/** What the plan becomes when this is lost, and when it is won. */
function Turns({ turn: { lost, won } }: { turn: { lost: Turn; won: Turn } }) {
  const words = ({ more, less }: Turn) =>
    [
      ...(more.length > 0 ? [`more for ${more.slice(0, 3).join(', ')}`] : []),
      ...(less.length > 0 ? [`less for ${less.slice(0, 3).join(', ')}`] : []),
    ].join('; ') || 'the rest stays as it is';
  return (
    <span className="small block">
      If lost: {words(lost)}. If won: {words(won)}.
    </span>
  );
}

const FIELDS = [
  ['worthLowMinor', 'Worth at least'],
  ['worthHighMinor', 'Worth at most'],
  ['feesMinor', 'Fees'],
  ['maximumBidMinor', 'Maximum bid'],
] as const;

const AmountTitles = () => (
  <span className="inline-flex gap-1.5">
    {['worth', 'to', 'fees', 'at most'].map((title) => (
      <span key={title} className="w-17 text-right">
        {title}
      </span>
    ))}
  </span>
);

/** What the person says of one domain; each is kept when its field is left. */
function Amounts({ entry, briefId, feesMinor }: { entry: PlanEntry; briefId: number; feesMinor: number }) {
  const router = useRouter();
  const [wrong, setWrong] = useState<string | null>(null);
  const keep = async (field: (typeof FIELDS)[number][0], text: string) => {
    const minor = readBid(text);
    setWrong(minor === undefined ? field : null);
    if (minor === undefined || minor === entry[field]) return;
    const change = (value: number | null) =>
      call('PATCH /shortlist/{name}', { params: { name: entry.name }, body: { briefId, [field]: value } });
    try {
      await change(minor);
      router.refresh();
      toast(`${entry.display}: kept`, {
        action: {
          label: 'Undo',
          onClick: () =>
            void change(entry[field])
              .then(() => router.refresh())
              .catch((error: Error) => toast(error.message)),
        },
      });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <span className="inline-flex gap-1.5">
      {FIELDS.map(([field, label]) => {
        const minor = entry[field];
        const text = minor === null ? '' : money(minor, null);
        return (
          <input
            key={`${field} ${text}`}
            className="field w-17 py-0.5 text-right"
            inputMode="decimal"
            aria-label={`${label} of ${entry.display}`}
            aria-invalid={wrong === field}
            placeholder={field === 'feesMinor' ? money(feesMinor, null) : field === 'maximumBidMinor' ? 'none' : ''}
            defaultValue={text}
            onBlur={(event) => void keep(field, event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
          />
        );
      })}
      {wrong && <span className="small">write it as 140 or 140.50</span>}
    </span>
  );
}

/** Which sales worth is judged by, and more of them from a file. */
function Sales({ known }: { known: PlanView['sales'] }) {
  const router = useRouter();
  const now = useNow();
  const add = async (file: File) => {
    try {
      const { taken, repeated, setAside } = await call('POST /sales', { query: { name: file.name }, file });
      toast(`${plural(taken, 'sale')} taken, ${count(repeated)} known already, ${count(setAside)} set aside`);
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const addPhrases = async (file: File) => {
    try {
      const { taken, unknown, setAside } = await call('POST /rankings', { query: { name: file.name }, file });
      toast(
        `${plural(taken, 'phrase')} taken, ${count(unknown)} of names not in the pool, ${count(setAside)} set aside`,
      );
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <p className="small mt-1.5">
      {known.count === 0 || known.from === null || known.to === null
        ? 'No names that were sold are known, so no worth is suggested.'
        : `Worth is suggested by ${plural(known.count, 'sale')} from ${day(known.from, now)} to ${day(known.to, now)}.`}{' '}
      <FileLink label="Add a list of sales" onFile={add} /> with columns for domain, price and date;{' '}
      <FileLink label="a list of phrases" onFile={addPhrases} /> with domain, phrase, position and searches.
    </p>
  );
}

function FileLink({ label, onFile }: { label: string; onFile(file: File): Promise<void> }) {
  return (
    <label className="set cursor-pointer">
      {label}
      <input
        type="file"
        className="sr-only"
        accept=".csv,.tsv,.txt,text/csv"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void onFile(file);
          event.target.value = '';
        }}
      />
    </label>
  );
}
