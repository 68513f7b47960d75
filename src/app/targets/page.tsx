import type { Metadata } from 'next';
import Link from 'next/link';
import { deadTargets, eachLinkingPage } from '../../store/pages';
import { ago, count } from '../../ui/format';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Dead targets' };

const SHOWN = 200;

export default async function TargetsPage({ searchParams }: { searchParams: Promise<{ url?: string }> }) {
  const { store } = await currentBrief();
  const now = store.now();
  const { url } = await searchParams;
  const targets = deadTargets(store, SHOWN);
  const pages = url ? [...eachLinkingPage(store, url)] : [];
  return (
    <div className="mx-auto max-w-[1180px] px-6 py-6">
      <div className="flex items-start justify-between">
        <div>
          <h1>Dead targets</h1>
          <p className="small mb-3">Pages that are gone on domains that live, and the pages that still link to them.</p>
        </div>
        {targets.length > 0 && (
          <a href="/api/v1/targets?format=csv" download className="quiet">
            Export with every linking page
          </a>
        )}
      </div>
      {targets.length === 0 ? (
        <p className="border-t border-rule py-3">
          None yet.{' '}
          <Link href="/page" className="set">
            Look at a page
          </Link>{' '}
          of links: what is dead on it comes here.
        </p>
      ) : (
        <table className="w-full">
          <thead>
            <tr className="small text-left">
              <th className="py-1 font-normal">Dead page</th>
              <th className="text-right font-normal">Answer</th>
              <th className="text-right font-normal">Linking domains</th>
              <th className="text-right font-normal">Linking pages</th>
              <th className="text-right font-normal">Asked</th>
            </tr>
          </thead>
          <tbody>
            {targets.map((target) => (
              <tr key={target.url} className={`border-t border-rule ${target.url === url ? 'bg-damson-soft' : ''}`}>
                <td className="max-w-[520px] truncate py-1.5">
                  <Link
                    href={`/targets?url=${encodeURIComponent(target.url)}`}
                    className="font-semibold hover:underline"
                  >
                    {target.url.replace(/^https?:\/\//, '')}
                  </Link>
                </td>
                <td className="text-right">{target.status ?? target.outcome}</td>
                <td className="text-right">{count(target.domains)}</td>
                <td className="text-right">{count(target.pages)}</td>
                <td className="text-right">{ago(target.checkedAt, now)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {url && (
        <section aria-labelledby="linking" className="mt-6">
          <h2 id="linking">Pages that link to {url.replace(/^https?:\/\//, '')}</h2>
          {pages.map((page) => (
            <div key={page.page} className="grid grid-cols-[3fr_2fr_2fr] gap-4 border-t border-rule py-1.5">
              <span className="truncate">{page.page.replace(/^https?:\/\//, '')}</span>
              <span className="truncate">
                “{page.anchor}”{page.nofollow ? ', nofollow' : ''}
              </span>
              <span className="small truncate">{page.contact?.replace(/^mailto:/, '') ?? 'no contact known'}</span>
            </div>
          ))}
        </section>
      )}
    </div>
  );
}
