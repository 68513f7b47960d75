'use client';

import { closing, isSoon, moment } from '../../core/wording/format';
import Link from '../link';
import { openOrder } from '../orders/open';
import { useNow } from '../shell/live';

interface DecisionShown {
  key: string;
  name: string;
  briefName: string | null;
  words: string;
  maximum: string | null;
  at: number | null;
  action: 'order' | 'orders' | 'sale';
  label: string;
}

/** What waits for a decision, each with what can be done about it in place. */
export function Decisions({ decisions, hasShortlist }: { decisions: DecisionShown[]; hasShortlist: boolean }) {
  const now = useNow();
  if (decisions.length === 0 && !hasShortlist) return null;
  return (
    <section aria-labelledby="decide" className="mb-8">
      <h1 id="decide">Waits for you</h1>
      {decisions.length === 0 ? (
        <p className="small mt-1">
          Nothing on your shortlists closes within a day without an order, and no order wants an answer.
        </p>
      ) : (
        <table className="mt-1 w-full">
          <tbody>
            {decisions.map((decision) => (
              <tr key={decision.key} className="border-t border-rule align-baseline" data-decision={decision.name}>
                <td
                  className="w-24 py-1.5 pr-3 whitespace-nowrap"
                  title={decision.at === null ? '' : moment(decision.at, now)}
                >
                  {decision.at === null ? (
                    <span className="small">when you like</span>
                  ) : (
                    <span className={isSoon(decision.at, now) ? 'rounded-[3px] bg-quince px-1' : ''}>
                      {closing(decision.at, now) || 'over'}
                    </span>
                  )}
                </td>
                <td className="max-w-56 truncate pr-3">
                  <Link href={`/domains/${decision.name}`} className="font-semibold hover:underline">
                    {decision.name}
                  </Link>
                </td>
                <td className="pr-3">
                  {decision.words} {decision.briefName && <span className="small">for {decision.briefName}</span>}
                </td>
                <td className="pr-3 text-right whitespace-nowrap">
                  {decision.maximum !== null
                    ? `up to ${decision.maximum}`
                    : decision.action !== 'sale' && <span className="small">no maximum set</span>}
                </td>
                <td className="text-right">
                  {decision.action === 'order' ? (
                    <button type="button" className="quiet" onClick={() => openOrder(decision.name)}>
                      {decision.label}
                    </button>
                  ) : (
                    <Link
                      className="quiet"
                      href={decision.action === 'sale' ? `/domains/${decision.name}/sale` : '/orders'}
                    >
                      {decision.label}
                    </Link>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
