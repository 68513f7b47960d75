'use client';

import { GROUPINGS, type Grouping, type ProfitLine } from '../../core/money/profit';
import { day, money } from '../../core/wording/format';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { columnsFor } from '../parts/columns';
import { Table } from '../parts/table';
import { useNow } from '../shell/live';

/** Costs, income and result, grouped; each sum opens to what it is made of. */
export function Profit({ by, lines, currency }: { by: Grouping; lines: ProfitLine[]; currency: string }) {
  const now = useNow();
  return (
    <section aria-labelledby="profit" className="mt-8 max-w-[900px]">
      <div className="flex items-baseline gap-4">
        <h2 id="profit">Profit and loss, {currency}</h2>
        <nav aria-label="Grouped" className="flex gap-3">
          {GROUPINGS.map((one) => (
            <Link
              key={one}
              href={`/holdings?by=${one}`}
              scroll={false}
              aria-current={one === by ? 'true' : undefined}
              className={one === by ? 'font-semibold' : 'set'}
            >
              by {one}
            </Link>
          ))}
        </nav>
        <span className="ml-auto flex gap-2">
          <ExportMenu address="/api/v1/holdings/profit" label="every entry" />
        </span>
      </div>
      <Table
        label="Profit and loss"
        className="mt-1"
        columns={columnsOf(by, lines, now)}
        rows={lines}
        rowId={({ key }) => key}
        isSortable
      />
    </section>
  );
}

const column = columnsFor<ProfitLine>();

const columnsOf = (by: Grouping, lines: ProfitLine[], now: number) => {
  const sum = (of: 'costMinor' | 'incomeMinor' | 'resultMinor', header: string, className = 'w-28 align-top') =>
    column.accessor(of, {
      header,
      meta: { isNumber: true, className },
      sortDescFirst: true,
      cell: ({ getValue }) => money(getValue(), null),
      footer: () =>
        money(
          lines.reduce((total, line) => total + line[of], 0),
          null,
        ),
    });
  return [
    column.accessor('key', {
      header: `by ${by}`,
      footer: 'all',
      cell: ({ row: { original } }) => <Entries line={original} now={now} />,
    }),
    sum('costMinor', 'cost'),
    sum('incomeMinor', 'brought'),
    sum('resultMinor', 'result', 'w-28 align-top font-semibold'),
  ];
};

function Entries({ line, now }: { line: ProfitLine; now: number }) {
  return (
    <details>
      <summary className="font-semibold wrap-anywhere">{line.key}</summary>
      {line.entries.map((entry, n) => (
        <p key={`${entry.at} ${entry.kind} ${n}`} className="small flex gap-3 border-t border-faint">
          <span className="whitespace-nowrap">{day(entry.at, now)}</span>
          <span className="grow">
            {entry.domain}: {entry.words || entry.kind}
            {entry.orderId !== null && `, order ${entry.orderId}`}
          </span>
          <span className="whitespace-nowrap">{money(entry.amountMinor, null)}</span>
        </p>
      ))}
    </details>
  );
}
