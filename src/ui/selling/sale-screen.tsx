'use client';

import { day } from '../../core/wording/format';
import Link from '../link';
import { RefreshOnOrders } from '../orders/refresh';
import { useNow } from '../shell/live';
import { OfferForm } from './offer-form';
import { SaleView } from './sale-view';
import type { SalePlanShown } from './types';

/** Selling an owned domain on: what to ask, what may be said of it, where it is offered, who asked and what to answer. */
export function SaleScreen({ name, plan }: { name: string; plan: SalePlanShown }) {
  const now = useNow();
  const { holding, sales, isDryRun } = plan;
  const isSold = holding?.status === 'sold';
  return (
    <div className="px-6 py-6">
      <RefreshOnOrders />
      <h1 className="wrap-anywhere">
        Sale of{' '}
        <Link href={`/domains/${name}`} className="hover:underline">
          {name}
        </Link>
      </h1>
      {holding === null ? (
        <p className="mt-4 max-w-prose border-t border-rule pt-4">
          It is not yours, so it cannot be offered. What is yours stands in{' '}
          <Link href="/holdings" className="set">
            Holdings
          </Link>
          .
        </p>
      ) : (
        <p className="mt-1">
          Yours since {day(holding.boughtAt, now)}, from {holding.seller}: <strong>{holding.status}</strong>.
          {isDryRun && ' The dry run is on: what is offered here is noted, and nothing goes out.'}
        </p>
      )}
      <div className="mt-4 grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-10">
        <div>{holding !== null && !isSold && <OfferForm name={name} plan={plan} />}</div>
        <div className="space-y-6">
          {sales.map((sale) => (
            <SaleView key={sale.id} sale={sale} />
          ))}
          {sales.length === 0 && holding !== null && (
            <p className="small">It is offered nowhere yet. Who asks for it will stand here, with what to answer.</p>
          )}
          {plan.against.length > 0 && !isSold && (
            <section aria-labelledby="they-find">
              <h2 id="they-find">What a buyer will find</h2>
              <p className="small">Be ready to answer to it; it is left out of the text, and never said otherwise.</p>
              <ul className="mt-1">
                {plan.against.map((words) => (
                  <li key={words} className="border-t border-faint py-1">
                    {words}
                  </li>
                ))}
              </ul>
            </section>
          )}
        </div>
      </div>
    </div>
  );
}
