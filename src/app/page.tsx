import { cookies } from 'next/headers';
import type { Condition, Sort } from '../core/pool/conditions';
import {
  ago,
  closing,
  count,
  day,
  isSoon,
  linksOrigin,
  listingWords,
  money,
  phaseOrigin,
  phaseWords,
  score,
} from '../core/wording/format';
import { askPool } from '../services/pool/ask-pool';
import { jobView } from '../services/pool/views';
import { findsFor } from '../services/today/finds';
import { decisionsFor, runningFor } from '../services/today/today';
import { readDamage } from '../store/base/damage';
import { listJobs } from '../store/base/jobs';
import { lookupProblems } from '../store/lifecycle/lookup-problems';
import { waitingNames } from '../store/lifecycle/suspended-questions';
import { recentEvents } from '../store/lifecycle/verdicts';
import { orderLog } from '../store/orders/order-log';
import { listSieves, type Sieve } from '../store/pool/sieves';
import { shortlistIds } from '../store/shortlist/shortlist';
import { LookupProblems } from '../ui/check/lookup-problems';
import { EventLines } from '../ui/event-lines';
import { FitLine } from '../ui/fit-line';
import { JobLine } from '../ui/jobs';
import { Lifeline } from '../ui/lifeline';
import Link, { DomainLink } from '../ui/link';
import { NUMBER, PlainTable, plainColumnsFor } from '../ui/parts/plain-table';
import { DamageNotice } from '../ui/settings/damage-notice';
import { Decisions } from '../ui/today/decisions';
import { RunningOrders } from '../ui/today/running';
import { Tour } from '../ui/today/tour';
import { TOUR_COOKIE } from '../ui/today/tour-cookie';
import { currentBrief } from './server';

const SHOWN = 8;
const DAY = 86_400_000;
const FINDS_SHOWN = 18;
/** Fewer where something waits for a decision. */
const FINDS_BESIDE = 12;
const DECISIONS_SHOWN = 12;
const DROPPING: Condition = {
  type: 'choice',
  fact: 'phase',
  values: ['pending-delete'],
  not: false,
  keepUnknown: false,
};
const MEASURED: Condition = { type: 'range', fact: 'strength', min: 2, max: null, keepUnknown: false };
const CLOSING: Condition = { type: 'range', fact: 'closing', min: 0, max: 72, keepUnknown: false };

/** What wants attention. */
export default async function Today() {
  const { store, engine, brief, briefs } = await currentBrief();
  const now = store.now();
  const ask = (parts: Condition[], sort: Sort, limit = SHOWN) =>
    askPool(store, engine, brief, { parts, sorts: [sort], offset: 0, limit, histograms: [] });
  const [found, soon, dropping] = await Promise.all([
    findsFor(store, engine, brief, FINDS_SHOWN),
    ask([CLOSING], { fact: 'closing', descending: false }),
    ask([DROPPING, MEASURED], { fact: 'strength', descending: true }, 6),
  ]);
  const decisions = decisionsFor(store, briefs, now);
  const hasShortlist = briefs.some(({ id }) => shortlistIds(store, id).size > 0);
  const log = orderLog(store, {}, 6);
  const sieves = listSieves(store);
  const events = recentEvents(store, now - 7 * DAY, 6);
  const jobs = listJobs(store, 30).map(jobView);
  const open = jobs.filter((job) => ['running', 'queued', 'paused'].includes(job.state));
  const failed = jobs.filter((job) => job.state === 'failed').slice(0, 5);
  const isTouring = !(await cookies()).has(TOUR_COOKIE);

  return (
    <div className="mx-auto grid max-w-[1240px] grid-cols-1 lg:grid-cols-[1fr_400px] gap-x-10 px-6 py-6">
      {isTouring && <Tour />}
      <div>
        <Decisions decisions={decisions.slice(0, DECISIONS_SHOWN)} hasShortlist={hasShortlist} />
        <section aria-labelledby="finds">
          <h1 id="finds">Finds for {brief.name}</h1>
          <p className="small mb-3">
            To be had or soon, linked to, and not judged yet; what fits the brief best comes first, spam last.{' '}
            <Link className="set" href={`/pool?${found.address}`}>
              All {count(found.total)} in the pool
            </Link>
          </p>
          {found.finds.length === 0 ? (
            <Start hasDomains={found.size > 0} />
          ) : (
            <PlainTable
              label={`Finds for ${brief.name}`}
              rows={found.finds.slice(0, decisions.length > 3 ? FINDS_BESIDE : FINDS_SHOWN)}
              rowId={({ view }) => String(view.id)}
              columns={findColumns(now)}
            />
          )}
        </section>
      </div>
      <div className="flex flex-col gap-8">
        <DamageNotice damage={readDamage(store.folder)} now={Date.now()} />
        <LookupProblems problems={lookupProblems(store)} waiting={waitingNames(store)} now={now} />
        <RunningOrders orders={runningFor(store)} />
        <FreshSieves sieves={sieves} now={now} />
        <section aria-labelledby="closing">
          <h1 id="closing">Closing soon</h1>
          <p className="small mb-2">
            {soon.total === 0
              ? 'No listing closes within three days.'
              : `${count(soon.total)} listings close within three days.`}{' '}
            {soon.total > 0 && (
              <Link className="set" href="/pool?c=closing%3A0..72&sort=closing%3Aup">
                All of them
              </Link>
            )}
          </p>
          {soon.rows.map((row) => (
            <div key={row.id} className="flex items-baseline gap-2 border-t border-rule py-1.5">
              <Link href={`/domains/${row.name}`} className="min-w-0 truncate font-semibold hover:underline">
                {row.display}
              </Link>
              <span className="small truncate">{listingWords(row)}</span>
              <span
                className="ml-auto whitespace-nowrap"
                title={`read ${ago(row.listingAt, now)} from ${row.venue ?? 'a list'}`}
              >
                {money(row.priceMinor, row.currency)}
              </span>
              <span className={`whitespace-nowrap ${isSoon(row.closingAt, now) ? 'rounded-[3px] bg-quince px-1' : ''}`}>
                {closing(row.closingAt, now)}
              </span>
            </div>
          ))}
        </section>
        {log.length > 0 && (
          <section aria-labelledby="acts">
            <h1 id="acts">What was done</h1>
            {log.map((line) => (
              <p key={line.id} className="border-t border-rule py-1">
                <span className="small float-right ml-2 whitespace-nowrap">{ago(line.at, now)}</span>
                <span className="font-semibold wrap-anywhere">{line.name}</span>: {line.words}
              </p>
            ))}
          </section>
        )}
        {events.length > 0 && (
          <section aria-labelledby="happened">
            <h1 id="happened">What happened</h1>
            <p className="small mb-2">
              to watched and shortlisted names.{' '}
              <Link className="set" href="/check">
                The watch
              </Link>
            </p>
            <EventLines events={events} now={now} />
          </section>
        )}
        <section aria-labelledby="dropping">
          <h1 id="dropping">About to drop</h1>
          <p className="small mb-2">
            {dropping.total === 0
              ? 'No linked name is known to be in pending delete.'
              : `${count(dropping.total)} linked names are in pending delete; the strongest first.`}
          </p>
          {dropping.rows.map((row) => (
            <div key={row.id} className="flex items-baseline gap-2 border-t border-rule py-1.5">
              <Link href={`/domains/${row.name}`} className="min-w-0 truncate font-semibold hover:underline">
                {row.display}
              </Link>
              <span className="small whitespace-nowrap">strength {score(row.strength)}</span>
              <span
                className={`ml-auto whitespace-nowrap ${isSoon(row.dropAt, now) ? 'rounded-[3px] bg-quince px-1' : ''}`}
              >
                {row.dropAt === null ? 'date not known' : day(row.dropAt, now)}
              </span>
            </div>
          ))}
        </section>
        <section aria-labelledby="work">
          <h1 id="work">At work</h1>
          {open.length === 0 && <p className="small mt-1">Nothing is running.</p>}
          {open.map((job) => (
            <JobLine key={job.id} job={job} />
          ))}
          {failed.length > 0 && <h2 className="mt-4">Failed</h2>}
          {failed.map((job) => (
            <JobLine key={job.id} job={job} />
          ))}
        </section>
        <p className="small">
          {count(found.size)} domains in the pool, {day(now, now)}. Brief: {brief.name}.
        </p>
      </div>
    </div>
  );
}

/** What is new in kept sieves. */
function FreshSieves({ sieves, now }: { sieves: Sieve[]; now: number }) {
  const shown = sieves.filter(({ fresh, runs }) => fresh > 0 || runs !== 'off');
  if (shown.length === 0) return null;
  return (
    <section aria-labelledby="fresh">
      <h1 id="fresh">New in the sieves</h1>
      {shown.map((sieve) => (
        <div key={sieve.id} className="flex items-baseline gap-2 border-t border-rule py-1.5">
          <Link href={`/pool?${sieve.view}`} className="min-w-0 truncate font-semibold hover:underline">
            {sieve.name}
          </Link>
          <span className="small whitespace-nowrap">
            {sieve.lastAt === null ? 'not run yet' : `ran ${ago(sieve.lastAt, now)}, ${count(sieve.lastTotal)} pass`}
          </span>
          {sieve.fresh > 0 ? (
            <Link href={`/review?c=fresh%3A${sieve.id}`} className="set ml-auto whitespace-nowrap">
              review {count(sieve.fresh)} new
            </Link>
          ) : (
            <span className="small ml-auto whitespace-nowrap">nothing new</span>
          )}
        </div>
      ))}
    </section>
  );
}

function Start({ hasDomains }: { hasDomains: boolean }) {
  return (
    <div className="border-t border-rule py-4">
      <p className="max-w-prose">
        {hasDomains
          ? 'Domains are known, but none is checked and measured yet. Check a source, or what a sieve leaves.'
          : 'Two ways to a first find: crawl a site that your subject trusts, for the lapsed domains it still links to; or load a drop list.'}
      </p>
      <p className="mt-3 flex flex-wrap gap-3">
        <Link className="press" href="/sources?add=crawl">
          Crawl a site
        </Link>
        <Link className="quiet" href="/sources?add=list">
          Load a list
        </Link>
        <Link className="quiet" href="/briefs">
          Name trusted sites in a brief
        </Link>
        <Link className="quiet" href="/setup">
          See what works, and what it takes
        </Link>
      </p>
    </div>
  );
}

type Find = Awaited<ReturnType<typeof findsFor>>['finds'][number];
const ofFind = plainColumnsFor<Find>();

function findColumns(now: number) {
  return [
    ofFind('Domain', ({ view: row }) => (
      <>
        <DomainLink name={row.name}>{row.display}</DomainLink>
        {row.shortlisted && <span className="ml-1.5 text-small text-damson">shortlisted</span>}
      </>
    )),
    ofFind('Fit', ({ fit }) => <FitLine fit={fit} width={40} />),
    ofFind(
      'Status',
      ({ view: row }) => (
        <span
          title={phaseOrigin(row, now)}
          className={isSoon(row.dropAt, now) ? 'rounded-[3px] bg-quince px-1' : undefined}
        >
          {phaseWords(row, now)}
        </span>
      ),
      { className: 'whitespace-nowrap' },
    ),
    ofFind('Life', ({ view: row }) => <Lifeline life={row} now={now} width={96} height={18} />),
    ofFind(
      'Referring domains',
      ({ view: row }) => <span title={linksOrigin(row, now)}>{count(row.referringDomains)}</span>,
      NUMBER,
    ),
    ofFind(
      'Strength · trust',
      ({ view: row }) => (
        <span title={linksOrigin(row, now)}>
          {score(row.strength)} · {score(row.trust)}
        </span>
      ),
      NUMBER,
    ),
    ofFind(
      'Spam risk',
      ({ view: row, isSpam }) => (
        <span title={linksOrigin(row, now)}>
          {isSpam && <span className="mr-1 bg-quince px-1">spam</span>}
          {row.spamRisk ?? ''}
        </span>
      ),
      NUMBER,
    ),
  ];
}
