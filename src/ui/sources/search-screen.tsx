'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { call } from '../api';
import { ActionForm } from '../fields';
import { count, plural } from '../format';
import { CrawlOptions, crawlOptionsOf } from './crawl-options';

export interface SearchRowView {
  phrase: string;
  url: string;
  title: string;
  site: string;
  gate: 'site' | 'page';
  because: string;
  readers: number | null;
}

/** Results of a search, and the crawl of those that are ticked: whole sites, and single pages. */
export function SearchScreen({
  rows,
  briefId,
  excludedEndings,
}: {
  rows: SearchRowView[];
  briefId: number;
  excludedEndings: string[];
}) {
  const router = useRouter();
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const ticked = rows.filter(({ url }) => !out.has(url));
  const sites = [...new Set(ticked.filter(({ gate }) => gate === 'site').map(({ url }) => new URL(url).origin))];
  const pages = ticked.filter(({ gate }) => gate === 'page').map(({ url }) => url);
  const toggle = (url: string) => {
    const next = new Set(out);
    if (!next.delete(url)) next.add(url);
    setOut(next);
  };
  return (
    <div className="grid grid-cols-[1fr_330px] gap-x-8">
      <section aria-label="Results">
        <table className="w-full">
          <thead>
            <tr className="small text-left">
              <th className="w-6 py-1 font-normal">
                <span className="sr-only">Ticked</span>
              </th>
              <th className="font-normal">Page</th>
              <th className="font-normal">Phrase</th>
              <th className="font-normal">What is read</th>
              <th className="text-right font-normal">Readers it claims</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.url} className="border-t border-rule" data-gate={row.gate}>
                <td className="py-1.5">
                  <input
                    type="checkbox"
                    aria-label={`Use ${row.url}`}
                    checked={!out.has(row.url)}
                    onChange={() => toggle(row.url)}
                  />
                </td>
                <td className="max-w-80 py-1.5 pr-3 leading-tight">
                  <span className="block truncate font-semibold">{row.title}</span>
                  <span className="small block truncate">{row.url.replace(/^https?:\/\//, '')}</span>
                </td>
                <td className="pr-3">{row.phrase}</td>
                <td className="py-1.5 leading-tight">
                  {row.gate === 'site' ? 'the whole site' : 'this page only'}
                  <span className="small block">{row.because}</span>
                </td>
                <td className="text-right">{count(row.readers)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <aside className="border-l border-rule pl-6">
        <h2 className="mb-2">
          Crawl {plural(sites.length, 'site')} and {plural(pages.length, 'single page')}
        </h2>
        <ActionForm
          label="Start the crawl"
          busyLabel="Starting"
          act={async (form) => {
            const seeds = [...sites, ...pages.map((address) => ({ address, depth: 0 }))];
            const { source } = await call<{ source: { id: number } }>('/sources/crawls', {
              body: { seeds, ...crawlOptionsOf(form) },
            });
            router.push(`/sources/${source.id}`);
          }}
          other={{
            label: 'Try the sites first',
            act: async () => {
              const { job } = await call<{ job: { id: number } }>('/sources/crawls/trials', { body: { seeds: sites } });
              router.push(`/sources/trials/${job.id}`);
            },
          }}
        >
          <CrawlOptions briefId={briefId} excludedEndings={excludedEndings} depth={2} />
        </ActionForm>
      </aside>
    </div>
  );
}
