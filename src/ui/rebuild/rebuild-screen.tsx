'use client';

import { useEffect } from 'react';
import type { Answer } from '../../contracts/calls';
import type { StepChange } from '../../contracts/portfolio';
import { fixed } from '../../core/formats/figures';
import type { SiteOutline } from '../../core/rebuild/outline';
import type { PagePlan } from '../../core/rebuild/plan';
import { ago, count, day, money, plural } from '../../core/wording/format';
import { call } from '../api';
import { useCursor, useDecisions } from '../decisions';
import Link from '../link';
import type { ColumnLook } from '../parts/columns';
import { PlainTable, plainColumnsFor } from '../parts/plain-table';
import { Hears } from '../shell/hears';
import { pressed } from '../shell/key-list';
import { useNow } from '../shell/live';
import { isTyping } from '../shell/shell';
import { Checklist } from './checklist';

type PlanShown = Answer<'GET /domains/{name}/rebuild'>;
const FIGURE: ColumnLook = { isNumber: true, className: 'w-20' };
const column = plainColumnsFor<PlanShown['pages'][number]>();
const percent = (share: number) => (share > 0 && share < 0.005 ? 'under 1%' : `${Math.round(100 * share)}%`);
const MEASURE_WORDS = {
  links: 'what its referring domains count',
  visits: 'visits by its keywords',
  readers: 'views of mentions',
};

/** What to bring back of a site: old pages by what they carry, the subjects, its outline, and what is to be done. */
export function RebuildScreen({ name, plan }: { name: string; plan: PlanShown }) {
  const now = useNow();
  const { at, here, setAt } = useCursor();
  const { decide, takeBack } = useDecisions<StepChange>(
    async (steps) => (await call('PATCH /domains/{name}/rebuild', { params: { name }, body: { steps } })).before,
  );
  const { pages, subjects, outline, steps, progress } = plan;
  const states = new Map(steps.map(({ key, state }) => [key, state]));
  const isBack = (path: string) => states.has(`page:${path}`);

  const onKey = (event: KeyboardEvent) => {
    if (isTyping(event)) return;
    const current = pages[here.current];
    const key = pressed('rebuild', event);
    if (key === 'next') setAt(Math.min(pages.length - 1, here.current + 1));
    else if (key === 'previous') setAt(here.current - 1);
    else if (key === 'bring' && current) decide([{ key: `page:${current.path}`, state: 'wanted' }]);
    else if (key === 'leave' && current) decide([{ key: `page:${current.path}`, state: 'left' }]);
    else if (key === 'takeBack') takeBack();
    else return;
    event.preventDefault();
  };
  useEffect(() => {
    if (at > 0) document.querySelector('tr[aria-current=true]')?.scrollIntoView({ block: 'nearest' });
  }, [at]);

  const back = pages.filter(({ path }) => isBack(path));
  const carried = back.reduce((sum, { share }) => sum + share, 0);
  return (
    <div className="px-6 py-6">
      <Hears onKey={onKey} />
      <div className="flex items-baseline gap-6">
        <h1 className="wrap-anywhere">
          Rebuild of{' '}
          <Link href={`/domains/${name}`} className="hover:underline">
            {name}
          </Link>
        </h1>
        <span className="ml-auto flex gap-2 whitespace-nowrap">
          <Link className="quiet" href={`/domains/${name}/redirects`}>
            Where the rest moves
          </Link>
          <a className="quiet" href={`/api/v1/domains/${name}/rebuild/file`} download>
            Take it as Markdown
          </a>
        </span>
      </div>
      {pages.length > 0 ? (
        <p className="mt-1 max-w-[110ch]">
          <strong>{plural(back.length, 'page')}</strong> brought back of {plural(plan.pageCount, 'old page')} carry{' '}
          <strong>{percent(carried)}</strong> of the site, by{' '}
          {plan.measures.map((measure) => MEASURE_WORDS[measure]).join(' and ')}
          {plan.measures.length > 1 && ' in equal parts'}.{' '}
          {plan.worth
            ? `What comes back would cost ${money(plan.worth.monthMinor, plan.currency)} a month to buy, estimated from ${plan.worth.sources.join(', ')}, ${ago(plan.worth.asOf, now)}.`
            : 'No list says which keywords it was found by.'}{' '}
          <span className="small">Links as of {ago(plan.linksAt, now)}.</span>
        </p>
      ) : (
        <p className="mt-4 max-w-prose border-t border-rule pt-4">
          Nothing is known to link to its pages. Measure it first: its old pages come from links and captures.
        </p>
      )}
      <div className="mt-4 grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_400px] gap-x-8">
        <div>
          {pages.length > 0 && (
            <PlainTable
              label="Old pages"
              className="table-fixed"
              rows={pages}
              rowId={({ path }) => path}
              rowProps={({ path }, n) => ({
                'data-path': path,
                'aria-current': n === at,
                className: `cursor-pointer ${n === at ? 'bg-damson-soft' : ''}`,
                onClick: () => setAt(n),
              })}
              columns={[
                column(
                  'Comes back',
                  ({ path }) => (
                    <button
                      type="button"
                      className="set"
                      aria-label={`${isBack(path) ? 'Leave' : 'Bring back'} ${path}`}
                      onClick={() => decide([{ key: `page:${path}`, state: isBack(path) ? 'left' : 'wanted' }])}
                    >
                      {isBack(path) ? (states.get(`page:${path}`) === 'done' ? 'written' : 'yes') : 'no'}
                    </button>
                  ),
                  { className: 'w-24' },
                ),
                column('Old page', (page, n) => (
                  <>
                    <span className="wrap-anywhere">{page.path}</span>
                    {page.title && <span className="small"> “{page.title}”</span>}
                    {n === at && <Why page={page} currency={plan.currency} />}
                  </>
                )),
                column('Part', ({ share }) => <strong>{percent(share)}</strong>, { isNumber: true, className: 'w-16' }),
                column(
                  'Referring domains',
                  ({ weight, domains }) => <span title={`they weigh ${fixed(weight, 1)}`}>{count(domains)}</span>,
                  FIGURE,
                ),
                column('Visits/mo.', ({ visits }) => (visits > 0 ? count(Math.round(visits)) : '–'), FIGURE),
                column('Views', ({ readers }) => (readers > 0 ? count(readers) : '–'), FIGURE),
              ]}
            />
          )}
          {plan.unplaced.length > 0 && (
            <p className="small mt-3">
              No old page is like{' '}
              {plan.unplaced
                .slice(0, 6)
                .map(({ phrase }) => `“${phrase}”`)
                .join(', ')}
              {plan.unplaced.length > 6 && ` and ${plural(plan.unplaced.length - 6, 'more keyword')}`}: the front page
              may have been found by them.
            </p>
          )}
          {pages.length > 0 && (
            <p className="small mt-3 border-t border-rule pt-2">
              ↑ and ↓ go on, y brings a page back, x leaves it, u takes back. Visits are estimates of the list, readers
              what the linking pages claim for themselves.
            </p>
          )}
        </div>
        <div className="space-y-6">
          <Checklist steps={steps} progress={progress} now={now} onDecide={decide} />
          {subjects.length > 0 && (
            <section aria-labelledby="carried-by">
              <h2 id="carried-by">What it was linked for</h2>
              <p className="small">
                Old pages by the words of their titles and links, weighed by their referring domains.
              </p>
              <dl className="mt-1">
                {subjects.slice(0, 6).map(({ title, share, paths }) => (
                  <div key={title} className="flex gap-3 border-t border-faint py-1">
                    <dt className="grow">
                      {title} <span className="small wrap-anywhere">{paths.slice(0, 3).join(', ')}</span>
                    </dt>
                    <dd className="font-semibold">{percent(share)}</dd>
                  </div>
                ))}
              </dl>
            </section>
          )}
          <Outline outline={outline} name={name} now={now} />
        </div>
      </div>
    </div>
  );
}

/** What a page would be brought back for. */
function Why({ page, currency }: { page: PagePlan['pages'][number]; currency: string }) {
  return (
    <span className="small block">
      {page.anchors.length > 0 &&
        `linked as ${page.anchors
          .slice(0, 5)
          .map((anchor) => `“${anchor}”`)
          .join(', ')}`}
      {page.phrases.slice(0, 5).map(({ phrase, position, searches, monthMinor }) => (
        <span key={phrase} className="block">
          “{phrase}”, place {position}, {count(searches)} searches a month; {money(monthMinor, currency)} a month
        </span>
      ))}
    </span>
  );
}

function Outline({ outline, name, now }: { outline: SiteOutline | null; name: string; now: number }) {
  return (
    <section aria-labelledby="outline">
      <h2 id="outline">What it was</h2>
      {outline === null ? (
        <p className="small">No capture of its content was read. Its dossier offers to measure its past.</p>
      ) : (
        <>
          <p>
            “{outline.title}” <span className="small">capture of {day(outline.at, now)}</span>
          </p>
          {outline.parts.length > 0 && <p className="mt-1">{outline.parts.join(' · ')}</p>}
          <ol className="mt-1">
            {outline.headings.map(({ level, text, words }, n) => (
              <li key={n} style={{ paddingLeft: `${(level - 1) * 0.9}em` }}>
                {text} {words > 0 && <span className="small">{plural(words, 'word')}</span>}
              </li>
            ))}
          </ol>
          <Link className="set small" href={`/domains/${name}/captures?a=${outline.at}`}>
            read the capture
          </Link>
        </>
      )}
    </section>
  );
}
