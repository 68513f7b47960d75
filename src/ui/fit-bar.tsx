import { FIT_TITLES, type FitPart } from '../core/fit/fit';
import { fitWords } from './fit-words';

export interface FitView {
  score: number | null;
  least: number;
  most: number;
  parts: { part: FitPart; value: number | null; words: string; weight: number }[];
}

/** A fit as a bar of its parts: as wide as they count, filled as far as they hold, dotted where nothing is known. */
export function FitBar({ fit, width }: { fit: FitView; width: number }) {
  const all = fit.parts.reduce((sum, { weight }) => sum + weight, 0) || 1;
  let at = 0;
  const label = `fit ${fitWords(fit)}`;
  return (
    <svg width={width} height={14} role="img" aria-label={label} className="inline-block align-middle">
      {fit.parts.map(({ part, value, weight }) => {
        const x = (at / all) * width;
        const wide = Math.max(0, (weight / all) * width - 1.5);
        at += weight;
        if (weight === 0) return null;
        return (
          <g key={part}>
            <title>{FIT_TITLES[part]}</title>
            <rect
              x={x}
              y={2}
              width={wide}
              height={10}
              fill={value === null ? 'none' : 'var(--rule)'}
              stroke={value === null ? 'var(--muted)' : 'none'}
              strokeDasharray="2 2"
            />
            {value !== null && (
              <rect x={x} y={2 + 10 * (1 - value)} width={wide} height={10 * value} fill="var(--damson)" />
            )}
          </g>
        );
      })}
    </svg>
  );
}
