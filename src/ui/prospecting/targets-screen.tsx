'use client';

import { useState } from 'react';
import { ago, bare, count, plural } from '../../core/wording/format';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useNow } from '../shell/live';
import { ChosenTargetView } from './chosen-target';
import type { ChosenTarget, TargetLine, WorkListShown } from './types';
import { WorkListTable } from './work-list';

const FIRST = 40;

const column = columnsFor<TargetLine>();
const figure = { isNumber: true, className: 'w-32' };
const columnsOf = (now: number) => [
  column.accessor('url', {
    header: 'Dead page',
    meta: { isHead: true, className: 'truncate' },
    cell: ({ getValue }) => (
      <Link
        href={`/targets?url=${encodeURIComponent(getValue())}`}
        title={getValue()}
        className="font-semibold hover:underline"
      >
        {bare(getValue())}
      </Link>
    ),
  }),
  column.accessor(({ isWholeDomain, status, outcome }) => (isWholeDomain ? 'the domain lapsed' : (status ?? outcome)), {
    id: 'outcome',
    header: 'What came instead',
    meta: { className: 'w-44 truncate' },
    cell: ({ row: { original }, getValue }) =>
      original.isWholeDomain ? (
        <Link href={`/domains/${original.domain}`} className="set">
          {getValue()}
        </Link>
      ) : (
        getValue()
      ),
  }),
  column.accessor('domains', {
    header: 'Linking domains',
    meta: figure,
    sortDescFirst: true,
    cell: ({ getValue }) => count(getValue()),
  }),
  column.accessor('pages', {
    header: 'Backlinks',
    meta: figure,
    sortDescFirst: true,
    cell: ({ getValue }) => count(getValue()),
  }),
  column.accessor('onList', {
    header: 'On the list',
    meta: { isNumber: true, className: 'w-24' },
    sortDescFirst: true,
    cell: ({ getValue }) => (getValue() > 0 ? count(getValue()) : '–'),
  }),
  column.accessor('checkedAt', {
    header: 'Asked',
    meta: { isNumber: true, className: 'w-28' },
    sortDescFirst: true,
    cell: ({ getValue }) => (getValue() === null ? '–' : ago(getValue(), now)),
  }),
];

/** Pages that are gone and still linked to: what could stand in for them, and who is to be told. */
export function TargetsScreen({
  targets,
  list,
  chosen,
}: {
  targets: TargetLine[];
  list: WorkListShown;
  chosen: ChosenTarget | null;
}) {
  const now = useNow();
  const [isLong, setLong] = useState(false);
  const percent = (share: number | null) => (share === null ? null : `${Math.round(100 * share)}%`);
  const { tally } = list;
  return (
    <div className="mx-auto max-w-[1400px] px-6 py-6">
      <div className="flex items-start justify-between gap-6">
        <div>
          <h1>Broken links</h1>
          <p className="small mb-3 max-w-prose">
            Pages that are gone, on domains that live or have lapsed, and the pages that still link to them. Write to
            their owners one by one.
          </p>
        </div>
        {targets.length > 0 && <ExportMenu address="/api/v1/targets" label="broken links with every linking page" />}
      </div>
      {list.rows.length > 0 && (
        <section aria-labelledby="work-list" className="mb-8">
          <div className="flex items-baseline justify-between gap-4">
            <h2 id="work-list">
              Work list{' '}
              <span className="small">
                {plural(tally.toWrite, 'page')} to write to, {count(tally.written)} written
                {tally.answered !== null && `, ${percent(tally.answered)} answered, ${percent(tally.changed)} changed`}
              </span>
            </h2>
            <ExportMenu address="/api/v1/export?what=prospects" label="the outreach list" />
          </div>
          <WorkListTable rows={list.rows} />
        </section>
      )}
      {chosen && <ChosenTargetView key={chosen.url} target={chosen} />}
      {targets.length === 0 ? (
        <p className="border-t border-rule py-3">
          None yet.{' '}
          <Link href="/page" className="set">
            Look at a page
          </Link>{' '}
          of links, or crawl a site: what is dead there comes here.
        </p>
      ) : (
        <>
          <h2>All of them</h2>
          <Table
            label="Broken links"
            className="mt-1 table-fixed"
            columns={columnsOf(now)}
            rows={targets.slice(0, isLong ? undefined : FIRST)}
            rowId={({ url }) => url}
            rowProps={({ url }) => ({ 'aria-current': url === chosen?.url || undefined })}
            isSortable
          />
          {targets.length > FIRST && !isLong && (
            <button type="button" className="set mt-2" onClick={() => setLong(true)}>
              {plural(targets.length - FIRST, 'more target')}
            </button>
          )}
        </>
      )}
    </div>
  );
}
