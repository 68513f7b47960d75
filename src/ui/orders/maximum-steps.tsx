import type { Maximum } from '../../core/bids/maximum';
import { money } from '../../core/wording/format';

/** The way from worth to the most to pay, a step a line; what is not taken off is not shown. */
export function MaximumSteps({
  maximum,
  ownMinor,
  mostMinor,
  currency,
  label,
}: {
  maximum: Maximum;
  /** The person's own maximum; null: none. */
  ownMinor: number | null;
  mostMinor: number | null;
  /** The brief's. */
  currency: string;
  label: string;
}) {
  const show = (minor: number) => money(Math.round(minor / 100) * 100, null);
  const { worthMinor, presentMinor, costMinor, feesMinor, renewalsMinor, curseMinor, maximumMinor } = maximum;
  const own = ownMinor === null ? maximumMinor : Math.min(ownMinor, maximumMinor);
  const steps = [
    { words: 'worth, as sure as the plan wants it', minor: worthMinor, isShown: true },
    {
      words: 'seen from today, since the money comes later',
      minor: presentMinor,
      isShown: presentMinor !== worthMinor,
    },
    { words: 'may be its cost, for the margin', minor: costMinor, isShown: costMinor !== presentMinor },
    { words: 'less fees', minor: -feesMinor, isShown: feesMinor > 0 },
    { words: 'less renewals until then', minor: -renewalsMinor, isShown: renewalsMinor > 0 },
    { words: 'less for winning: others thought less of it', minor: -curseMinor, isShown: curseMinor > 0 },
    { words: 'your own maximum', minor: own, isShown: own < maximumMinor },
    {
      words: 'as far as it is needed, or the budget reaches',
      minor: mostMinor ?? 0,
      isShown: mostMinor !== null && mostMinor < own,
    },
  ].filter(({ isShown }) => isShown);
  const left = mostMinor === null ? own : Math.min(own, mostMinor);
  return (
    <table className="w-full text-left" aria-label={label}>
      <tbody>
        {steps.map(({ words, minor }) => (
          <tr key={words} className="border-b border-rule">
            <td className="pr-3">{words}</td>
            <td className="text-right whitespace-nowrap">{show(minor)}</td>
          </tr>
        ))}
        <tr className="border-t border-rule font-semibold text-ink">
          <td className="pr-3">maximum</td>
          <td className="text-right whitespace-nowrap">{money(Math.round(left / 100) * 100, currency)}</td>
        </tr>
      </tbody>
    </table>
  );
}
