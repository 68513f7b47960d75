'use client';

import type { WeighedWay } from '../../core/bids/weighed-way';
import { closing, isSoon, plural } from '../../core/wording/format';
import { costWords, othersWords, wayWords } from '../../core/wording/orders';
import { useNow } from '../shell/live';

/** One way to have a name, what it costs in all and who else wants it; the others behind a click. */
export function WayList({
  ways,
  chosen,
  currency,
  label,
}: {
  ways: readonly WeighedWay[];
  /** Which of them is told first; null: none is known. */
  chosen: number | null;
  /** The brief's. */
  currency: string;
  label: string;
}) {
  const now = useNow();
  if (chosen === null || ways.length === 0) return <span>No way to have it is known yet</span>;
  const first = ways[chosen];
  const others = ways.filter((_, n) => n !== chosen);
  return (
    <>
      <span className="block first-letter:uppercase">
        {wayWords(first, now)}
        {first.closesAt !== null && first.kind !== 'register' && (
          <>
            {', '}
            <span className={isSoon(first.closesAt, now) ? 'rounded-[3px] bg-quince px-1' : ''}>
              closes {closing(first.closesAt, now)}
            </span>
          </>
        )}
      </span>
      <span className="small block first-letter:uppercase">
        {costWords(first, currency)}
        {first.others && `; ${othersWords(first.others)}`}
      </span>
      {others.length > 0 && (
        <details>
          <summary className="small">{plural(others.length, 'other way', 'other ways')}</summary>
          <ul aria-label={label}>
            {others.map((way) => (
              <li key={`${way.venue} ${way.offered}`} className="small first-letter:uppercase">
                {wayWords(way, now)}; {costWords(way, currency)}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
