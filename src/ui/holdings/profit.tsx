'use client';

import { GROUPINGS, type Grouping, type ProfitLine } from '../../core/money/profit';
import { day, money } from '../../core/wording/format';
import { ExportMenu } from '../export-menu';
import Link from '../link';
import { useNow } from '../shell/live';

/** Costs, income and result, grouped; each sum opens to what it is made of. */
export function Profit({ by, lines, currency }: { by: Grouping; lines: ProfitLine[]; currency: string }) {
  const now = useNow();
  const sum = (of: (line: ProfitLine) => number) => lines.reduce((total, line) => total + of(line), 0);
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
      <table className="mt-1 w-full" aria-label="Profit and loss">
        <thead>
          <tr className="small text-right">
            <th className="py-1 text-left font-normal">by {by}</th>
            <th className="font-normal">cost</th>
            <th className="font-normal">brought</th>
            <th className="font-normal">result</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.key} className="border-t border-rule text-right align-baseline">
              <td className="py-1 text-left">
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
              </td>
              <td className="w-28">{money(line.costMinor, null)}</td>
              <td className="w-28">{money(line.incomeMinor, null)}</td>
              <td className="w-28 font-semibold">{money(line.resultMinor, null)}</td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="border-t-2 border-ink text-right font-semibold">
            <td className="py-1 text-left">all</td>
            <td>
              {money(
                sum((line) => line.costMinor),
                null,
              )}
            </td>
            <td>
              {money(
                sum((line) => line.incomeMinor),
                null,
              )}
            </td>
            <td>
              {money(
                sum((line) => line.resultMinor),
                null,
              )}
            </td>
          </tr>
        </tfoot>
      </table>
    </section>
  );
}
