import { scaleLinear } from 'd3-scale';
import { zonedTime } from '../../core/deadlines/days';
import type { Deadline } from '../../core/deadlines/deadline';

const WIDTH = 1000;
const HEIGHT = 30;
const LINE = 20;
const HOUR = 3_600_000;

/**
 * A day as a line of its hours: windows of drops as bars above it, closings as strokes, price steps as steps, expiries as rings,
 * re-checks as dots on it. Days on which clocks change are an hour longer or shorter.
 */
export function DayTrack({
  from,
  to,
  now,
  zone,
  items,
}: {
  from: number;
  to: number;
  now: number;
  zone: string;
  items: Deadline[];
}) {
  const x = scaleLinear().domain([from, to]).rangeRound([0, WIDTH]).clamp(true);
  const hours: number[] = [];
  for (let at = from; at <= to; at += 3 * HOUR) hours.push(at);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block w-full"
      aria-hidden="true"
      preserveAspectRatio="none"
      height={HEIGHT}
    >
      <line x1={0} x2={WIDTH} y1={LINE} y2={LINE} stroke="var(--rule)" />
      {hours.map((at) => (
        <g key={at}>
          <line x1={x(at)} x2={x(at)} y1={LINE} y2={LINE + 3} stroke="var(--muted)" />
          {at > from && at < to - HOUR && (
            <text x={x(at) + 3} y={HEIGHT - 1} fontSize={9} fill="var(--muted)">
              {zonedTime(at, zone).time}
            </text>
          )}
        </g>
      ))}
      {items.map((item) => (
        <Mark key={item.uid} item={item} x={x} />
      ))}
      {now >= from && now < to && (
        <line x1={x(now)} x2={x(now)} y1={0} y2={LINE + 5} stroke="var(--ink)" strokeDasharray="2 2" />
      )}
    </svg>
  );
}

function Mark({ item, x }: { item: Deadline; x(at: number): number }) {
  const at = x(item.at);
  switch (item.kind) {
    case 'drop': {
      const width = Math.max(4, x(item.until ?? item.at + HOUR) - at);
      return <rect x={at} width={width} y={LINE - 12} height={9} fill="var(--damson)" opacity={0.35} />;
    }
    case 'closing':
      return <line x1={at} x2={at} y1={LINE - 14} y2={LINE} stroke="var(--damson)" strokeWidth={2} />;
    case 'price-step':
      return <path d={`M${at - 6} ${LINE - 10}h6v10`} fill="none" stroke="var(--damson)" strokeWidth={1.5} />;
    case 'answer':
      return <path d={`M${at - 4} ${LINE - 10}h8v6h-5l-3 3z`} fill="none" stroke="var(--damson)" />;
    case 'renewal':
      return <circle cx={at} cy={LINE} r={4} fill="var(--damson)" />;
    case 'expiry':
      return <circle cx={at} cy={LINE} r={3.5} fill="var(--sheet)" stroke="var(--damson)" strokeWidth={1.5} />;
    case 're-check':
      return <circle cx={at} cy={LINE} r={1.4} fill="var(--muted)" />;
  }
}
