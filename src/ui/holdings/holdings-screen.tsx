'use client';

import { Fragment, useState } from 'react';
import { toast } from 'sonner';
import type { Holding } from '../../contracts/portfolio';
import { PLANS, STATUSES } from '../../core/money/holding-kinds';
import type { Grouping, ProfitLine } from '../../core/money/profit';
import { readAmount } from '../../core/money/typed-amount';
import { count, day, isSoon, money, plural } from '../../core/wording/format';
import { call } from '../api';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';
import { undoToast } from '../undo';
import { EntryForm } from './entry-form';
import { Profit } from './profit';

/** With what it brought and what a renewal costs, in the person's currency. */
export interface HoldingShown extends Holding {
  resultMinor: number;
  homeRenewalMinor: number | null;
}

type Change = Partial<Pick<Holding, 'renewsAt' | 'renewalMinor' | 'note' | 'plan' | 'status'>>;
const YEAR = 365.25 * 86_400_000;
/** What is done next, by the plan. */
const NEXT: Record<string, { path: string; words: string }> = {
  redirect: { path: 'redirects', words: 'where its addresses move' },
  rebuild: { path: 'rebuild', words: 'what to bring back' },
  resell: { path: 'sale', words: 'offer it for sale' },
};

/** What is owned: what it cost, what it costs to keep, what is done with it, and what it brought. */
export function HoldingsScreen({
  holdings,
  currency,
  by,
  lines,
}: {
  holdings: HoldingShown[];
  currency: string;
  by: Grouping;
  lines: ProfitLine[];
}) {
  const redraw = useRedraw();
  const now = useNow();
  const [entering, setEntering] = useState<string | null>(null);
  const kept = holdings.filter(({ status }) => status !== 'sold' && status !== 'given up');
  const within = kept.filter(({ renewsAt }) => renewsAt !== null && renewsAt < now + YEAR);
  const renewals = within.reduce((sum, { homeRenewalMinor }) => sum + (homeRenewalMinor ?? 0), 0);
  const result = holdings.reduce((sum, { resultMinor }) => sum + resultMinor, 0);
  const change = async (name: string, part: Change, isUndo = false) => {
    try {
      const { before } = await call('PATCH /holdings/{name}', { params: { name }, body: part });
      redraw();
      if (!isUndo)
        toast(`${name} changed`, { action: { label: 'Undo', onClick: () => void change(name, before, true) } });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const bringIn = async (file: File | undefined) => {
    if (!file) return;
    try {
      const answer = await call('POST /holdings', { file });
      undoToast(
        `${plural(answer.taken, 'domain')} taken, ${count(answer.known)} known already, ${count(answer.setAside)} rejected`,
        answer.act,
        redraw,
      );
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="px-6 py-6">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <h1>Portfolio</h1>
        {holdings.length > 0 && (
          <span className="text-muted">
            {plural(kept.length, 'domain')} kept; renewals within a year {money(renewals, currency)}; result so far{' '}
            {money(result, currency)}
          </span>
        )}
        <span className="ml-auto">
          {holdings.length > 0 && <ExportMenu address="/api/v1/export?what=portfolio" label="what you own" />}
        </span>
        <Link className="quiet" href="/learning">
          Outcomes
        </Link>
        <label className="quiet cursor-pointer focus-within:outline-2 focus-within:outline-damson">
          Bring in what you own
          <input
            type="file"
            className="sr-only"
            onChange={(event) => {
              void bringIn(event.target.files?.[0]);
              event.target.value = '';
            }}
          />
        </label>
      </div>
      {holdings.length === 0 ? (
        <p className="mt-4 max-w-prose border-t border-rule pt-4">
          Nothing is owned yet. What an{' '}
          <Link href="/orders" className="set">
            order
          </Link>{' '}
          wins stands here with its cost and its renewal. What you have already is brought in from a table with domain,
          and bought, cost, currency, renews, renewal and registrar where you have them.
        </p>
      ) : (
        <table className="mt-4 w-full bg-sheet" aria-label="Portfolio">
          <thead>
            <tr className="small border-b border-rule text-left">
              <th className="w-52 px-2 py-1.5 font-normal">Domain</th>
              <th className="px-2 font-normal">Had since, from</th>
              <th className="px-2 font-normal">Plan</th>
              <th className="px-2 font-normal">Stands</th>
              <th className="px-2 text-right font-normal">Cost, fees</th>
              <th className="px-2 font-normal">Renews, for</th>
              <th className="px-2 text-right font-normal">Result, {currency}</th>
              <th className="w-36 px-2 font-normal">Note</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {holdings.map((holding) => (
              <Fragment key={holding.domainId}>
                <tr className="border-b border-faint align-baseline" data-holding={holding.name}>
                  <td className="px-2 py-1.5">
                    <Link href={`/domains/${holding.name}`} className="font-semibold wrap-anywhere hover:underline">
                      {holding.name}
                    </Link>
                    {NEXT[holding.plan] && holding.status !== 'sold' && holding.status !== 'given up' && (
                      <Link
                        href={`/domains/${holding.name}/${NEXT[holding.plan].path}`}
                        className="set small block w-fit"
                      >
                        {NEXT[holding.plan].words}
                      </Link>
                    )}
                    {holding.plan === 'rebuild' && holding.stepsDone > 0 && (
                      <span className="small block">{plural(holding.stepsDone, 'step')} done</span>
                    )}
                  </td>
                  <td className="px-2">
                    {day(holding.boughtAt, now)}, {holding.seller}
                    {holding.briefName && <span className="small block">{holding.briefName}</span>}
                  </td>
                  <td className="px-2">
                    <Choice
                      label={`Plan for ${holding.name}`}
                      value={holding.plan}
                      options={PLANS}
                      onChange={(plan) => void change(holding.name, { plan })}
                    />
                  </td>
                  <td className="px-2">
                    <Choice
                      label={`How ${holding.name} stands`}
                      value={holding.status}
                      options={STATUSES}
                      onChange={(status) => void change(holding.name, { status })}
                    />
                  </td>
                  <td className="px-2 text-right whitespace-nowrap">
                    {money(holding.costMinor, holding.currency)}
                    {holding.feesMinor > 0 && (
                      <span className="small block">+ {money(holding.feesMinor, holding.briefCurrency)}</span>
                    )}
                  </td>
                  <td className="px-2 whitespace-nowrap">
                    <Renewal
                      holding={holding}
                      currency={currency}
                      onChange={(part) => void change(holding.name, part)}
                    />
                  </td>
                  <td className="px-2 text-right font-semibold whitespace-nowrap">
                    {money(holding.resultMinor, null)}
                  </td>
                  <td className="px-2">
                    <input
                      className="field w-full"
                      aria-label={`Note on ${holding.name}`}
                      key={holding.note}
                      defaultValue={holding.note}
                      onBlur={(event) =>
                        event.target.value !== holding.note && void change(holding.name, { note: event.target.value })
                      }
                    />
                  </td>
                  <td className="px-2">
                    <button
                      type="button"
                      className="quiet"
                      aria-expanded={entering === holding.name}
                      aria-label={`Enter a sum for ${holding.name}`}
                      onClick={() => setEntering(entering === holding.name ? null : holding.name)}
                    >
                      Enter a sum
                    </button>
                  </td>
                </tr>
                {entering === holding.name && (
                  <tr>
                    <td colSpan={9} className="bg-damson-soft px-2 py-2">
                      <EntryForm name={holding.name} currency={currency} onDone={() => setEntering(null)} />
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </tbody>
        </table>
      )}
      {lines.length > 0 && <Profit by={by} lines={lines} currency={currency} />}
    </div>
  );
}

function Choice<Option extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly Option[];
  onChange(value: Option): void;
}) {
  return (
    <select
      className="field py-0.5"
      aria-label={label}
      value={value}
      onChange={(event) => {
        const chosen = options.find((option) => option === event.target.value);
        if (chosen) onChange(chosen);
      }}
    >
      {options.map((option) => (
        <option key={option}>{option}</option>
      ))}
    </select>
  );
}

function Renewal({
  holding,
  currency,
  onChange,
}: {
  holding: Holding;
  currency: string;
  onChange(part: Change): void;
}) {
  const now = useNow();
  return (
    <>
      <input
        type="date"
        className={`field py-0.5 ${isSoon(holding.renewsAt, now) ? 'bg-quince' : ''}`}
        aria-label={`Renewal date of ${holding.name}`}
        key={holding.renewsAt}
        defaultValue={holding.renewsAt === null ? '' : new Date(holding.renewsAt).toISOString().slice(0, 10)}
        onBlur={(event) => {
          const at = event.target.value === '' ? null : Date.parse(event.target.value);
          const before = holding.renewsAt === null ? null : Math.floor(holding.renewsAt / 86_400_000);
          if (before !== (at === null ? null : Math.floor(at / 86_400_000))) onChange({ renewsAt: at });
        }}
      />{' '}
      <input
        className="field w-16 py-0.5 text-right"
        inputMode="decimal"
        aria-label={`Renewal price of ${holding.name}`}
        key={`price ${holding.renewalMinor}`}
        defaultValue={money(holding.renewalMinor, null)}
        onBlur={(event) => {
          const minor = readAmount(event.target.value);
          if (minor !== undefined && minor !== holding.renewalMinor) onChange({ renewalMinor: minor });
        }}
      />{' '}
      {holding.briefCurrency ?? currency}
    </>
  );
}
