import { scaleLinear } from 'd3-scale';
import type { DropWindow } from '../../core/lifecycle/drop-window';
import type { LifePolicy } from '../../core/lifecycle/policies';
import { type StageSpan, stageSpans } from '../../core/lifecycle/stages';
import { day, moment } from '../../core/wording/format';
import { timeTicks } from '../parts/time-ticks';

const WIDTH = 1000;
const ROW = 22;
const TOP = 16;
const LEFT = 120;
const DAY = 86_400_000;
const TICKS = 9;
const TITLES: Record<StageSpan['stage'], string> = {
  'auto-renew': 'Auto-renew period',
  redemption: 'Redemption',
  'pending-delete': 'Pending delete',
  drop: 'Drop',
};

/**
 * The stages up to the drop, a row each: full where the name is in the stage for sure, light where it may be; below, the looks that
 * were taken and what happened.
 */
export function LifeAhead({
  window,
  policy,
  expiredAt,
  looks,
  events,
  now,
}: {
  window: DropWindow;
  policy: LifePolicy;
  expiredAt: number | null;
  /** When servers were asked, ms since 1970 UTC. */
  looks: number[];
  events: { at: number; words: string }[];
  now: number;
}) {
  const spans = stageSpans(window, policy, expiredAt);
  const start = Math.min(now - 3 * DAY, spans[0].begins[0]);
  const end = Math.max(now + 3 * DAY, window.to + 2 * DAY);
  const x = scaleLinear()
    .domain([start, end])
    .range([LEFT, WIDTH - 10])
    .clamp(true);
  const height = TOP + (spans.length + 1) * ROW + 16;
  return (
    <figure>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} className="block w-full" role="img" aria-label={inWords(spans, now)}>
        {timeTicks(start, end, TICKS).map(({ at }) => (
          <g key={at}>
            <line x1={x(at)} x2={x(at)} y1={TOP - 3} y2={height - 16} stroke="var(--faint)" />
            <text x={x(at)} y={10} fontSize={10} textAnchor="middle" fill="var(--muted)">
              {day(at, now)}
            </text>
          </g>
        ))}
        {spans.map(({ stage, begins, ends }, row) => {
          const y = TOP + row * ROW;
          const sure: [number, number] = [begins[1], ends[0]];
          const isDrop = stage === 'drop';
          return (
            <g key={stage}>
              <text x={0} y={y + 14} fontSize={12} fill="var(--ink)" fontWeight={isDrop ? 600 : 400}>
                {TITLES[stage]}
              </text>
              <rect
                x={x(begins[0])}
                width={Math.max(3, x(ends[1]) - x(begins[0]))}
                y={y + 4}
                height={ROW - 8}
                fill="var(--damson)"
                opacity={isDrop ? 1 : 0.22}
              />
              {!isDrop && sure[1] > sure[0] && (
                <rect x={x(sure[0])} width={x(sure[1]) - x(sure[0])} y={y + 4} height={ROW - 8} fill="var(--bar)" />
              )}
            </g>
          );
        })}
        <text x={0} y={TOP + spans.length * ROW + 14} fontSize={12} fill="var(--muted)">
          Looks, events
        </text>
        {looks.map((at) => (
          <circle key={at} cx={x(at)} cy={TOP + spans.length * ROW + 10} r={2.2} fill="var(--muted)" />
        ))}
        {events.map(({ at, words }) => (
          <path
            key={`${at} ${words}`}
            d={`M${x(at)} ${TOP + spans.length * ROW + 3}l5 7l-5 7l-5 -7z`}
            fill="var(--sheet)"
            stroke="var(--damson)"
            strokeWidth={1.5}
          >
            <title>{words}</title>
          </path>
        ))}
        <line x1={x(now)} x2={x(now)} y1={TOP - 3} y2={height - 16} stroke="var(--ink)" strokeDasharray="3 2" />
        <text x={x(now)} y={height - 4} fontSize={10} textAnchor="middle" fill="var(--ink)">
          now
        </text>
      </svg>
      <figcaption className="mt-1">
        Expected to drop between <strong>{moment(window.from, now)}</strong> and{' '}
        <strong>{moment(window.to, now)}</strong>: {window.reasons.join('; ')}.{' '}
        <span className="small">
          Rules of .{policy.ending}: {policy.reference}.
        </span>
      </figcaption>
    </figure>
  );
}

function inWords(spans: StageSpan[], now: number): string {
  return spans
    .map(({ stage, begins, ends }) => `${TITLES[stage]} from ${day(begins[0], now)} to ${day(ends[1], now)}`)
    .join(', ');
}
