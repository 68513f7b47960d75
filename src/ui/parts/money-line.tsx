import { scaleLog } from 'd3-scale';
import { money } from '../../core/wording/format';

/** What a price is decided by, in minor units of one currency; null: not known. */
export interface MoneyFigures {
  /** What it costs now. */
  priceMinor: number | null;
  /** Up to where others are likely to go. */
  rivalsMinor: number | null;
  /** The most to pay. */
  maximumMinor: number | null;
  /** What it is worth, six times in ten. */
  worthLowMinor: number | null;
  worthHighMinor: number | null;
}

export interface MoneySpan {
  leastMinor: number;
  mostMinor: number;
}

/** From where to where lines that stand below each other reach: all their figures, out to whole steps of 1, 2 and 5. */
export function spanOf(all: readonly MoneyFigures[]): MoneySpan {
  const known = all
    .flatMap((figures) => Object.values(figures) as (number | null)[])
    .filter((minor): minor is number => minor !== null && minor > 0);
  if (known.length === 0) return { leastMinor: 100, mostMinor: 100_000 };
  const leastMinor = stepAt(Math.min(...known), false);
  return { leastMinor, mostMinor: Math.max(stepAt(Math.max(...known), true), leastMinor * 10) };
}

/** The nearest of …, 100, 200, 500, 1000, … at or below a sum, or at or above it; at least 1.00. */
function stepAt(minor: number, isUp: boolean): number {
  const steps = Array.from({ length: 30 }, (_, n) => 100 * [1, 2, 5][n % 3] * 10 ** Math.floor(n / 3));
  return isUp ? (steps.find((step) => step >= minor) ?? minor) : (steps.findLast((step) => step <= minor) ?? 100);
}

/** The same figures in words. */
export function moneyWords(figures: MoneyFigures, currency: string): string {
  const { priceMinor, rivalsMinor, maximumMinor, worthLowMinor, worthHighMinor } = figures;
  const show = (minor: number) => money(Math.round(minor / 100) * 100, currency);
  return (
    [
      ...(priceMinor === null ? [] : [`price ${show(priceMinor)}`]),
      ...(rivalsMinor === null ? [] : [`rivals likely to ${show(rivalsMinor)}`]),
      ...(maximumMinor === null ? [] : [`maximum ${show(maximumMinor)}`]),
      ...(worthLowMinor === null || worthHighMinor === null
        ? []
        : [`worth ${show(worthLowMinor)} to ${show(worthHighMinor)}`]),
    ].join(', ') || 'neither price nor worth is known'
  );
}

/** Price, rivals, maximum and worth on one line: a bar to the price, dots at the rivals' likely top, a stroke at the maximum, a band of worth. */
export function MoneyLine({
  figures,
  currency,
  span = spanOf([figures]),
  width,
}: {
  figures: MoneyFigures;
  currency: string;
  /** That of all lines beside it, so that they can be compared. */
  span?: MoneySpan;
  /** In CSS pixels. */
  width: number;
}) {
  const x = scaleLog().domain([span.leastMinor, span.mostMinor]).range([0, width]).clamp(true);
  const at = (minor: number) => (minor <= 0 ? 0 : x(minor));
  const { priceMinor, rivalsMinor, maximumMinor, worthLowMinor, worthHighMinor } = figures;
  const words = moneyWords(figures, currency);
  return (
    <svg
      width={width}
      height={18}
      viewBox={`0 0 ${width} 18`}
      preserveAspectRatio="none"
      role="img"
      aria-label={words}
      className="block max-w-full"
    >
      <title>{words}</title>
      <line x1={0} x2={width} y1={9} y2={9} stroke="var(--rule)" />
      {worthLowMinor !== null && worthHighMinor !== null && (
        <rect
          x={at(worthLowMinor)}
          y={4}
          width={Math.max(2, at(worthHighMinor) - at(worthLowMinor))}
          height={10}
          fill="var(--quince)"
          stroke="var(--bar)"
          strokeWidth={0.5}
        />
      )}
      {priceMinor !== null && <rect x={0} y={7.5} width={Math.max(2, at(priceMinor))} height={3} fill="var(--ink)" />}
      {rivalsMinor !== null && (
        <line
          x1={at(rivalsMinor)}
          x2={at(rivalsMinor)}
          y1={2}
          y2={16}
          stroke="var(--ink)"
          strokeWidth={1.5}
          strokeDasharray="1.5 1.5"
        />
      )}
      {maximumMinor !== null && maximumMinor > 0 && (
        <rect
          x={Math.min(width - 2, Math.max(0, at(maximumMinor) - 1))}
          y={1}
          width={2}
          height={16}
          fill="var(--damson)"
        />
      )}
    </svg>
  );
}
