import type { Metadata } from 'next';
import { spamRule } from '../../core/spam/rules';
import { ago, count, plural } from '../../core/wording/format';
import { measureView } from '../../services/dossier/measured';
import Link from '../../ui/link';
import { Refit } from '../../ui/measures/refit';
import { RefreshOnJobs } from '../../ui/sources/refresh';
import { getStore } from '../server';

export const metadata: Metadata = { title: 'Metrics' };

/** What measuring costs and what is measured next, and the points of the spam rules with the marks they can be fitted to. */
export default async function MeasuresPage() {
  const store = await getStore();
  const now = store.now();
  const view = measureView(store);
  const left = Math.max(0, view.budget - view.spent);
  return (
    <div className="mx-auto grid max-w-[1240px] grid-cols-1 lg:grid-cols-[1fr_440px] gap-x-10 px-6 py-6">
      <RefreshOnJobs />
      <div className="flex min-w-0 flex-col gap-7">
        <section aria-labelledby="next">
          <h1 id="next">What is measured next, and why</h1>
          <p className="small mb-2">
            Links are measured for all domains together. What follows asks somebody outside for each domain, so it is
            for those that a kept sieve lets through, that are asked for, or that are on the shortlist.{' '}
            <strong className="text-ink">{count(view.spent)}</strong> of {plural(view.budget, 'request')} a day are
            spent, {count(left)} {left === 1 ? 'is' : 'are'} left;{' '}
            {view.queued === 0
              ? 'nothing waits'
              : `${plural(view.queued, 'domain')} wait${view.queued === 1 ? 's' : ''}`}
            . What is asked for by hand is measured beyond the budget.
          </p>
          {view.next.length === 0 ? (
            <p>
              Nothing waits to be measured. Choose names in the <Link href="/pool">pool</Link> and measure them in
              depth, or let a kept sieve do so with what is new in it.
            </p>
          ) : (
            <table className="w-full">
              <thead className="small">
                <tr className="text-left">
                  <th className="font-normal">Domain</th>
                  <th className="font-normal">Why</th>
                  <th className="font-normal">What is due</th>
                  <th className="text-right font-normal">Requests, about</th>
                  <th className="text-right font-normal">Waits since</th>
                </tr>
              </thead>
              <tbody>
                {view.next.map((entry) => (
                  <tr key={entry.name} className="border-t border-rule align-top">
                    <td className="py-1 pr-3">
                      <Link href={`/domains/${entry.name}`} className="font-semibold hover:underline">
                        {entry.name}
                      </Link>
                    </td>
                    <td className="py-1 pr-3">
                      {entry.why}
                      <span className="small block">{entry.wantedBy}</span>
                    </td>
                    <td className="py-1 pr-3">{entry.measures.map((one) => TITLES[one]).join(', ') || 'nothing'}</td>
                    <td className="py-1 text-right">{count(entry.cost)}</td>
                    <td className="small py-1 text-right">{ago(entry.since, now)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
        <section aria-labelledby="costs">
          <h2 id="costs">What each asks, and how long it is fresh</h2>
          <table className="w-full">
            <tbody>
              {view.measures.map((spec) => (
                <tr key={spec.measure} className="border-t border-rule">
                  <td className="w-44 py-1">{spec.title}</td>
                  <td className="py-1">{spec.what}</td>
                  <td className="py-1 text-right">fresh for {spec.freshDays} days</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="small mt-1">
            Before a sieve’s finds are measured: at least {plural(view.gate.leastReferring, 'referring domain')}, spam
            risk at most {view.gate.mostSpamRisk}. Budget and gate stand in <Link href="/settings">Settings</Link>.
          </p>
        </section>
      </div>
      <section aria-labelledby="points" className="min-w-0">
        <h1 id="points">Points of the spam rules</h1>
        <p className="small mb-2">
          Fitted on {view.points.fittedOn}. Risk is their sum, at most 100; at 50 the odds are even.
        </p>
        <table className="w-full">
          <thead className="small">
            <tr className="text-left">
              <th className="font-normal">Rule</th>
              <th className="text-right font-normal">Shipped</th>
              {view.fit && <th className="text-right font-normal">Yours</th>}
            </tr>
          </thead>
          <tbody>
            {Object.entries(view.shipped.points).map(([rule, points]) => (
              <tr key={rule} className="border-t border-faint">
                <td className="py-0.5" title={spamRule(rule)?.explanation}>
                  {spamRule(rule)?.title ?? rule}
                </td>
                <td className="text-right">{points}</td>
                {view.fit && <td className="text-right">{view.points.points[rule] ?? 0}</td>}
              </tr>
            ))}
          </tbody>
        </table>
        <Refit marks={view.marks} fit={view.fit} />
      </section>
    </div>
  );
}

const TITLES = {
  captures: 'history',
  forwarding: 'forwarding',
  referrers: 'referring domains',
  marks: 'trademarks',
} as const;
