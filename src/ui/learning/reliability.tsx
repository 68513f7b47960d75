import { scaleLinear, scaleSqrt } from 'd3-scale';
import type { Bin } from '../../core/learning/calibration';

const LEFT = 26;
const BOTTOM = 18;
/** Narrower ones have no room for words. */
const SMALL = 150;

/** What was said against what came: on the line where both are the same, a mark as large as there are cases. */
export function Reliability({ bins, label, size = 170 }: { bins: readonly Bin[]; label: string; size?: number }) {
  const side = size - LEFT - 4;
  const isSmall = size < SMALL;
  const x = scaleLinear().range([LEFT, LEFT + side]);
  const y = scaleLinear().range([4 + side, 4]);
  // as large in area as there are cases
  const radius = scaleSqrt()
    .domain([0, Math.max(1, ...bins.map(({ count }) => count))])
    .range([3, 8]);
  return (
    <svg width={size} height={side + 4 + BOTTOM} role="img" aria-label={label} className="shrink-0 overflow-visible">
      {x.ticks(2).map((share) => (
        <g key={share}>
          <line x1={LEFT} x2={x(1)} y1={y(share)} y2={y(share)} stroke="var(--faint)" />
          <line x1={x(share)} x2={x(share)} y1={y(1)} y2={y(0)} stroke="var(--faint)" />
          <text x={LEFT - 4} y={y(share) + 4} textAnchor="end" className="fill-muted text-[10px]">
            {100 * share}
          </text>
          <text
            x={x(share)}
            y={y(0) + 13}
            textAnchor={share === 1 ? 'end' : 'middle'}
            className="fill-muted text-[10px]"
          >
            {share < 1 ? 100 * share : isSmall ? 100 : '100% said'}
          </text>
        </g>
      ))}
      <line x1={x(0)} y1={y(0)} x2={x(1)} y2={y(1)} stroke="var(--muted)" strokeDasharray="3 3" />
      {bins.map((bin) => (
        <g key={bin.from}>
          <line
            x1={x(bin.foretold)}
            x2={x(bin.foretold)}
            y1={y(bin.foretold)}
            y2={y(bin.came)}
            stroke="var(--damson)"
            opacity={0.5}
          />
          <circle cx={x(bin.foretold)} cy={y(bin.came)} r={radius(bin.count)} fill="var(--damson)" />
        </g>
      ))}
    </svg>
  );
}
