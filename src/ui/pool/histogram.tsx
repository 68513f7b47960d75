'use client';

import { scaleLinear, scaleSqrt } from 'd3-scale';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import type { Histogram as Bars } from '../../core/pool/query';
import { count } from '../../core/wording/format';

const WIDTH = 240;
const HEIGHT = 46;
const HANDLE = 7;

type Bound = 'min' | 'max';

/**
 * What reaches a condition, by value; bars that it lets through are dark. The two handles are its bounds: drag them, or move them by
 * the arrow keys. All bars are equally wide; a factor scale has wider ranges to the right.
 */
export function Histogram({
  bars,
  min,
  max,
  whole,
  onChange,
}: {
  bars: Bars;
  min: number | null;
  max: number | null;
  /** Only whole numbers make sense. */
  whole: boolean;
  onChange(bound: Bound, value: number | null): void;
}) {
  const svg = useRef<SVGSVGElement>(null);
  const { edges, counts } = bars;
  if (counts.length === 0)
    return (
      <p className="small mt-1">
        Nothing with a known value reaches this condition
        {bars.unknown > 0 ? `; of ${count(bars.unknown)} it is not known` : ''}.
      </p>
    );
  const height = scaleSqrt()
    .domain([0, Math.max(1, ...counts)])
    .range([2, HEIGHT - 2]);
  const step = WIDTH / counts.length;
  const isIn = (bar: number) =>
    (min === null || edges[bar + 1] > min || (bar === counts.length - 1 && edges[bar + 1] >= min)) &&
    (max === null || edges[bar] <= max);
  // bars are equally wide, whatever they span
  const xOf = scaleLinear()
    .domain(edges)
    .range(edges.map((_, n) => n * step))
    .clamp(true);
  const valueAt = (x: number) => {
    const bar = Math.max(0, Math.min(counts.length - 1, Math.floor(x / step)));
    return tidy(xOf.invert(x), edges[bar + 1] - edges[bar], whole);
  };
  const move = (bound: Bound, clientX: number) => {
    const left = svg.current?.getBoundingClientRect().left ?? 0;
    const x = clientX - left;
    if (bound === 'min') onChange('min', x <= 0 ? null : Math.min(valueAt(x), max ?? Number.POSITIVE_INFINITY));
    else onChange('max', x >= WIDTH ? null : Math.max(valueAt(x), min ?? Number.NEGATIVE_INFINITY));
  };
  const byKey = (bound: Bound) => (event: KeyboardEvent) => {
    const turn = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageUp: 5, PageDown: -5 }[event.key];
    if (turn === undefined) return;
    event.preventDefault();
    const at = bound === 'min' ? (min ?? edges[0]) : (max ?? edges[edges.length - 1]);
    const x = xOf(at) + turn * (whole && step > 12 ? step : Math.max(2, step / 3));
    if (bound === 'min') onChange('min', x <= 0 ? null : valueAt(x));
    else onChange('max', x >= WIDTH ? null : valueAt(x));
  };
  const handle = (bound: Bound) => {
    const value = bound === 'min' ? min : max;
    const x = value === null ? (bound === 'min' ? 0 : WIDTH) : xOf(value);
    return (
      <g
        role="slider"
        tabIndex={0}
        aria-label={bound === 'min' ? 'Lower end' : 'Upper end'}
        aria-valuemin={edges[0]}
        aria-valuemax={edges[edges.length - 1]}
        aria-valuenow={value ?? (bound === 'min' ? edges[0] : edges[edges.length - 1])}
        aria-valuetext={value === null ? 'open' : String(value)}
        data-handle={bound}
        className="cursor-ew-resize focus:outline-none [&:focus-visible>circle]:stroke-[3]"
        transform={`translate(${x} 0)`}
        onKeyDown={byKey(bound)}
        onPointerDown={(event: PointerEvent<SVGGElement>) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          event.preventDefault();
          event.currentTarget.focus();
        }}
        onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && move(bound, event.clientX)}
      >
        <rect x={-9} width={18} y={0} height={HEIGHT + 14} fill="transparent" />
        <line y1={0} y2={HEIGHT + 4} stroke="var(--ink)" strokeWidth={value === null ? 0.6 : 1.4} />
        <circle
          cy={HEIGHT + HANDLE}
          r={4.2}
          fill={value === null ? 'var(--sheet)' : 'var(--ink)'}
          stroke="var(--ink)"
        />
      </g>
    );
  };
  return (
    <div className="mt-2 select-none">
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing with two sliders in it */}
      <svg
        ref={svg}
        width={WIDTH}
        height={HEIGHT + 14}
        role="group"
        aria-label={`How what reaches this condition is spread, from ${short(edges[0])} to ${short(edges[counts.length])}`}
        className="-mx-0 overflow-visible"
      >
        {counts.map((value, bar) => {
          const tall = value === 0 ? 0 : height(value);
          return (
            <rect
              key={bar}
              x={bar * step}
              y={HEIGHT - tall}
              width={Math.max(1, step - 1)}
              height={tall}
              fill={isIn(bar) ? 'var(--damson)' : 'var(--bar)'}
            >
              <title>{`${short(edges[bar])} to ${short(edges[bar + 1])}: ${count(value)}`}</title>
            </rect>
          );
        })}
        <line x1={0} x2={WIDTH} y1={HEIGHT + 0.5} y2={HEIGHT + 0.5} stroke="var(--rule)" />
        {handle('min')}
        {handle('max')}
      </svg>
      <div className="small flex justify-between">
        <span>{short(edges[0])}</span>
        <span>heights by square root</span>
        <span>{short(edges[counts.length])}</span>
      </div>
    </div>
  );
}

/** Rounded to what a hand can aim at: a tenth of a bar. */
function tidy(value: number, bar: number, whole: boolean): number {
  if (whole) return Math.round(value);
  const unit = 10 ** Math.floor(Math.log10(Math.max(1e-9, bar / 5)));
  return Number((Math.round(value / unit) * unit).toPrecision(6));
}

function short(value: number): string {
  if (Math.abs(value) >= 1e6) return `${Number((value / 1e6).toPrecision(3))} M`;
  if (Math.abs(value) >= 10_000) return `${Number((value / 1e3).toPrecision(3))} k`;
  return count(value) === String(value) ? count(value) : String(Number(value.toPrecision(3)));
}
