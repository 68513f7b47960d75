import type { Metadata } from 'next';
import { spamRule } from '../../core/spam/rules';
import { ago, count, plural } from '../../core/wording/format';
import { measureView } from '../../services/dossier/measured';
import Link, { DomainLink } from '../../ui/link';
import { Refit } from '../../ui/measures/refit';
import { NUMBER, PlainTable, plainColumnsFor } from '../../ui/parts/plain-table';
import { RefreshOnJobs } from '../../ui/sources/refresh';
import { getStore } from '../server';

export const metadata: Metadata = { title: 'Metrics' };

type View = ReturnType<typeof measureView>;
const ofNext = plainColumnsFor<View['next'][number]>();
const ofMeasure = plainColumnsFor<View['measures'][number]>();
const ofPoints = plainColumnsFor<[rule: string, points: number]>();

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
            <PlainTable
              label="What is measured next"
              rows={view.next}
              rowId={({ name }) => name}
              columns={[
                ofNext('Domain', ({ name }) => <DomainLink name={name} />),
                ofNext('Why', ({ why, wantedBy }) => (
                  <>
                    {why}
                    <span className="small block">{wantedBy}</span>
                  </>
                )),
                ofNext('What is due', ({ measures }) => measures.map((one) => TITLES[one]).join(', ') || 'nothing'),
                ofNext('Requests, about', ({ cost }) => count(cost), NUMBER),
                ofNext('Waits since', ({ since }) => ago(since, now), { isNumber: true, className: 'small' }),
              ]}
            />
          )}
        </section>
        <section aria-labelledby="costs">
          <h2 id="costs">What each asks, and how long it is fresh</h2>
          <PlainTable
            label="What each asks"
            isHeadless
            rows={view.measures}
            rowId={({ measure }) => measure}
            columns={[
              ofMeasure('Measure', ({ title }) => title, { isHead: true, className: 'w-44' }),
              ofMeasure('What it asks', ({ what }) => what),
              ofMeasure('Fresh for', ({ freshDays }) => `fresh for ${freshDays} days`, NUMBER),
            ]}
          />
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
        <PlainTable
          label="Points of the spam rules"
          rows={Object.entries(view.shipped.points)}
          rowId={([rule]) => rule}
          columns={[
            ofPoints('Rule', ([rule]) => (
              <span title={spamRule(rule)?.explanation}>{spamRule(rule)?.title ?? rule}</span>
            )),
            ofPoints('Shipped', ([, points]) => points, NUMBER),
            ...(view.fit ? [ofPoints('Yours', ([rule]) => view.points.points[rule] ?? 0, NUMBER)] : []),
          ]}
        />
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
