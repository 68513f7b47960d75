'use client';

import { scaleLinear } from 'd3-scale';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import type { Life } from '../../core/history/life';
import type { LinkSpan } from '../../core/links/profile';
import { dayField } from '../parts/day-field';
import { PlainTable, plainColumnsFor } from '../parts/plain-table';
import { pressed } from '../shell/key-list';
import { Drawing, Shapes } from './drawing';
import { drawLife, drawLook, GUTTER, LOOK_WORDS } from './shapes';

const DAY = 86_400_000;
const LEAST_WINDOW = 14 * DAY;
const LANE_TITLES = {
  registration: 'Registration',
  content: 'History',
  language: 'Language',
  links: 'Links',
  observations: 'Seen by us',
} as const;

type Range = [from: number, to: number];

/** Everything of a life on one axis. Drag over it, or use + − ← → 0 on it, to look closer; the address keeps the window. */
export function LifeChart({ life, links, words }: { life: Life; links: readonly LinkSpan[]; words: string }) {
  const whole: Range = useMemo(() => [life.from, life.to], [life]);
  const [range, setRange] = useState<Range>(whole);
  const [over, setOver] = useState<number | null>(null);
  const [drag, setDrag] = useState<Range | null>(null);
  const [width, setWidth] = useState(1132);
  const [isTableOpen, setTableOpen] = useState(false);
  const frame = useRef<HTMLDivElement>(null);

  useEffect(() => {
    const given = new URLSearchParams(window.location.search).get('life')?.split('..').map(Date.parse);
    if (given?.length === 2 && given.every(Number.isFinite) && given[1] > given[0]) setRange([given[0], given[1]]);
  }, []);
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const measure = new ResizeObserver(([entry]) => setWidth(Math.max(480, Math.floor(entry.contentRect.width))));
    measure.observe(element);
    return () => measure.disconnect();
  }, []);

  const look = useCallback(
    (from: number, to: number) => {
      const span = Math.max(LEAST_WINDOW, Math.min(whole[1] - whole[0], to - from));
      const begin = Math.max(whole[0], Math.min(whole[1] - span, from));
      const next: Range = [begin, begin + span];
      const isWhole = next[0] <= whole[0] && next[1] >= whole[1];
      setRange(isWhole ? whole : next);
      const address = new URL(window.location.href);
      if (isWhole) address.searchParams.delete('life');
      else address.searchParams.set('life', `${dayField(next[0])}..${dayField(next[1])}`);
      window.history.replaceState(window.history.state, '', address);
    },
    [whole],
  );
  const [from, to] = range;
  const span = to - from;
  const zoom = (factor: number) => look(from + (span * (1 - factor)) / 2, to - (span * (1 - factor)) / 2);
  const onKey = (event: React.KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const key = pressed('lifeline, with the focus', event);
    if (key === 'closer') zoom(0.5);
    else if (key === 'wider') zoom(2);
    else if (key === 'earlier') look(from - span / 4, to - span / 4);
    else if (key === 'later') look(from + span / 4, to + span / 4);
    else if (key === 'whole') look(...whole);
    else return;
    // + marks a domain elsewhere on the page
    event.preventDefault();
    event.stopPropagation();
  };

  const drawing = drawLife({ life, links, from, to, width });
  const x = scaleLinear().domain([from, to]).range([GUTTER, width]).clamp(true);
  const timeAt = (event: React.PointerEvent) => {
    const rect = event.currentTarget.getBoundingClientRect();
    return x.invert(((event.clientX - rect.left) / rect.width) * width);
  };
  const shown = over === null ? null : life.spans[over];
  const looks = LOOK_WORDS.filter(([kind]) => life.spans.some((one) => one.look === kind));
  const isWhole = from <= whole[0] && to >= whole[1];
  return (
    <figure className="mt-3 border-y border-rule pt-2 pb-1.5" aria-label="Life">
      {/* biome-ignore lint/a11y/useSemanticElements: a field set of nothing but a drawing */}
      <div
        ref={frame}
        role="group"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is zoomed by keys
        tabIndex={0}
        aria-label="Lifeline: + closer, - wider, arrows along, 0 all of it; the table below says the same"
        onKeyDown={onKey}
        className="touch-pan-y select-none"
      >
        <svg
          width={width}
          height={drawing.height}
          role="img"
          aria-label={words}
          className="block max-w-full cursor-crosshair"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            const at = timeAt(event);
            setDrag([at, at]);
          }}
          onPointerMove={(event) => drag && setDrag([drag[0], timeAt(event)])}
          onPointerUp={() => {
            if (drag && Math.abs(drag[1] - drag[0]) > span / 60) look(Math.min(...drag), Math.max(...drag));
            setDrag(null);
          }}
          onPointerCancel={() => setDrag(null)}
          onPointerLeave={() => setOver(null)}
          onDoubleClick={() => look(...whole)}
        >
          <Shapes shapes={drawing.shapes} onSpan={setOver} />
          {drag && (
            <rect
              x={x(Math.min(...drag))}
              y={0}
              width={Math.abs(x(drag[1]) - x(drag[0]))}
              height={drawing.height}
              fill="var(--damson)"
              fillOpacity={0.12}
            />
          )}
        </svg>
      </div>
      <figcaption className="mt-1 flex min-h-6 flex-wrap items-center gap-x-4 gap-y-1">
        {shown ? (
          <span className="truncate">
            {shown.from === shown.to ? dayField(shown.from) : `${dayField(shown.from)} to ${dayField(shown.to)}`}:{' '}
            <strong>{shown.label}</strong> <span className="small">{shown.detail}</span>
          </span>
        ) : (
          looks.map(([kind, means]) => (
            <span key={kind} className="small flex items-center gap-1.5 whitespace-nowrap">
              <Drawing drawing={drawLook(kind)} label="" className="shrink-0" />
              {means}
            </span>
          ))
        )}
        <span className="ml-auto flex shrink-0 gap-1.5 print:hidden">
          <button type="button" className="quiet" aria-label="Look closer" onClick={() => zoom(0.5)}>
            +
          </button>
          <button type="button" className="quiet" aria-label="Look wider" disabled={isWhole} onClick={() => zoom(2)}>
            −
          </button>
          <button type="button" className="quiet" disabled={isWhole} onClick={() => look(...whole)}>
            All of it
          </button>
        </span>
      </figcaption>
      <details onToggle={(event) => setTableOpen(event.currentTarget.open)}>
        <summary className="small">The same as a table</summary>
        {isTableOpen && <LifeTable life={life} links={links} />}
      </details>
    </figure>
  );
}

interface SpanLine {
  lane: keyof typeof LANE_TITLES;
  /** ms since 1970 UTC. */
  from: number;
  to: number;
  label: string;
  detail: string | null;
}
const column = plainColumnsFor<SpanLine>();

/** The same, span by span. */
export function LifeTable({ life, links }: { life: Life; links: readonly LinkSpan[] }) {
  return (
    <PlainTable<SpanLine>
      label="Life as a table"
      className="mt-1"
      rows={[
        ...life.spans,
        ...links
          .filter(({ gained, lost }) => gained + lost > 0)
          .map(({ from, to, gained, lost }) => ({
            lane: 'links' as const,
            from,
            to: to - 1,
            label: `${gained} came, ${lost} went`,
            detail: 'referring domains, by the dates of their first and last links',
          })),
      ]}
      rowId={(_, n) => String(n)}
      columns={[
        column('Of', ({ lane }) => LANE_TITLES[lane], { isHead: true, isUntitled: true, className: 'text-muted' }),
        column('From', ({ from }) => dayField(from), { className: 'whitespace-nowrap' }),
        column('To', ({ from, to }) => to !== from && dayField(to), { className: 'whitespace-nowrap' }),
        column('What', ({ label }) => label),
        column('In detail', ({ detail }) => <bdi>{detail}</bdi>, { className: 'small' }),
      ]}
    />
  );
}
