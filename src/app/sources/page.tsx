import type { Metadata } from 'next';
import { Suspense } from 'react';
import { describedVenues } from '../../services/connections/connections';
import { jobView } from '../../services/pool/views';
import { listJobs } from '../../store/base/jobs';
import { listSources } from '../../store/sources/sources';
import { listWatches } from '../../store/sources/watches';
import { ExportMenu } from '../../ui/export-menu';
import { JobLine } from '../../ui/jobs';
import Link from '../../ui/link';
import { AddSource } from '../../ui/sources/add-source';
import { RefreshOnJobs } from '../../ui/sources/refresh';
import { SourceTable } from '../../ui/sources/source-table';
import { Watches } from '../../ui/sources/watches';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Sources' };

const KIND_WORDS = {
  list: 'list',
  venue: 'venue',
  crawl: 'crawl',
  links: 'backlink data',
  page: 'pages by hand',
  referrers: 'referring pages',
  zones: 'zone pair',
  cut: 'link export',
} as const;

export default async function SourcesPage() {
  const { store, brief } = await currentBrief();
  const sources = listSources(store);
  const watches = listWatches(store);
  const now = store.now();
  const open = listJobs(store, 30)
    .map(jobView)
    .filter((job) => ['running', 'queued', 'paused'].includes(job.state));
  return (
    <div className="mx-auto grid max-w-[1240px] grid-cols-1 lg:grid-cols-[1fr_440px] gap-x-10 px-6 py-6 lg:has-[[data-wide]]:grid-cols-1">
      <RefreshOnJobs />
      {/* jobs come and go here: the page stays where the form beside it stands */}
      <section aria-labelledby="sources" className="[overflow-anchor:none]">
        <div className="flex items-baseline justify-between gap-4">
          <h1 id="sources">Sources</h1>
          {sources.length > 0 && <ExportMenu address="/api/v1/export?what=sources" label="all sources" />}
        </div>
        <p className="small mb-3">
          What is gathered, from where, with what yield. Besides:{' '}
          <Link href="/page" className="set">
            look at one page
          </Link>
          ,{' '}
          <Link href="/targets" className="set">
            broken links
          </Link>
          .
        </p>
        {open.map((job) => (
          <JobLine key={job.id} job={job} />
        ))}
        {sources.length === 0 ? (
          <p className="border-t border-rule py-3">
            Nothing yet. Start on the right: seeds of a crawl, a file, or a venue.
          </p>
        ) : (
          <SourceTable
            rows={sources.map((source) => ({
              id: source.id,
              name: source.name,
              kind: KIND_WORDS[source.kind],
              isUndone: source.undone_at !== null,
              read: source.rows_read,
              taken: source.rows_taken,
              isNew: source.domains_new,
              repeated: source.rows_repeated,
              excluded: source.rows_excluded,
              rejected: source.rows_set_aside,
              createdAt: source.created_at,
            }))}
          />
        )}
        {watches.length > 0 && <Watches watches={watches} now={now} />}
      </section>
      <Suspense>
        <AddSource
          briefId={brief.id}
          trustedSites={brief.trustedSites}
          excludedEndings={brief.excludedEndings}
          described={describedVenues(store)}
        />
      </Suspense>
    </div>
  );
}
