'use client';

import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import type { Risk } from '../../core/bids/risk';
import { count, day, money, plural } from '../../core/wording/format';
import { call } from '../api';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { RefreshOnOrders } from '../orders/refresh';
import { useNow } from '../shell/live';
import { RefreshOnJobs } from '../sources/refresh';
import { Amounts, AmountTitles } from './amounts';
import { PlanTable, Ways } from './plan-table';
import type { PlanView } from './plan-view';
import { WorthHints } from './worth-hints';

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
        <span className="ml-auto">
          <ExportMenu address={`/api/v1/export?what=plan&brief=${brief.id}`} label="the bid plan" />
        </span>
        <Link href="/shortlist" className="quiet">
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
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void onFile(file);
          event.target.value = '';
        }}
      />
    </label>
  );
}
