'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { explain } from '../../core/pool/explain';
import { pathOf } from '../../core/redirects/address';
import { bare, count, plural, score } from '../../core/wording/format';
import { call } from '../api';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useRedraw } from '../server-state';

export interface MentionShown {
  page: string;
  target: string;
  title: string | null;
  anchor: string;
  contact: string | null;
  strength: number | null;
  readers: number | null;
  isListed: boolean;
}

const FIRST = 12;

const column = columnsFor<MentionShown>();
const COLUMNS = [
  column.accessor('page', {
    header: 'Page',
    meta: { isHead: true, className: 'truncate' },
    cell: ({ row: { original } }) => (
      <span title={original.page}>
        {bare(original.page)} <span className="small">{original.title ?? `“${original.anchor}”`}</span>
      </span>
    ),
  }),
  column.accessor(({ target }) => pathOf(target) ?? target, {
    id: 'target',
    header: 'Leads to',
    meta: { className: 'w-2/12 truncate' },
  }),
  column.accessor('readers', {
    header: 'Views',
    meta: { isNumber: true, className: 'w-20', about: 'Monthly views, as the page claims.' },
    sortDescFirst: true,
    cell: ({ getValue }) => (getValue() === null ? '–' : count(getValue())),
  }),
  column.accessor('strength', {
    header: 'Strength',
    meta: { isNumber: true, className: 'w-20', about: explain('strength').what },
    sortDescFirst: true,
    cell: ({ getValue }) => (getValue() === null ? '–' : score(getValue())),
  }),
  column.accessor(({ contact }) => contact?.replace(/^mailto:/, '') ?? 'not known', {
    id: 'contact',
    header: 'Contact',
    meta: { className: 'small w-2/12 truncate pl-4' },
  }),
];

/** Where else a domain is linked or mentioned: pages whose owners may be asked to link to the new address themselves. */
export function Mentions({
  name,
  mentions,
  rules,
}: {
  name: string;
  mentions: MentionShown[];
  rules: ReadonlyMap<string, string | null>;
}) {
  const router = useRouter();
  const redraw = useRedraw();
  const [isLong, setLong] = useState(false);
  const put = async ({ page, target }: MentionShown) => {
    const standIn = rules.get(pathOf(target) ?? '') ?? undefined;
    try {
      await call('POST /prospects', { body: { target, domain: name, pages: [page], standIn } });
      toast(`${bare(page)} is on the outreach list`, {
        action: { label: 'Go there', onClick: () => router.push('/targets') },
      });
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const columns = [
    ...COLUMNS,
    column.display({
      id: 'put',
      header: () => <span className="sr-only">Put it on the list</span>,
      meta: { className: 'w-40 text-right whitespace-nowrap' },
      cell: ({ row: { original } }) =>
        original.isListed ? (
          <span className="small">on the outreach list</span>
        ) : (
          <button
            type="button"
            className="set"
            aria-label={`Write to ${bare(original.page)}`}
            onClick={() => void put(original)}
          >
            to the outreach list
          </button>
        ),
    }),
  ];
  if (mentions.length === 0) return null;
  const listed = mentions.filter(({ isListed }) => isListed).length;
  return (
    <section aria-labelledby="mentions" className="mt-8">
      <h2 id="mentions">Where else it is linked or mentioned</h2>
      <p className="small">
        A redirect carries a part; a link to the new page carries all of it. The most read first, as the pages claim,
        then those of the strongest domains.{' '}
        {listed > 0 && (
          <Link href="/targets" className="set">
            {plural(listed, 'page')} on the outreach list
          </Link>
        )}
      </p>
      <Table
        label="Pages that link or mention"
        className="mt-1 table-fixed"
        columns={columns}
        rows={mentions.slice(0, isLong ? undefined : FIRST)}
        rowId={({ page }) => page}
        rowProps={({ page }) => ({ 'data-mention': page })}
        isSortable
      />
      {mentions.length > FIRST && !isLong && (
        <button type="button" className="set mt-2" onClick={() => setLong(true)}>
          {mentions.length - FIRST} more
        </button>
      )}
    </section>
  );
}
