'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Range } from '../../core/crawl/forecast';
import { domainsTogether } from '../../core/crawl/forecast';
import type { TrialReport } from '../../core/crawl/trial-report';
import { fixed } from '../../core/formats/figures';
import { bare, count } from '../../core/wording/format';
import { call } from '../api';
import { Form } from '../forms/form';
import type { ColumnLook } from '../parts/columns';
import { PlainTable, plainColumnsFor } from '../parts/plain-table';
import { CrawlOptions } from './crawl-options';
import { crawlValues, TypedCrawlOptions } from './typed-crawl';

const FIGURE: ColumnLook = { isNumber: true, className: 'whitespace-nowrap' };
const column = plainColumnsFor<TrialReport>();

const range = ({ low, high }: Range, write: (value: number) => string = count) =>
  low === high ? write(low) : `${write(low)} – ${write(high)}`;

function shortTime(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  if (seconds < 5400) return `${Math.round(seconds / 60)} min`;
  if (seconds < 172_800) return `${Math.round(seconds / 3600)} h`;
  return `${Math.round(seconds / 86_400)} days`;
}

/** Enough for the most pages that are forecast, as a round number. */
function budgetFor({ high }: Range): number {
  const step = 10 ** Math.max(1, Math.floor(Math.log10(Math.max(1, high))) - 1);
  return Math.min(10_000_000, Math.max(step, Math.ceil(high / step) * step));
}

/** What a trial says of each seed, and the crawl that can be started with those that are ticked. */
export function TrialScreen({
  rows,
  total,
  isDone,
  briefId,
  excludedEndings,
}: {
  rows: TrialReport[];
  total: number;
  isDone: boolean;
  briefId: number;
  excludedEndings: string[];
}) {
  const router = useRouter();
  const [depth, setDepth] = useState(3);
  /** What the person ticked or unticked against the trial's word. */
  const [chosen, setChosen] = useState<ReadonlyMap<string, boolean>>(new Map());
  const isTicked = (row: TrialReport) => chosen.get(row.seed) ?? row.works;
  const ticked = rows.filter(isTicked);
  const sum = (pick: (row: TrialReport) => Range | undefined): Range =>
    ticked.reduce(
      (all, row) => {
        const one = pick(row) ?? { low: 0, high: 0 };
        return { low: all.low + one.low, high: all.high + one.high };
      },
      { low: 0, high: 0 },
    );
  const longest = ticked.reduce(
    (all, row) => {
      const one = row.forecasts[depth]?.seconds ?? { low: 0, high: 0 };
      return { low: Math.max(all.low, one.low), high: Math.max(all.high, one.high) };
    },
    { low: 0, high: 0 },
  );
  const together = domainsTogether(
    ticked.flatMap((row) => {
      const domains = row.forecasts[depth]?.domains;
      return domains ? [{ domains, names: row.names ?? [] }] : [];
    }),
  );
  const forecastOf =
    (what: 'pages' | 'seconds' | 'domains', write?: (value: number) => string) => (row: TrialReport) => {
      const forecast = row.forecasts[depth];
      return forecast && range(forecast[what], write);
    };
  /** A sum stands where there is something to sum. */
  const foot = (of: ReturnType<typeof column>, words: string) => (rows.length > 1 ? { ...of, footer: words } : of);
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[1fr_330px] gap-x-8">
      <section aria-label="Seeds">
        <div className="mb-2 flex items-baseline gap-3">
          <label>
            Forecast for a depth of{' '}
            <select
              className="field"
              value={depth}
              onChange={(event) => setDepth(Number(event.target.value))}
              aria-label="Depth of the forecast"
            >
              {[0, 1, 2, 3, 4].map((one) => (
                <option key={one} value={one}>
                  {one}
                </option>
              ))}
            </select>
          </label>
          <span className="small">
            {count(rows.length)} of {count(total)} seeds tried, {count(ticked.length)} ticked
          </span>
        </div>
        <PlainTable
          label="Seeds"
          rows={rows}
          rowId={({ seed }) => seed}
          rowProps={(row) => ({ 'data-seed': row.seed, className: isTicked(row) ? '' : 'text-muted' })}
          columns={[
            column(
              'Ticked',
              (row) => (
                <input
                  type="checkbox"
                  aria-label={`Crawl ${row.seed}`}
                  checked={isTicked(row)}
                  onChange={(event) => setChosen(new Map(chosen).set(row.seed, event.target.checked))}
                />
              ),
              { isUntitled: true, className: 'w-6' },
            ),
            foot(
              column(
                'Seed',
                ({ seed, reason }) => (
                  <>
                    <span className="block truncate font-semibold">{bare(seed)}</span>
                    {reason && <span className="small block">{reason}</span>}
                  </>
                ),
                { isHead: true, className: 'max-w-72 leading-tight' },
              ),
              'All that are ticked, read at the same time',
            ),
            column(
              'Content',
              ({ kinds, pages, status }) =>
                pages > 0 ? (
                  <>
                    {(kinds.content ?? 0) + (kinds.list ?? 0) + (kinds.thin ?? 0)}{' '}
                    <span className="small">of {pages}</span>
                  </>
                ) : (
                  status
                ),
              FIGURE,
            ),
            column('Forbidden', ({ forbidden }) => forbidden > 0 && `${Math.round(forbidden * 100)}%`, FIGURE),
            column(
              'A page takes',
              ({ pages, msPerPage, delayMs }) =>
                pages > 0 && (
                  <>
                    {count(msPerPage)} <span className="small">+ {count(delayMs)} ms</span>
                  </>
                ),
              FIGURE,
            ),
            column(
              'Outside links a page',
              ({ pages, outsidePerPage }) => pages > 0 && fixed(outsidePerPage, 1),
              FIGURE,
              <>
                Outside links
                <br />a page
              </>,
            ),
            foot(column('Pages', forecastOf('pages'), FIGURE), range(sum((row) => row.forecasts[depth]?.pages))),
            foot(column('Time', forecastOf('seconds', shortTime), FIGURE), range(longest, shortTime)),
            foot(column('Outside domains', forecastOf('domains'), FIGURE), range(together)),
          ]}
        />
        <p className="small mt-2 max-w-prose">
          From a few pages of each: what the home page links to is counted; beyond, each page that was read stands for
          those that look like it. Outside domains grow as the pages that were read show; what several sites name is
          counted once, by how much their pages had in common.
        </p>
      </section>
      <aside className="border-l border-rule pl-6">
        <h2 className="mb-2">Crawl the {count(ticked.length)} ticked</h2>
        <Form
          schema={TypedCrawlOptions}
          values={crawlValues(excludedEndings, {
            depth,
            pageBudget: budgetFor(sum((row) => row.forecasts[depth]?.pages)),
          })}
          label={isDone ? 'Start the crawl' : 'Start with those tried'}
          busyLabel="Starting"
          act={async (typed) => {
            const body = {
              seeds: ticked.map(({ seed }) => seed),
              ...typed,
              briefId,
            };
            const { source } = await call('POST /sources/crawls', { body });
            router.push(`/sources/${source.id}`);
          }}
        >
          <CrawlOptions />
        </Form>
      </aside>
    </div>
  );
}
