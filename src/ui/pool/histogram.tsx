'use client';

import type { Histogram as Bars } from '../../core/pool/query';

const WIDTH = 240;
const HEIGHT = 46;

/** What reaches a condition, by value; the bars it lets through are dark. Clicking sets the nearer bound. */
export function Histogram({
  bars,
  min,
  max,
  onPick,
}: {
  bars: Bars;
  min: number | null;
  max: number | null;
  onPick(value: number): void;
}) {
  const { edges, counts } = bars;
  if (counts.length === 0) return <p className="small mt-1">Nothing with a known value reaches this condition.</p>;
  const most = Math.max(...counts);
  const step = WIDTH / counts.length;
  const isIn = (bin: number) => (min === null || edges[bin + 1] >= min) && (max === null || edges[bin] <= max);
  return (
    <div className="mt-2">
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: the same bounds are set by the fields below */}
      <svg
        width={WIDTH}
        height={HEIGHT}
        role="img"
        aria-label={`Histogram from ${edges[0].toPrecision(3)} to ${edges[counts.length].toPrecision(3)}`}
        className="cursor-crosshair"
        onClick={(event) => {
          const { left } = event.currentTarget.getBoundingClientRect();
          const value = edges[0] + ((event.clientX - left) / WIDTH) * (edges[counts.length] - edges[0]);
          onPick(Number(value.toPrecision(3)));
        }}
      >
        {counts.map((value, bin) => {
          const tall = value === 0 ? 0 : 2 + (Math.sqrt(value) / Math.sqrt(most)) * (HEIGHT - 4);
          return (
            <rect
              key={bin}
              x={bin * step}
              y={HEIGHT - tall}
              width={step - 1}
              height={tall}
              fill={isIn(bin) ? 'var(--damson)' : 'var(--bar)'}
            />
          );
        })}
      </svg>
      <div className="small flex justify-between">
        <span>{Number(edges[0].toPrecision(3))}</span>
        <span>bar heights by square root</span>
        <span>{Number(edges[counts.length].toPrecision(3))}</span>
      </div>
    </div>
  );
}
