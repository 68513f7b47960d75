import type { Metadata } from 'next';
import { headers } from 'next/headers';
import Link from 'next/link';
import { PageCheckScreen } from '../../ui/page-check/page-check-screen';

export const metadata: Metadata = { title: 'One page' };

export default async function OnePage({ searchParams }: { searchParams: Promise<{ url?: string | string[] }> }) {
  const { url } = await searchParams;
  const host = (await headers()).get('host') ?? '127.0.0.1:4310';
  return (
    <div className="mx-auto max-w-[1080px] px-6 py-6">
      <p className="small">
        <Link href="/sources" className="hover:underline">
          Sources
        </Link>
      </p>
      <h1 className="mb-3">One page, now</h1>
      <PageCheckScreen url={[url ?? ''].flat()[0]} origin={`http://${host}`} />
    </div>
  );
}
