import type { PlanEntry } from '../../contracts/plan';
import type { PlannedBid, Turn } from '../../core/bids/plan';
import { closing, moment, money } from '../../core/wording/format';
import Link from '../link';
import { MaximumSteps } from '../orders/maximum-steps';
import { openOrder } from '../orders/open';
import { WayList } from '../orders/way-list';
import { Amounts, AmountTitles } from './amounts';
import type { PlanView } from './plan-view';
import { Falling, WorthHints } from './worth-hints';

export function PlanTable({
  title,
  label,
  bids,
  byId,
  plan,
  now,
}: {
  title: string;
  label: string;
  bids: PlannedBid[];
  byId: ReadonlyMap<number, PlanEntry>;
  plan: PlanView;
  now: number;
}) {
  const show = (minor: number) => money(Math.round(minor / 100) * 100, null);
  return (
    <section className="mt-6" aria-label={label}>
      <h2>{title}</h2>
      {bids.length === 0 ? (
        <p className="small mt-1">nothing, with what is known and the money that is left</p>
      ) : (
        <table className="mt-1.5 w-full">
          <thead>
            <tr className="small text-left">
              <th scope="col" className="font-normal">
                Domain
              </th>
              <th scope="col" className="font-normal">
                Decided
              </th>
              <th scope="col" className="pl-3 text-right font-normal whitespace-nowrap">
                Maximum
              </th>
              <th scope="col" className="pl-3 text-right font-normal whitespace-nowrap">
                To win
              </th>
              <th scope="col" className="pl-3 text-right font-normal whitespace-nowrap">
                Costs then
              </th>
              <th scope="col" className="pl-3 text-right font-normal whitespace-nowrap">
                Brings
              </th>
              <th scope="col" className="pl-4 font-normal">
                Why, and how it can be had
              </th>
              <th scope="col" className="text-right font-normal">
                <AmountTitles />
              </th>
            </tr>
          </thead>
          <tbody>
            {bids.map((bid) => {
              const entry = byId.get(bid.id);
              const turn = plan.turns[bid.id];
              return (
                <tr key={bid.id} className="border-t border-rule align-top" data-domain={bid.name}>
                  <td className="w-56 py-1.5 pr-3">
                    <Link href={`/domains/${bid.name}`} className="font-semibold wrap-anywhere hover:underline">
                      {bid.name}
                    </Link>
                    {entry?.order && <span className="small block">{entry.order}</span>}
                    <button
                      type="button"
                      className={`${bid.isIn ? 'press' : 'quiet'} mt-1 block`}
                      aria-label={`Order ${bid.name}`}
                      onClick={() => openOrder(bid.name)}
                    >
                      Order
                    </button>
                  </td>
                  <td
                    className="py-1.5 pr-3 whitespace-nowrap"
                    title={bid.at === null ? undefined : moment(bid.at, now)}
                  >
                    {bid.at === null ? 'at once' : closing(bid.at, now)}
                  </td>
                  <td className="py-1.5 pl-3 text-right font-semibold">
                    {entry?.mostMinor == null ? '' : show(entry.mostMinor)}
                  </td>
                  <td className="py-1.5 pl-3 text-right">{Math.round(100 * bid.winChance)}%</td>
                  <td className="py-1.5 pl-3 text-right">{show(bid.paidMinor)}</td>
                  <td className="py-1.5 pl-3 text-right">{show(bid.surplusMinor)}</td>
                  <td className="py-1.5 pl-4">
                    {bid.why[0].toUpperCase() + bid.why.slice(1)}.{entry && <MostToPay entry={entry} />}
                    {entry && <Ways entry={entry} currency={plan.brief.currency} />}
                    {turn && <Turns turn={turn} />}
                    {entry && <Falling entry={entry} briefId={plan.brief.id} />}
                    {entry && <WorthHints entry={entry} briefId={plan.brief.id} />}
                  </td>
                  <td className="py-1 pl-4 text-right">
                    {entry && <Amounts entry={entry} briefId={plan.brief.id} feesMinor={plan.brief.feesMinor} />}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** The way to the one maximum of a row, behind a click. */
function MostToPay({ entry: { maximum, mostMinor, maximumBidMinor, display } }: { entry: PlanEntry }) {
  if (maximum === null || mostMinor === null) return null;
  return (
    <details>
      <summary className="small">How its maximum is reckoned</summary>
      <MaximumSteps
        maximum={maximum}
        ownMinor={maximumBidMinor}
        mostMinor={mostMinor}
        label={`How the maximum of ${display} is reckoned`}
      />
    </details>
  );
}

/** How it can be had, and what should be known before money moves. */
export function Ways({ entry, currency }: { entry: PlanEntry; currency: string }) {
  return (
    <div>
      <WayList ways={entry.ways} chosen={entry.way} currency={currency} label={`Other ways to have ${entry.display}`} />
      {entry.concerns.length > 0 && (
        <span className="block">
          <strong>Before you pay:</strong> {entry.concerns.join('; ')}.
        </span>
      )}
    </div>
  );
}

/** What the plan becomes when this is lost, and when it is won. */
function Turns({ turn: { lost, won } }: { turn: { lost: Turn; won: Turn } }) {
  const words = ({ more, less }: Turn) =>
    [
      ...(more.length > 0 ? [`more for ${more.slice(0, 3).join(', ')}`] : []),
      ...(less.length > 0 ? [`less for ${less.slice(0, 3).join(', ')}`] : []),
    ].join('; ') || 'the rest stays as it is';
  return (
    <span className="small block">
      If lost: {words(lost)}. If won: {words(won)}.
    </span>
  );
}
