import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { SearchRow } from '../../../../core/crawl/search-gates';
import { jobView } from '../../../../services/pool/views';
import { jobRows, readJob } from '../../../../store/base/jobs';
import { namedBefore } from '../../../../store/crawl/find-causes';
import { isSiteRead } from '../../../../store/crawl/sites';
import { JobLine } from '../../../../ui/jobs';
import Link from '../../../../ui/link';
import { RefreshOnJobs } from '../../../../ui/sources/refresh';
import { type SearchRowView, SearchScreen } from '../../../../ui/sources/search-screen';
import { currentBrief } from '../../../server';

export const metadata: Metadata = { title: 'Search' };

export default async function SearchPage({ params }: { params: Promise<{ id: string }> }) {
  const { store, brief } = await currentBrief();
  const job = readJob(store, Number((await params).id));
  if (job?.kind !== 'search') notFound();
  const rows = jobRows(store, job.id, SearchRow).map((row): SearchRowView => {
    const { isKnown, isJudged } = namedBefore(store, row.site);
    return { ...row, isKnown: isKnown || isSiteRead(store, row.site), isJudged };
  });
  return (
    <div className="mx-auto max-w-[1240px] px-6 py-6">
      <RefreshOnJobs />
      <p className="small">
        <Link href="/sources" className="hover:underline">
          Sources
        </Link>
      </p>
      <h1>Search for {(job.params.phrases as string[]).join(', ')}</h1>
      <JobLine job={jobView(job)} />
      {rows.length > 0 && (
        <SearchScreen
          rows={rows}
          phrases={job.params.phrases as string[]}
          briefId={brief.id}
          excludedEndings={brief.excludedEndings}
        />
      )}
      {rows.length === 0 && job.state === 'done' && (
        <p className="mt-3">The search knows no page for this. Try fewer or other words.</p>
      )}
    </div>
  );
}
