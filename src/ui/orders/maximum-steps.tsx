import type { Maximum } from '../../core/bids/maximum';
import { money } from '../../core/wording/format';
import { HEAD, PlainTable, plainColumnsFor } from '../parts/plain-table';

type Step = { words: string; minor: number };
const column = plainColumnsFor<Step>();

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
    <PlainTable<Step>
      label={label}
      isHeadless
      rows={steps}
      rowId={({ words }) => words}
      columns={[
        { ...column('Step', ({ words }) => words, HEAD), footer: 'maximum' },
        {
          ...column('Left', ({ minor }) => show(minor), { isNumber: true, className: 'whitespace-nowrap' }),
          footer: money(Math.round(left / 100) * 100, currency),
        },
      ]}
    />
  );
}
