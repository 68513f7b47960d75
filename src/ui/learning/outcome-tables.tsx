import type { RangeRecord } from '../../core/learning/calibration';
import type { WindowRecord } from '../../core/learning/windows';
import { count, day, duration } from '../../core/wording/format';
import Link from '../link';
import type { RedirectOutcome } from './types';

const HEAD = 'small text-right';
const ROW = 'border-t border-rule text-right';

/** Ranges of worth against what names went for. */
export function WorthTable({ all, groups }: { all: RangeRecord; groups: { key: string; record: RangeRecord }[] }) {
  if (all.count === 0) return <p className="mt-1">No name whose worth was said has gone for a price yet.</p>;
  return (
    <table className="mt-1 w-full" aria-label="Worths against prices">
      <thead>
        <tr className={HEAD}>
          <th className="py-1 text-left font-normal">purpose</th>
          <th className="font-normal">below</th>
          <th className="font-normal">within, 6 in 10 meant</th>
          <th className="font-normal">above</th>
        </tr>
      </thead>
      <tbody>
        {[...groups, { key: 'all', record: all }].map(({ key, record }) => (
          <tr key={key} className={ROW}>
            <td className="py-1 text-left">{key}</td>
            <td>{record.below}</td>
            <td>
              {record.within} of {record.count}
            </td>
            <td>{record.above}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Expected drops against what came. */
export function WindowTable({ all, groups }: { all: WindowRecord; groups: WindowRecord[] }) {
  if (all.count === 0)
    return <p className="mt-1">No watched name with an expected window has dropped or been renewed yet.</p>;
  return (
    <table className="mt-1 w-full" aria-label="Drop windows against drops">
      <thead>
        <tr className={HEAD}>
          <th className="py-1 text-left font-normal">TLD</th>
          <th className="font-normal">inside</th>
          <th className="font-normal">early</th>
          <th className="font-normal">late</th>
          <th className="font-normal">renewed instead</th>
          <th className="font-normal">middle width</th>
        </tr>
      </thead>
      <tbody>
        {[...(groups.length > 1 ? groups : []), all].map((record) => (
          <tr key={record.key} className={ROW}>
            <td className="py-1 text-left">{record.key === 'all' ? 'all' : `.${record.key}`}</td>
            <td>
              {record.inside} of {record.inside + record.early + record.late}
            </td>
            <td>{record.early}</td>
            <td>{record.late}</td>
            <td>{record.renewed}</td>
            <td>{duration(record.widthMs)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What redirects were meant to carry, and what the log of the server says that they did. */
export function RedirectTable({ redirects, now }: { redirects: RedirectOutcome[]; now: number }) {
  if (redirects.length === 0) return <p className="mt-1">No redirect was decided yet.</p>;
  const percent = (part: number, all: number) => (all === 0 ? '–' : `${Math.round((100 * part) / all)}%`);
  return (
    <table className="mt-1 w-full" aria-label="Redirects against visits">
      <thead>
        <tr className={HEAD}>
          <th className="py-1 text-left font-normal">domain</th>
          <th className="font-normal">planned: of the links</th>
          <th className="font-normal">relevant</th>
          <th className="font-normal">came: visits</th>
          <th className="font-normal">carried</th>
          <th className="font-normal">relevant</th>
        </tr>
      </thead>
      <tbody>
        {redirects.map(({ name, planned, came, from, to }) => (
          <tr key={name} className={ROW} data-redirected={name}>
            <td className="py-1 text-left">
              <Link href={`/domains/${name}/redirects`} className="set wrap-anywhere">
                {name}
              </Link>
              {came && came.missed.length > 0 && (
                <span className="small block">
                  no rule for{' '}
                  {came.missed
                    .slice(0, 3)
                    .map(({ path, requests }) => `${path} (${requests})`)
                    .join(', ')}
                </span>
              )}
            </td>
            <td>{planned ? percent(planned.moved, 1) : '–'}</td>
            <td>{planned ? percent(planned.relevant, 1) : '–'}</td>
            <td>
              {came ? count(came.came) : 'no log taken'}
              {from !== null && to !== null && (
                <span className="small block">
                  {day(from, now)} to {day(to, now)}
                </span>
              )}
            </td>
            <td>{came ? percent(came.moved, came.came) : '–'}</td>
            <td>{came ? percent(came.relevant, came.came) : '–'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
