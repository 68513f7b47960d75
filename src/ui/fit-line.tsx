import { type FitRange, fitWords } from './fit-words';

/** A fit on one line: as far as it is sure, a hair to what it may be at most, and the figures. */
export function FitLine({ fit, width }: { fit: FitRange; width: number }) {
  const x = (value: number) => (value / 100) * width;
  const { score, least, most } = fit;
  return (
    <span className="flex items-center gap-1.5 whitespace-nowrap">
      <svg width={width} height={12} role="img" aria-label={`fit ${fitWords(fit)}`} className="shrink-0">
        <rect x={0} y={4} width={width} height={4} fill="var(--rule)" />
        {score !== null && <rect x={0} y={4} width={x(least)} height={4} fill="var(--damson)" />}
        {score !== null && most - least >= 2 && (
          <path d={`M${x(least)} 6H${x(most)}M${x(most)} 3V9`} stroke="var(--damson)" fill="none" />
        )}
      </svg>
      <span aria-hidden>{shortFit(fit)}</span>
    </span>
  );
}

/** "64", or "54–70" where it is not all known. */
export function shortFit({ score, least, most }: FitRange): string {
  if (score === null) return '';
  const [low, high] = [Math.round(least), Math.round(most)];
  return high - low < 2 ? String(Math.round(score)) : `${low}–${high}`;
}
