'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { GATES, type Gate, type SearchRow } from '../../core/crawl/search-gates';
import { bare, count, plural } from '../../core/wording/format';
import { call } from '../api';
import { Form } from '../forms/form';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { CrawlOptions } from './crawl-options';
import { crawlValues, TypedCrawlOptions } from './typed-crawl';

export interface SearchRowView extends SearchRow {
  /** The site's domain was in the pool before, or read by a crawl. */
  isKnown: boolean;
  isJudged: boolean;
}

const GATE_WORDS: Record<Gate, string> = { site: 'the whole site', page: 'this page only', none: 'not at all' };

const column = columnsFor<SearchRowView>();

const columnsOf = (gateOf: (row: SearchRowView) => Gate, choose: (url: string, gate: Gate) => void) => [
  column.accessor('title', {
    header: 'Page',
    meta: { isHead: true, className: 'max-w-80 leading-tight' },
    cell: ({ row: { original } }) => (
      <>
        <span className="block truncate font-semibold">{original.title}</span>
        <span className="small block truncate">{bare(original.url)}</span>
      </>
    ),
  }),
  column.accessor('phrase', { header: 'Keyword' }),
  column.accessor(gateOf, {
    id: 'gate',
    header: 'What is read',
    meta: { className: 'leading-tight' },
    cell: ({ row: { original: row } }) => (
      <>
        <select
          className="field"
          aria-label={`What is read of ${row.url}`}
          value={gateOf(row)}
          onChange={(event) => choose(row.url, event.target.value as Gate)}
        >
          {GATES.map((gate) => (
            <option key={gate} value={gate}>
              {GATE_WORDS[gate]}
            </option>
          ))}
        </select>
        <span className="small block">
          {row.because}
          {row.isJudged ? '; judged already' : row.isKnown ? '; known already' : ''}
        </span>
      </>
    ),
  }),
  column.accessor('readers', {
    header: 'Views it claims',
    meta: { isNumber: true },
    sortDescFirst: true,
    cell: ({ getValue }) => count(getValue()),
  }),
];

/** Results of a search, and the crawl of what is read of them: whole sites, and single pages. */
export function SearchScreen({
  rows,
  phrases,
  briefId,
  excludedEndings,
}: {
  rows: SearchRowView[];
  phrases: string[];
  briefId: number;
  excludedEndings: string[];
}) {
  const router = useRouter();
  const [chosen, setChosen] = useState<ReadonlyMap<string, Gate>>(new Map());
  const [leavesKnown, setLeavesKnown] = useState(false);
  const [leavesJudged, setLeavesJudged] = useState(true);
  const isLeft = ({ isKnown, isJudged }: SearchRowView) => (leavesKnown && isKnown) || (leavesJudged && isJudged);
  const gateOf = (row: SearchRowView) => chosen.get(row.url) ?? (isLeft(row) ? 'none' : row.gate);
  const read = (gate: Gate) => rows.filter((row) => gateOf(row) === gate);
  const sites = [...new Set(read('site').map(({ url }) => new URL(url).origin))];
  const pages = read('page').map(({ url }) => url);
  const empty = phrases.filter((phrase) => rows.every((row) => row.phrase !== phrase));
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[1fr_330px] gap-x-8">
      <section aria-label="Results">
        <Table
          label="Pages that were found"
          columns={columnsOf(gateOf, (url, gate) => setChosen(new Map([...chosen, [url, gate]])))}
          rows={rows}
          rowId={({ url }) => url}
          rowProps={(row) => ({ 'data-gate': gateOf(row) })}
          isSortable
        />
        {empty.length > 0 && (
          <p className="mt-3 border-t border-rule pt-2">
            Without a result of their own: {empty.map((phrase) => `“${phrase}”`).join(', ')}.
          </p>
        )}
      </section>
      <aside className="border-l border-rule pl-6">
        <h2 className="mb-2">
          Crawl {plural(sites.length, 'site')} and {plural(pages.length, 'single page')}
        </h2>
        <Form
          schema={TypedCrawlOptions}
          values={crawlValues(excludedEndings, { depth: 2 })}
          label="Start the crawl"
          busyLabel="Starting"
          act={async (typed) => {
            const seeds = [...sites, ...pages.map((address) => ({ address, depth: 0 }))];
            const { source } = await call('POST /sources/crawls', { body: { seeds, ...typed, briefId } });
            router.push(`/sources/${source.id}`);
          }}
          other={{
            label: 'Try the sites first',
            act: async () => {
              const { job } = await call('POST /sources/crawls/trials', { body: { seeds: sites } });
              router.push(`/sources/trials/${job.id}`);
            },
          }}
        >
          <fieldset className="flex flex-col gap-1">
            <legend className="font-semibold">Left out of these results</legend>
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={leavesKnown} onChange={(event) => setLeavesKnown(event.target.checked)} />
              sites known already <span className="small">{count(rows.filter((row) => row.isKnown).length)}</span>
            </label>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={leavesJudged}
                onChange={(event) => setLeavesJudged(event.target.checked)}
              />
              sites judged already <span className="small">{count(rows.filter((row) => row.isJudged).length)}</span>
            </label>
          </fieldset>
          <CrawlOptions />
        </Form>
      </aside>
    </div>
  );
}
