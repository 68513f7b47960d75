'use client';

import { closing, isSoon, moment } from '../../core/wording/format';
import Link, { DomainLink } from '../link';
import { openOrder } from '../orders/open';
import { PlainTable, plainColumnsFor } from '../parts/plain-table';
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

const column = plainColumnsFor<DecisionShown>();

const columnsOf = (now: number) => [
  column(
    'When',
    ({ at }) =>
      at === null ? (
        <span className="small">when you like</span>
      ) : (
        <span title={moment(at, now)} className={isSoon(at, now) ? 'rounded-[3px] bg-quince px-1' : undefined}>
          {closing(at, now) || 'over'}
        </span>
      ),
    { className: 'w-24 whitespace-nowrap' },
  ),
  column('Domain', ({ name }) => <DomainLink name={name} />, { isHead: true, className: 'max-w-56 truncate' }),
  column('What waits', ({ words, briefName }) => (
    <>
      {words} {briefName && <span className="small">for {briefName}</span>}
    </>
  )),
  column(
    'Maximum',
    ({ maximum, action }) =>
      maximum !== null ? `up to ${maximum}` : action !== 'sale' && <span className="small">no maximum set</span>,
    { isNumber: true, className: 'whitespace-nowrap' },
  ),
  column(
    'What can be done',
    ({ action, name, label }) =>
      action === 'order' ? (
        <button type="button" className="quiet" onClick={() => openOrder(name)}>
          {label}
        </button>
      ) : (
        <Link className="quiet" href={action === 'sale' ? `/domains/${name}/sale` : '/orders'}>
          {label}
        </Link>
      ),
    { isNumber: true },
  ),
];

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
        <PlainTable
          label="Waits for you"
          isHeadless
          className="mt-1"
          rows={decisions}
          rowId={({ key }) => key}
          rowProps={({ name }) => ({ 'data-decision': name })}
          columns={columnsOf(now)}
        />
      )}
    </section>
  );
}
