import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { pageCheckView } from '../../services/crawl/page-check';
import Link from '../../ui/link';
import { PageCheckScreen } from '../../ui/page-check/page-check-screen';
import { RefreshOnJobs } from '../../ui/sources/refresh';
import { parametersOf, type SearchParams } from '../search-params';
import { getStore } from '../server';

export const metadata: Metadata = { title: 'One page' };

export default async function OnePage({ searchParams }: { searchParams: SearchParams }) {
  const query = await parametersOf(searchParams);
  const host = (await headers()).get('host') ?? '127.0.0.1:4310';
  const view = pageCheckView(await getStore(), Number(query.get('check')) || 0);
  return (
    <div className="mx-auto max-w-[1080px] px-6 py-6">
      <RefreshOnJobs />
      <p className="small">
        <Link href="/sources" className="hover:underline">
          Sources
        </Link>
      </p>
      <h1 className="mb-3">One page, now</h1>
      <PageCheckScreen url={query.get('url') ?? ''} origin={`http://${host}`} view={view} />
    </div>
  );
}
