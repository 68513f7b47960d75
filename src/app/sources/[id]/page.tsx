import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { z } from 'zod';
import { ColumnTallySchema } from '../../../contracts/formats';
import { LISTING_KINDS } from '../../../core/formats/list-fields';
import { count, moment, plural } from '../../../core/wording/format';
import { crawlView } from '../../../services/crawl/crawl-view';
import { jobView } from '../../../services/pool/views';
import { jobsOfSource } from '../../../store/base/jobs';
import { readRates } from '../../../store/base/settings';
import { switchCounts } from '../../../store/crawl/find-causes';
import { UNDOABLE } from '../../../store/domains/undo';
import { phasesOfSource, readSource, rejectsOf } from '../../../store/sources/sources';
import { FindSwitchList } from '../../../ui/crawl/find-switches';
import { JobLine } from '../../../ui/jobs';
import Link from '../../../ui/link';
import { wordFor } from '../../../ui/pool/sentences';
import { ColumnReport } from '../../../ui/sources/column-report';
import { RefreshOnJobs } from '../../../ui/sources/refresh';
import { CheckSource, RefreshSource, UndoSource } from '../../../ui/sources/source-actions';
import { currentBrief } from '../../server';
import { CrawlReport } from './crawl-report';
import { VenueReport } from './venue-report';

export const metadata: Metadata = { title: 'Source' };

/** A venue that is read every few minutes has thousands. */
const JOBS_SHOWN = 4;

const Query = z.object({
  kind: z.enum(LISTING_KINDS).nullable().catch(null).default(null),
  offset: z.coerce.number().int().min(0).catch(0).default(0),
});

export default async function SourcePage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string>>;
}) {
  const { store } = await currentBrief();
  const source = readSource(store, Number((await params).id));
  if (!source) notFound();
  const now = store.now();
  const jobs = jobsOfSource(store, source.id).map(jobView);
  const phases = phasesOfSource(store, source.id);
  const inPool = phases.reduce((sum, { domains }) => sum + domains, 0);
  const rejects = rejectsOf(store, source.id, 12);
  const isCrawl = source.kind === 'crawl';
  const isCut = source.kind === 'cut';
  const cutFinds = isCut ? switchCounts(store, source.id) : null;
  const isUndone = source.undone_at !== null;
  const isAtWork = jobs.some(({ state }) => ['running', 'queued', 'paused'].includes(state));
  const { kind, offset } = Query.parse(await searchParams);
  const crawl = isCrawl ? crawlView(store, source.id) : null;
  const pages = crawl?.counts;
  const figures: [label: string, value: number][] = isCrawl
    ? [
        ['pages read', pages?.done ?? 0],
        ['known, not read', pages?.queued ?? 0],
        ['failed', pages?.failed ?? 0],
        ['domains found', crawl?.funnel.named ?? 0],
        ['left out or rejected', (crawl?.funnel.named ?? 0) - (crawl?.funnel.inPool ?? 0)],
        ['in the pool', crawl?.funnel.inPool ?? 0],
        ['lapsed', crawl?.funnel.lapsed ?? 0],
      ]
    : [
        [source.kind === 'zones' ? 'records read' : 'rows read', source.rows_read],
        [source.kind === 'zones' ? 'names that changed' : isCut ? 'to outside domains' : 'taken', source.rows_taken],
        [source.kind === 'zones' ? 'unchanged' : isCut ? 'within one domain' : 'duplicates', source.rows_repeated],
        ...(isCut ? [] : ([['excluded', source.rows_excluded]] as [string, number][])),
        ['rejected', source.rows_set_aside],
        ...(cutFinds
          ? ([
              ['domains found', inPool + cutFinds.out],
              ['left out', cutFinds.out],
            ] as [string, number][])
          : []),
        source.kind === 'links' ? ['new in the pool', source.domains_new] : ['in the pool', inPool],
      ];
  return (
    <div className="mx-auto max-w-[1180px] px-6 py-6">
      <RefreshOnJobs />
      <p className="small">
        <Link href="/sources" className="hover:underline">
          Sources
        </Link>
      </p>
      <h1>{source.name}</h1>
      <p className="small">
        {
          {
            list: 'A list',
            venue: 'A venue',
            crawl: 'A crawl',
            links: 'Backlink data',
            page: 'Pages looked at by hand',
            referrers: 'A file of referring pages',
            zones: 'Two copies of a zone',
            cut: 'A link export, cut to outside domains',
          }[source.kind]
        }
        , added {moment(source.created_at, now)}
      </p>
      <dl className="my-4 flex flex-wrap gap-x-9 gap-y-2 border-y border-rule py-3">
        {figures.map(([label, value]) => (
          <div key={label}>
            <dd className="font-serif text-title font-semibold">{count(value)}</dd>
            <dt className="small">{label}</dt>
          </div>
        ))}
      </dl>
      <div className="mb-4 flex flex-wrap gap-2">
        {source.kind !== 'links' && !isUndone && (
          <Link className="press" href={`/pool?c=source%3A${source.id}`}>
            See its domains in the pool
          </Link>
        )}
        {isCrawl && (
          <Link className="quiet" href={`/pool?c=source%3A${source.id}&c=phase%3Afree%2Cpending-delete%2Credemption`}>
            Only the lapsed
          </Link>
        )}
        {source.kind !== 'links' && !isUndone && <CheckSource id={source.id} />}
        {source.kind === 'venue' && !isUndone && <RefreshSource id={source.id} />}
        {UNDOABLE.includes(source.kind) && !isUndone && !isAtWork && <UndoSource source={source} />}
      </div>
      {jobs.slice(-JOBS_SHOWN).map((job) => (
        <JobLine key={job.id} job={job} />
      ))}
      {jobs.length > JOBS_SHOWN && <p className="small">and {plural(jobs.length - JOBS_SHOWN, 'earlier job')}</p>}
      {source.undone && (
        <p className="mb-4 bg-quince px-3 py-2">
          Undone {moment(source.undone_at ?? 0, now)}: {plural(source.undone.left, 'name')} left the pool,{' '}
          {count(source.undone.named)} stay because others name them too
          {source.undone.shortlisted > 0 && `, ${count(source.undone.shortlisted)} because they are on a shortlist`}.
          The figures above are those of the reading.
        </p>
      )}
      {source.kind === 'venue' && !isUndone && (
        <VenueReport store={store} source={source} rates={readRates(store)} now={now} kind={kind} offset={offset} />
      )}
      {cutFinds && !isUndone && (
        <div className="mt-5 max-w-[480px]">
          <FindSwitchList sourceId={source.id} switches={cutFinds.switches} out={cutFinds.out} />
        </div>
      )}
      {crawl && <CrawlReport sourceId={source.id} crawl={crawl} />}
      <div className="mt-6 grid grid-cols-1 lg:grid-cols-2 gap-10">
        <div className="flex flex-col gap-6">
          {phases.length > 0 && (
            <section aria-labelledby="phases">
              <h2 id="phases">Its domains by status</h2>
              {phases.map(({ phase, domains }) => (
                <div key={phase} className="flex justify-between border-t border-rule py-1">
                  <Link className="hover:underline" href={`/pool?c=source%3A${source.id}&c=phase%3A${phase}`}>
                    {phase === 'unknown' ? 'unknown or not yet checked' : wordFor(phase)}
                  </Link>
                  <span>{count(domains)}</span>
                </div>
              ))}
            </section>
          )}
          {rejects.length > 0 && (
            <section aria-labelledby="rejects">
              <h2 id="rejects">Rejected rows</h2>
              <p className="small mb-1">
                <a className="set" href={`/api/v1/sources/${source.id}/rejects`} download>
                  All {count(source.rows_set_aside)} with line number and reason
                </a>
              </p>
              {rejects.map((reject) => (
                <div key={reject.line} className="border-t border-rule py-1">
                  <span className="small mr-2">line {count(Math.abs(reject.line))}</span>
                  {reject.reason} <span className="small block truncate">{reject.sample}</span>
                </div>
              ))}
            </section>
          )}
        </div>
        <ColumnReport {...columnReport(source.detail)} />
      </div>
    </div>
  );
}

const Reading = z.object({
  tally: z.array(ColumnTallySchema).default([]),
  told: z.array(z.object({ title: z.string() })).default([]),
});
function columnReport(detail: Record<string, unknown>) {
  const { tally, told } = Reading.catch({ tally: [], told: [] }).parse(detail);
  return { tally, titles: told.map(({ title }) => title) };
}
