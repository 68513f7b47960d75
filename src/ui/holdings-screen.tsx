'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import { call } from './api';
import { day, isSoon, money, plural } from './format';
import { useNow } from './shell/live';
import { readBid } from './shortlist/stages';

interface HoldingShown {
  domainId: number;
  name: string;
  briefName: string | null;
  briefCurrency: string | null;
  boughtAt: number;
  costMinor: number;
  feesMinor: number;
  currency: string;
  seller: string;
  renewsAt: number | null;
  renewalMinor: number | null;
  note: string;
  homeCostMinor: number;
  homeRenewalMinor: number | null;
}

type Change = Partial<Pick<HoldingShown, 'renewsAt' | 'renewalMinor' | 'note'>>;
const YEAR = 365.25 * 86_400_000;

/** What is owned: what it cost, and what it costs to keep. */
export function HoldingsScreen({ holdings, currency }: { holdings: HoldingShown[]; currency: string }) {
  const router = useRouter();
  const now = useNow();
  const cost = holdings.reduce((sum, { homeCostMinor }) => sum + homeCostMinor, 0);
  const within = holdings.filter(({ renewsAt }) => renewsAt !== null && renewsAt < now + YEAR);
  const renewals = within.reduce((sum, { homeRenewalMinor }) => sum + (homeRenewalMinor ?? 0), 0);
  const change = async (name: string, part: Change, isUndo = false) => {
    try {
      const { before } = await call<{ before: Change }>(`/holdings/${name}`, { method: 'PATCH', body: part });
      router.refresh();
      if (!isUndo)
        toast(`${name} changed`, { action: { label: 'Undo', onClick: () => void change(name, before, true) } });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="px-6 py-6">
      <div className="flex items-baseline gap-6">
        <h1>Holdings</h1>
        {holdings.length > 0 && (
          <span className="text-muted">
            {plural(holdings.length, 'domain')}, {money(cost, currency)} paid with fees; renewals within a year{' '}
            {money(renewals, currency)}
          </span>
        )}
      </div>
      {holdings.length === 0 ? (
        <p className="mt-4 max-w-prose border-t border-rule pt-4">
          Nothing is owned yet. What an{' '}
          <Link href="/orders" className="set">
            order
          </Link>{' '}
          wins stands here with its cost and its renewal.
        </p>
      ) : (
        <table className="mt-4 w-full bg-sheet">
          <thead>
            <tr className="small border-b border-rule text-left">
              <th className="px-2 py-1.5 font-normal">Domain</th>
              <th className="px-2 font-normal">Had since, from</th>
              <th className="px-2 font-normal">Brief</th>
              <th className="px-2 text-right font-normal">Price</th>
              <th className="px-2 text-right font-normal">Fees</th>
              <th className="px-2 font-normal">Renews</th>
              <th className="px-2 font-normal">Renewal</th>
              <th className="w-1/4 px-2 font-normal">Note</th>
            </tr>
          </thead>
          <tbody>
            {holdings.map((holding) => (
              <tr key={holding.domainId} className="border-b border-faint align-baseline" data-holding={holding.name}>
                <td className="px-2 py-1.5">
                  <Link href={`/domains/${holding.name}`} className="font-semibold wrap-anywhere hover:underline">
                    {holding.name}
                  </Link>
                </td>
                <td className="px-2">
                  {day(holding.boughtAt, now)}, {holding.seller}
                </td>
                <td className="px-2">{holding.briefName}</td>
                <td className="px-2 text-right whitespace-nowrap">{money(holding.costMinor, holding.currency)}</td>
                <td className="px-2 text-right whitespace-nowrap">
                  {holding.feesMinor > 0 ? money(holding.feesMinor, holding.briefCurrency) : ''}
                </td>
                <td className="px-2 whitespace-nowrap">
                  <input
                    type="date"
                    className={`field ${isSoon(holding.renewsAt, now) ? 'bg-quince' : ''}`}
                    aria-label={`Renewal date of ${holding.name}`}
                    key={holding.renewsAt}
                    defaultValue={
                      holding.renewsAt === null ? '' : new Date(holding.renewsAt).toISOString().slice(0, 10)
                    }
                    onBlur={(event) => {
                      const at = event.target.value === '' ? null : Date.parse(event.target.value);
                      const before = holding.renewsAt === null ? null : Math.floor(holding.renewsAt / 86_400_000);
                      if (before !== (at === null ? null : Math.floor(at / 86_400_000)))
                        void change(holding.name, { renewsAt: at });
                    }}
                  />
                </td>
                <td className="px-2 whitespace-nowrap">
                  <input
                    className="field w-20 text-right"
                    inputMode="decimal"
                    aria-label={`Renewal price of ${holding.name}`}
                    key={holding.renewalMinor}
                    defaultValue={money(holding.renewalMinor, null)}
                    onBlur={(event) => {
                      const minor = readBid(event.target.value);
                      if (minor !== undefined && minor !== holding.renewalMinor)
                        void change(holding.name, { renewalMinor: minor });
                    }}
                  />{' '}
                  {holding.briefCurrency}
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
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
