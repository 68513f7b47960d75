import { day } from '../../../core/wording/format';
import type { Holding } from '../../../store/portfolio/holdings';
import Link from '../../../ui/link';

/** What is done with a domain that is owned, or could be. */
export function Uses({ name, holding, now }: { name: string; holding: Holding | null; now: number }) {
  const stands = holding && `${holding.status}${holding.plan === 'undecided' ? '' : `, to ${holding.plan}`}`;
  return (
    <p className="small mt-1">
      {holding ? (
        <>
          <Link href="/holdings" className="set">
            Yours
          </Link>{' '}
          since {day(holding.boughtAt, now)}, from {holding.seller}: {stands}.
        </>
      ) : (
        'If it were yours:'
      )}{' '}
      <Link href={`/domains/${name}/rebuild`} className="set">
        what to bring back
      </Link>{' '}
      ·{' '}
      <Link href={`/domains/${name}/redirects`} className="set">
        where its addresses move
      </Link>
      {holding && (
        <>
          {' '}
          ·{' '}
          <Link href={`/domains/${name}/sale`} className="set">
            sell it on
          </Link>
        </>
      )}
    </p>
  );
}
