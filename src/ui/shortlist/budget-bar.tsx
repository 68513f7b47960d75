import { money } from '../../core/wording/format';

/** Where the budget goes: what is bound, what the plan would hold, what is left. Amounts in minor units. */
export function BudgetBar({
  budgetMinor,
  boundMinor,
  plannedMinor,
  surplusMinor,
  overMinor,
  currency,
}: {
  budgetMinor: number;
  /** Bid or spent already, by the maximum bids. */
  boundMinor: number;
  plannedMinor: number;
  /** What the plan brings over its cost, on average. */
  surplusMinor: number;
  /** How far the person's own maximums go beyond the budget; 0: they do not. */
  overMinor: number;
  currency: string;
}) {
  const show = (minor: number) => money(Math.round(minor / 100) * 100, currency);
  const share = (minor: number) => `${Math.min(100, (100 * minor) / Math.max(1, budgetMinor))}%`;
  const left = Math.max(0, budgetMinor - boundMinor - plannedMinor);
  return (
    <div className="mt-2">
      <div aria-hidden className="flex h-3 w-full overflow-hidden border border-rule bg-sheet">
        <span className="block bg-damson" style={{ width: share(boundMinor) }} />
        <span
          className="block"
          style={{
            width: share(plannedMinor),
            background:
              'repeating-linear-gradient(135deg, var(--damson) 0 1.5px, transparent 1.5px 5px) border-box, var(--sheet)',
          }}
        />
      </div>
      <p className="mt-0.5 flex flex-wrap gap-x-4">
        <span>
          <strong>{show(boundMinor)}</strong> bid or spent
        </span>
        <span>
          <strong>{show(plannedMinor)}</strong> planned
        </span>
        <span>
          <strong>{show(left)}</strong> of {show(budgetMinor)} left
        </span>
        {/* on the same line, so that nothing moves under the pointer */}
        {overMinor > 0 && (
          <span role="alert" className="bg-quince px-2">
            your maximums are {show(overMinor)} over the budget
          </span>
        )}
        <span className="ml-auto">the plan brings {show(surplusMinor)} over its cost on average</span>
      </p>
    </div>
  );
}
