'use client';

import { useCallback, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Answer } from '../../contracts/calls';
import type { RuleChange } from '../../contracts/portfolio';
import { fixed } from '../../core/formats/figures';
import type { Candidate } from '../../core/redirects/match';
import type { RuleProblem } from '../../core/redirects/rules';
import { ago, count, plural } from '../../core/wording/format';
import { call } from '../api';
import { useCursor, useDecisions } from '../decisions';
import { OneLine } from '../forms/one-line';
import Link from '../link';
import { PlainTable, plainColumnsFor } from '../parts/plain-table';
import { useRedraw } from '../server-state';
import { Hears } from '../shell/hears';
import { placeOf, pressed } from '../shell/key-list';
import { useNow } from '../shell/live';
import { isTyping } from '../shell/shell';
import { Mentions } from './mentions';

type PlanShown = Answer<'GET /domains/{name}/redirects'>;
const column = plainColumnsFor<PlanShown['proposals'][number]>();
const FILES = [
  ['csv', 'CSV'],
  ['nginx', 'nginx'],
  ['apache-host', 'Apache: host'],
  ['apache-map', 'map'],
  ['apache-queries', 'queries'],
] as const;

/** Where the old addresses of a domain move: one rule at a time, by keyboard, or all that move alike. */
export function RedirectsScreen({ name, plan }: { name: string; plan: PlanShown }) {
  const now = useNow();
  const { at, here, setAt } = useCursor();
  const [editing, setEditing] = useState<string | null>(null);
  const { decide, takeBack } = useDecisions<RuleChange>(
    async (rules) => (await call('PATCH /domains/{name}/redirects', { params: { name }, body: { rules } })).before,
  );
  const { proposals, patterns, problems, carried, sources } = plan;
  const rules = useMemo(() => new Map(plan.rules.map((rule) => [rule.from, rule.to])), [plan.rules]);
  const current = proposals[at] ?? null;
  // keys find what is drawn, also before they are bound anew
  const drawn = useRef(proposals);
  drawn.current = proposals;

  const next = useCallback(() => setAt(Math.min(drawn.current.length - 1, here.current + 1)), [here, setAt]);
  const choose = useCallback(
    (to: string | null | undefined) => {
      const proposal = drawn.current[here.current];
      if (!proposal) return;
      decide([{ from: proposal.old.path, to }]);
      next();
    },
    [decide, next, here],
  );

  const onKey = (event: KeyboardEvent) => {
    const proposal = drawn.current[here.current];
    if (isTyping(event) || !proposal) return;
    const { candidates, old } = proposal;
    const key = pressed('redirects', event);
    const candidate = key === 'first' ? candidates[0] : key === 'candidate' ? candidates[placeOf(event)] : undefined;
    if (candidate) choose(candidate.url);
    else if (key === 'gone') choose(null);
    else if (key === 'open') choose(undefined);
    else if (key === 'takeBack') takeBack();
    else if (key === 'say') setEditing(rules.get(old.path) ?? candidates[0]?.url ?? '');
    else if (key === 'next') next();
    else if (key === 'previous') setAt(here.current - 1);
    else return;
    event.preventDefault();
  };

  const share = (part: number) => (carried.all === 0 ? '0%' : `${Math.round((100 * part) / carried.all)}%`);
  const decided = proposals.filter(({ old }) => rules.has(old.path)).length;
  return (
    <div className="px-6 py-6">
      <Hears onKey={onKey} />
      <div className="flex items-baseline gap-6">
        <h1 className="wrap-anywhere">
          Redirects of{' '}
          <Link href={`/domains/${name}`} className="hover:underline">
            {name}
          </Link>
        </h1>
        <span className="ml-auto flex gap-2">
          {FILES.map(([format, label]) => (
            <a
              key={format}
              className="quiet"
              href={`/api/v1/domains/${name}/redirects/file?format=${format}`}
              aria-label={`Rules as ${label}`}
              download
            >
              {label}
            </a>
          ))}
        </span>
      </div>
      <p className="mt-1">
        <strong>{share(carried.moved)}</strong> of what its referring domains count is carried,{' '}
        <strong>{share(carried.relevant)}</strong> by how alike the pages are. {count(decided)} of{' '}
        {plural(proposals.length, 'old address', 'old addresses')} decided; what is not decided is gone (410), which is
        better than a home page that has nothing to do with it.
      </p>
      {problems.length > 0 && (
        <p role="alert" className="mt-2 inline-block bg-quince px-3 py-1.5">
          The rules cannot be followed as they are: {problems.slice(0, 3).map(problemWords).join('; ')}.
        </p>
      )}
      <OwnPages sources={sources} now={now} />
      {patterns.length > 0 && (
        <section aria-label="Moves alike" className="mt-4">
          <h2>Many that move alike</h2>
          {patterns.slice(0, 5).map(({ fromPrefix, toPrefix, paths }) => (
            <div key={`${fromPrefix} ${toPrefix}`} className="flex items-baseline gap-3 border-t border-faint py-1">
              <span className="wrap-anywhere">
                {fromPrefix}… <span aria-hidden="true">→</span> {toPrefix}…
              </span>
              <span className="small whitespace-nowrap">{plural(paths.length, 'address', 'addresses')}</span>
              <button
                type="button"
                className="set ml-auto whitespace-nowrap"
                onClick={() =>
                  decide(paths.map((from) => ({ from, to: `${toPrefix}${from.slice(fromPrefix.length)}` })))
                }
              >
                accept all of them
              </button>
            </div>
          ))}
        </section>
      )}
      {proposals.length === 0 ? (
        <p className="mt-4 max-w-prose border-t border-rule pt-4">
          Nothing is known to link to it, and no page of it was captured. Measure it first: its old addresses come from
          links and captures.
        </p>
      ) : (
        <div className="mt-4 grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_460px] gap-x-8">
          <PlainTable
            label="Old addresses"
            className="h-fit table-fixed"
            rows={proposals}
            rowId={({ old }) => old.path}
            rowProps={({ old }, n) => ({
              'aria-current': n === at,
              'data-path': old.path,
              className: `cursor-pointer ${n === at ? 'bg-damson-soft' : ''}`,
              onClick: () => setAt(n),
            })}
            columns={[
              column(
                'Weight',
                ({ old }) => <span title={plural(old.domains, 'referring domain')}>{fixed(old.weight, 1)}</span>,
                { isNumber: true, className: 'w-14' },
              ),
              column(
                'Old address',
                ({ old }) => (
                  <span title={old.path}>
                    {old.path} {old.title && <span className="small">{old.title}</span>}
                  </span>
                ),
                { className: 'truncate' },
              ),
              column(
                'Moves to',
                ({ old, candidates }) => <Standing rule={rules.get(old.path)} best={candidates[0]} />,
                { className: 'w-5/12 truncate' },
              ),
            ]}
          />
          {current && (
            <section aria-label="This address" className="sticky top-4 h-fit">
              <h2 className="wrap-anywhere">{current.old.path}</h2>
              <p className="small">
                {plural(current.old.domains, 'referring domain')}
                {current.old.anchors.length > 0 &&
                  `; linked as ${current.old.anchors.map((anchor) => `“${anchor}”`).join(', ')}`}
              </p>
              {current.candidates.length === 0 && (
                <p className="mt-2">No own page is like it. Let it be gone (g), or say where it moves (e).</p>
              )}
              <ol className="mt-2">
                {current.candidates.map(({ url, confidence, reasons }, n) => (
                  <li key={url} className="border-t border-rule py-1.5">
                    <button type="button" className="block w-full text-left" onClick={() => choose(url)}>
                      <span className="small">{n + 1}</span>{' '}
                      <span className={`wrap-anywhere ${rules.get(current.old.path) === url ? 'font-semibold' : ''}`}>
                        {url}
                      </span>{' '}
                      <span className="small">{Math.round(100 * confidence)}% alike</span>
                      <span className="small block">
                        {reasons.length === 0
                          ? 'the same path'
                          : reasons.map(({ word, where }) => `${word} (${where})`).join(', ')}
                      </span>
                    </button>
                  </li>
                ))}
              </ol>
              {editing !== null && (
                <OneLine
                  label="Where it moves"
                  button="Move there"
                  value={editing}
                  outer="mt-2 flex gap-2"
                  autoFocus
                  onKeyDown={(event) => event.key === 'Escape' && setEditing(null)}
                  act={(to) => {
                    choose(to);
                    setEditing(null);
                  }}
                />
              )}
              <p className="small mt-3 border-t border-rule pt-2">
                y takes the first, 1 to 4 another, g lets it be gone, e says where, x leaves it open, u takes back, ↑
                and ↓ go on.
              </p>
            </section>
          )}
        </div>
      )}
      <LogFile name={name} />
      <Mentions name={name} mentions={plan.mentions} rules={rules} />
    </div>
  );
}

function problemWords(problem: RuleProblem): string {
  switch (problem.kind) {
    case 'loop':
      return `${problem.by.join(' to ')} leads back to itself`;
    case 'chain':
      return `${problem.from} leads to ${problem.to}, which moves itself`;
    case 'collision':
      return `${problem.from} has two rules`;
    case 'no address':
      return `${problem.from} is no address`;
  }
}

/** What is decided, or what is proposed. */
function Standing({ rule, best }: { rule: string | null | undefined; best: Candidate | undefined }) {
  if (rule === null) return <strong>gone</strong>;
  if (rule !== undefined) return <strong title={rule}>{rule.replace(/^https?:\/\//, '')}</strong>;
  if (!best) return <span className="small">nothing alike</span>;
  return (
    <span className="small" title={best.url}>
      {best.url.replace(/^https?:\/\//, '')}, {Math.round(100 * best.confidence)}%?
    </span>
  );
}

/** Where own pages are known from, and more of them. */
function OwnPages({ sources, now }: { sources: PlanShown['sources']; now: number }) {
  const redraw = useRedraw();
  const take = async (from: { file: File } | { site: string }) => {
    try {
      const { taken, setAside } = await ('file' in from
        ? call('POST /own-pages', { query: { name: from.file.name }, file: from.file })
        : call('POST /own-pages', { query: { site: from.site } }));
      toast(`${plural(taken, 'own page')} taken${setAside > 0 ? `, ${count(setAside)} rejected` : ''}`);
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <div className="small mt-2 flex flex-wrap items-center gap-x-3 gap-y-1">
      {sources.length === 0
        ? 'No pages of yours are known, so nothing can be proposed.'
        : `Own pages: ${sources.map(({ source, pages, takenAt }) => `${count(pages)} of ${source}, ${ago(takenAt, now)}`).join('; ')}.`}
      <label className="set cursor-pointer">
        Take a sitemap, a table or a list
        <input
          type="file"
          className="sr-only"
          accept=".xml,.csv,.tsv,.txt,text/xml,text/csv,text/plain"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void take({ file });
            event.target.value = '';
          }}
        />
      </label>
      <OneLine
        label="A site of yours that was crawled"
        before="or the pages that a crawl has read of"
        button="Take them"
        className="w-44 py-0.5 text-ink"
        outer="flex items-center gap-1.5"
        act={(site) => take({ site })}
      />
    </div>
  );
}

/** The log of one's own server says what the rules carried. */
function LogFile({ name }: { name: string }) {
  const take = async (file: File | undefined) => {
    if (!file) return;
    try {
      const { moved, gone, robots, setAside } = await call('POST /domains/{name}/redirects/log', {
        params: { name },
        query: { name: file.name },
        file,
      });
      toast(
        `${plural(moved, 'visit')} sent on, ${count(gone)} told gone; ${count(robots)} of programs and ${count(setAside)} other lines left out`,
      );
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return (
    <p className="small mt-6">
      Once the rules are in use:{' '}
      <label className="set cursor-pointer focus-within:outline-2 focus-within:outline-damson">
        take the access log of your server
        <input
          type="file"
          className="sr-only"
          accept=".log,.txt,.gz"
          onChange={(event) => {
            void take(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
      </label>{' '}
      and what they carried stands in{' '}
      <Link href="/learning" className="set">
        Outcomes
      </Link>
      .
    </p>
  );
}
