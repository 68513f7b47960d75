import type { DomainView } from '../core/pool/domain-view';
import { yearOf } from '../core/wording/format';

/** The axis starts here, or at the domain's first sign of life if that is later than its own year. */
export const FIRST_YEAR = 2004;

type Life = Pick<DomainView, 'capturesByYear' | 'registeredAt' | 'expiresAt' | 'firstSeenAt' | 'dropAt' | 'phase'>;

/** With the part of the year that has gone. */
const yearsAt = (at: number) => 1970 + at / (365.2425 * 86_400_000);

/**
 * A domain's life as a strip: a bar for each year with captures in the archive, the taller the more; the line below is the
 * registration; the arrow a drop, past or expected. Where captures were read, years without content are hollow.
 */
export function Lifeline({
  life,
  eras,
  now,
  width,
  height,
}: {
  life: Life;
  eras?: readonly { from: number; to: number; kind: string }[];
  now: number;
  width: number;
  height: number;
}) {
  const isHollow = (year: number) => {
    const middle = Date.UTC(year, 6, 1);
    const era = (eras ?? []).find(({ from, to }) => middle >= from && middle <= to);
    return era !== undefined && era.kind !== 'content';
  };
  const last = yearsAt(now) + 0.3;
  const x = (year: number) => Math.max(0, Math.min(width, ((year - FIRST_YEAR) / (last - FIRST_YEAR)) * width));
  const base = height - 2.5;
  const most = Math.max(4, ...(life.capturesByYear ?? []).map((entry) => entry.captures));
  const isGone = life.phase === 'free' || life.phase === 'pending-delete';
  const start = life.registeredAt ?? life.firstSeenAt;
  const lineEnd = life.phase === 'free' ? (life.dropAt ?? lastCapture(life) ?? null) : now;
  const drop = isGone ? (life.dropAt ?? (life.phase === 'free' ? lineEnd : now)) : null;
  return (
    <svg width={width} height={height} role="img" aria-label={lifeWords(life, now)} className="block">
      {start !== null && lineEnd !== null && (
        <line x1={x(yearsAt(start))} x2={x(yearsAt(lineEnd))} y1={base} y2={base} stroke="var(--muted)" />
      )}
      {(life.capturesByYear ?? []).map(({ year, captures }) => {
        const tall = (0.35 + 0.65 * (captures / most)) * (height - 5);
        return (
          <rect
            key={year}
            x={x(year)}
            width={Math.max(1.5, x(year + 1) - x(year) - 1)}
            y={base - tall}
            height={tall}
            fill={isHollow(year) ? 'var(--sheet)' : 'var(--damson)'}
            stroke={isHollow(year) ? 'var(--damson)' : 'none'}
            opacity={0.85}
          />
        );
      })}
      {drop !== null && (
        <g stroke="var(--ink)" fill="var(--ink)">
          <line x1={x(yearsAt(drop))} x2={x(yearsAt(drop))} y1={2} y2={base - 2} strokeWidth={1.3} />
          <path d={`M${x(yearsAt(drop)) - 2.8} ${base - 5}h5.6l-2.8 5z`} stroke="none" />
        </g>
      )}
    </svg>
  );
}

function lastCapture(life: Life): number | null {
  const year = life.capturesByYear?.at(-1)?.year;
  return year === undefined ? null : Date.UTC(year, 11, 31);
}

/** The same in words, for those who do not see it. */
export function lifeWords(life: Life, now: number): string {
  const parts: string[] = [];
  if (life.registeredAt !== null) parts.push(`registered ${yearOf(life.registeredAt)}`);
  const years = life.capturesByYear;
  if (years && years.length > 0)
    parts.push(`captures in ${years.length} years from ${years[0].year} to ${years.at(-1)?.year}`);
  else if (years) parts.push('never captured');
  if (life.phase === 'free') parts.push('dropped');
  else if (life.phase === 'pending-delete') parts.push(life.dropAt && life.dropAt > now ? 'about to drop' : 'drop due');
  return parts.length > 0 ? parts.join(', ') : 'nothing known of its life';
}

/** Strength as a hollow ring and trust as a filled dot on one scale. */
export function Pair({
  strength,
  trust,
  width = 62,
}: {
  strength: number | null;
  trust: number | null;
  width?: number;
}) {
  if (strength === null) return null;
  const x = (value: number) => 5 + (Math.min(60, value) / 60) * (width - 10);
  return (
    <svg width={width} height={14} aria-hidden="true" className="inline-block align-middle">
      <line x1={5} x2={width - 5} y1={7} y2={7} stroke="var(--rule)" />
      {trust !== null && <line x1={x(strength)} x2={x(trust)} y1={7} y2={7} stroke="var(--damson)" strokeWidth={2} />}
      <circle cx={x(strength)} cy={7} r={3.6} fill="var(--sheet)" stroke="var(--damson)" strokeWidth={1.6} />
      {trust !== null && <circle cx={x(trust)} cy={7} r={3.4} fill="var(--damson)" />}
    </svg>
  );
}
