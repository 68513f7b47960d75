import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { TrialReport } from '../../../../core/crawl/trial-report';
import { jobView } from '../../../../services/pool/views';
import { jobRows, readJob } from '../../../../store/base/jobs';
import { JobLine } from '../../../../ui/jobs';
import Link from '../../../../ui/link';
import { RefreshOnJobs } from '../../../../ui/sources/refresh';
import { TrialScreen } from '../../../../ui/sources/trial-screen';
import { currentBrief } from '../../../server';

export const metadata: Metadata = { title: 'Trial' };

export default async function TrialPage({ params }: { params: Promise<{ id: string }> }) {
  const { store, brief } = await currentBrief();
  const job = readJob(store, Number((await params).id));
  if (job?.kind !== 'trial') notFound();
  const isDone = job.state === 'done';
  return (
    <div className="mx-auto max-w-[1240px] px-6 py-6">
      <RefreshOnJobs />
      <p className="small">
        <Link href="/sources" className="hover:underline">
          Sources
        </Link>
      </p>
      <h1>What a crawl would get</h1>
      {!isDone && <JobLine job={jobView(job)} />}
      <div className="mt-3">
        <TrialScreen
          rows={jobRows(store, job.id, TrialReport)}
          total={(job.params.seeds as string[]).length}
          isDone={isDone}
          briefId={brief.id}
          excludedEndings={brief.excludedEndings}
        />
      </div>
    </div>
  );
}
