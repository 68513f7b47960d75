import type { Metadata } from 'next';
import Link from 'next/link';
import { notFound } from 'next/navigation';
import { jobsOfSource } from '../../../store/jobs';
import { eachReject, phasesOfSource, readSource } from '../../../store/sources';
import { count, moment } from '../../../ui/format';
import { JobLine } from '../../../ui/jobs';
import { wordFor } from '../../../ui/pool/sentences';
import { CheckSource } from '../../../ui/sources/check-source';
import { RefreshOnJobs } from '../../../ui/sources/refresh';
import { crawlView } from '../../crawl-view';
import { currentBrief } from '../../server';
import { jobView } from '../../views';
import { CrawlReport } from './crawl-report';

export const metadata: Metadata = { title: 'Source' };

export default async function SourcePage({ params }: { params: Promise<{ id: string }> }) {
  const { store } = await currentBrief();
  const source = readSource(store, Number((await params).id));
  if (!source) notFound();
  const now = store.now();
  const jobs = jobsOfSource(store, source.id).map(jobView);
  const phases = phasesOfSource(store, source.id);
  const rejects = [...eachReject(store, source.id, 12)];
  const isCrawl = source.kind === 'crawl';
  const crawl = isCrawl ? crawlView(store, source.id) : null;
  const pages = crawl?.counts;
  const figures: [label: string, value: number][] = isCrawl
    ? [
        ['pages read', pages?.done ?? 0],
        ['known, not read', pages?.queued ?? 0],
        ['failed', pages?.failed ?? 0],
        ['outside domains', source.rows_taken],
        ['new in the pool', source.domains_new],
        ['set aside', source.rows_excluded],
      ]
    : [
        [source.kind === 'zones' ? 'records read' : 'rows read', source.rows_read],
        [source.kind === 'zones' ? 'names that changed' : 'taken', source.rows_taken],
        [source.kind === 'zones' ? 'unchanged' : 'repeated', source.rows_repeated],
        ['excluded', source.rows_excluded],
        ['set aside', source.rows_set_aside],
        ['new in the pool', source.domains_new],
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
            venue: 'A venue feed',
            crawl: 'A crawl',
            links: 'A link index',
            page: 'Pages looked at by hand',
            referrers: 'A referrer file',
            zones: 'Two copies of a zone',
          }[source.kind]
        }
        , added {moment(source.created_at, now)}
      </p>
      <dl className="my-4 flex gap-9 border-y border-rule py-3">
        {figures.map(([label, value]) => (
          <div key={label}>
            <dd className="font-serif text-title font-semibold">{count(value)}</dd>
            <dt className="small">{label}</dt>
          </div>
        ))}
      </dl>
      <div className="mb-4 flex gap-2">
        {source.kind !== 'links' && (
          <Link className="press" href={`/pool?c=source%3A${source.id}`}>
            See its domains in the pool
          </Link>
        )}
        {isCrawl && (
          <Link className="quiet" href={`/pool?c=source%3A${source.id}&c=phase%3Afree%2Cpending-delete%2Credemption`}>
            Only the lapsed
          </Link>
        )}
        {source.kind !== 'links' && <CheckSource sourceId={source.id} />}
      </div>
      {jobs.map((job) => (
        <JobLine key={job.id} job={job} />
      ))}
      {crawl && <CrawlReport sourceId={source.id} crawl={crawl} />}
      <div className="mt-6 grid grid-cols-2 gap-10">
        <div className="flex flex-col gap-6">
          {phases.length > 0 && (
            <section aria-labelledby="phases">
              <h2 id="phases">Its domains by phase</h2>
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
              <h2 id="rejects">Rows set aside</h2>
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
      </div>
    </div>
  );
}
