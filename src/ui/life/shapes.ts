import { scaleLinear } from 'd3-scale';
import { LIFE_LANES, type Life, type LifeLane, type LifeLook, type LifeSpan } from '../../core/history/life';
import type { LinkSpan } from '../../core/links/profile';
import { timeTicks } from '../parts/time-ticks';

/** A piece of a drawing, as an element of SVG 1.1; colours are names of ours. */
export interface Shape {
  tag: 'rect' | 'line' | 'path' | 'circle' | 'text';
  attributes: Record<string, string | number>;
  text?: string;
  /** Place of what it shows in the life's spans; undefined: it belongs to the frame. */
  span?: number;
}

export interface LifeDrawing {
  width: number;
  height: number;
  shapes: Shape[];
}

/** What is drawn: a window of a life, with links gained and lost by quarter. */
export interface LifeWindow {
  life: Life;
  links: readonly LinkSpan[];
  from: number;
  to: number;
  width: number;
  /** Without names of the lanes, links, observations and axis: for a small place. */
  isSmall?: boolean;
}

/** Left of the axis, in pixels: where the lanes are named. */
export const GUTTER = 104;
const LANE_HEIGHT: Record<LifeLane, number> = {
  registration: 20,
  content: 34,
  language: 18,
  links: 50,
  observations: 18,
};
const LANE_WORDS: Record<LifeLane, string> = {
  registration: 'Registered',
  content: 'History',
  language: 'Language',
  links: 'Links came, went',
  observations: 'Seen by us',
};
const AXIS = 18;
const GAP = 4;
const LETTER = 6.1;
const SMALL_LANES: LifeLane[] = ['registration', 'content'];

/** Draws a life, so that each kind of time is told by its form: filled, hatched, ticked, hollow, dotted or crossed. */
export function drawLife({ life, links, from, to, width, isSmall }: LifeWindow): LifeDrawing {
  const left = isSmall ? 0 : GUTTER;
  const x = scaleLinear().domain([from, to]).range([left, width]);
  const shapes: Shape[] = [];
  let top = isSmall ? 0 : AXIS;
  const ticks = isSmall ? [] : timeTicks(from, to, Math.floor((width - left) / 74));
  const bottom = top + lanesOf(isSmall).reduce((sum, lane) => sum + heightOf(lane, isSmall) + GAP, 0);
  for (const { at, label } of ticks) {
    shapes.push(line(x(at), AXIS - 3, x(at), bottom, 'var(--faint)'));
    const anchor = x(at) > width - 16 ? 'end' : x(at) < left + 16 ? 'start' : 'middle';
    shapes.push(words(x(at), 11, label, 'var(--muted)', anchor));
  }
  for (const lane of lanesOf(isSmall)) {
    const height = heightOf(lane, isSmall);
    const base = top + height;
    if (!isSmall) {
      shapes.push(words(0, top + height / 2 + 4, LANE_WORDS[lane], 'var(--muted)'));
      shapes.push(line(left, base, width, base, 'var(--rule)'));
    }
    if (lane === 'links') shapes.push(...linkBars(links, { x, top, height, from, to }));
    else
      for (const [n, span] of life.spans.entries()) {
        if (span.lane !== lane || span.to < from || span.from > to) continue;
        const begin = Math.max(left, x(span.from));
        const end = Math.min(width, x(span.to));
        for (const shape of drawSpan(span, begin, end, top, height, isSmall === true))
          shapes.push({ ...shape, span: n });
      }
    top = base + GAP;
  }
  return { width, height: Math.ceil(top), shapes };
}

const lanesOf = (isSmall = false): readonly LifeLane[] => (isSmall ? SMALL_LANES : LIFE_LANES);
const heightOf = (lane: LifeLane, isSmall = false) => (isSmall && lane === 'registration' ? 8 : LANE_HEIGHT[lane]);

function drawSpan(span: LifeSpan, x1: number, x2: number, top: number, height: number, isSmall: boolean): Shape[] {
  const wide = Math.max(1.5, x2 - x1);
  const middle = top + height / 2;
  const [y, tall] = [top + 2, height - 4];
  const label = labelOf(span, x1, wide, middle);
  switch (span.look) {
    case 'line':
      return [line(x1, middle, x2, middle, 'var(--ink)', 2), cap(x1, middle), cap(x2, middle)];
    case 'dashed':
      return [{ ...line(x1, middle, x2, middle, 'var(--ink)', 1.4), attributes: { ...line(x1, middle, x2, middle, 'var(--ink)', 1.4).attributes, 'stroke-dasharray': '5 4' } }];
    case 'drop': {
      const at = (x1 + x2) / 2;
      return [
        box(x1, y, wide, tall, 'var(--bar)', 'none', 0.5),
        line(at, top, at, top + height - 5, 'var(--ink)', 1.6),
        { tag: 'path', attributes: { d: `M${round(at - 4)} ${round(top + height - 7)}h8l-4 7z`, fill: 'var(--ink)' } },
      ];
    }
    case 'point':
      return [{ tag: 'circle', attributes: { cx: round(x1), cy: round(middle), r: 2.6, fill: 'var(--damson)', 'fill-opacity': 0.75 } }];
    case 'language':
      return [
        line(x1, top + height - 2, x2, top + height - 2, 'var(--ink)', 1.2),
        line(x1, top + 3, x1, top + height - 2, 'var(--ink)'),
        ...labelOf(span, x1, wide, middle - 3),
      ];
    case 'solid':
      return [box(x1, y, wide, tall, 'var(--damson)', 'none'), ...labelOf(span, x1, wide, middle, 'var(--on-damson)')];
    case 'light':
      return [box(x1, y, wide, tall, 'var(--damson-soft)', 'var(--damson)'), ...hatch(x1, y, wide, tall), ...plate(span, x1, wide, middle)];
    case 'ticks':
      return [...tickMarks(x1, y, wide, tall), ...plate(span, x1, wide, middle)];
    case 'hollow':
      return [box(x1, y, wide, tall, 'var(--sheet)', 'var(--damson)'), ...label];
    case 'broken':
      return [{ ...box(x1, y, wide, tall, 'none', 'var(--muted)'), attributes: { ...box(x1, y, wide, tall, 'none', 'var(--muted)').attributes, 'stroke-dasharray': '2 3' } }, ...label];
    case 'closed':
      return [box(x1, y, wide, tall, 'none', 'var(--muted)'), line(x1, y, x2, y + tall, 'var(--muted)'), line(x1, y + tall, x2, y, 'var(--muted)'), ...plate(span, x1, wide, middle)];
    case 'unread':
      return [box(x1, y + (isSmall ? 0 : tall / 3), wide, isSmall ? tall : (tall * 2) / 3, 'var(--bar)', 'none'), ...label];
  }
} // biome-ignore format: a look each

/** Bars up for domains that began to link, hollow ones down for those that were lost, on one scale. */
function linkBars(
  links: readonly LinkSpan[],
  { x, top, height, from, to }: { x(at: number): number; top: number; height: number; from: number; to: number },
): Shape[] {
  const shown = links.filter((span) => span.to > from && span.from < to);
  const most = Math.max(1, ...shown.map(({ gained }) => gained));
  const least = Math.max(0, ...shown.map(({ lost }) => lost));
  const zero = top + height * (most / (most + least)) - (least > 0 ? 0 : 1);
  const length = scaleLinear()
    .domain([0, most + least])
    .range([0, height - 3]);
  // one domain among hundreds is still seen
  const tall = (domains: number) => Math.max(2.5, length(domains));
  return shown.flatMap(({ from: begin, to: end, gained, lost }) => {
    const [x1, x2] = [Math.max(x(from), x(begin)), Math.min(x(to), x(end))];
    const wide = Math.max(1, x2 - x1 - 1);
    return [
      ...(gained > 0 ? [box(x1, zero - tall(gained), wide, tall(gained), 'var(--damson)', 'none')] : []),
      ...(lost > 0 ? [box(x1, zero, wide, tall(lost), 'var(--sheet)', 'var(--damson)')] : []),
    ];
  });
}

const round = (value: number) => Math.round(value * 10) / 10;

function box(
  x: number,
  y: number,
  width: number,
  height: number,
  fill: string,
  stroke: string,
  opacity?: number,
): Shape {
  const attributes = { x: round(x), y: round(y), width: round(width), height: round(height), fill, stroke };
  return { tag: 'rect', attributes: opacity === undefined ? attributes : { ...attributes, 'fill-opacity': opacity } };
}

function line(x1: number, y1: number, x2: number, y2: number, stroke: string, width = 1): Shape {
  return {
    tag: 'line',
    attributes: { x1: round(x1), y1: round(y1), x2: round(x2), y2: round(y2), stroke, 'stroke-width': width },
  };
}

const cap = (x: number, y: number) => line(x, y - 4, x, y + 4, 'var(--ink)');

function words(x: number, y: number, text: string, fill: string, anchor = 'start'): Shape {
  return {
    tag: 'text',
    attributes: { x: round(x), y: round(y), fill, 'text-anchor': anchor, 'font-size': 11 },
    text,
  };
}

/** The label where it fits, cut where a part of it tells something. */
function labelOf({ label }: LifeSpan, x: number, wide: number, middle: number, fill = 'var(--ink)'): Shape[] {
  const letters = Math.floor((wide - 8) / LETTER);
  if (letters < 3 || (letters < label.length && letters < 6)) return [];
  const text = letters < label.length ? `${label.slice(0, letters - 1)}…` : label;
  return [words(x + 4, middle + 4, text, fill)];
}

/** A label over a pattern, on a plate of its own. */
function plate(span: LifeSpan, x: number, wide: number, middle: number): Shape[] {
  const label = labelOf(span, x, wide, middle);
  const letters = label[0]?.text?.length ?? 0;
  return letters === 0 ? [] : [box(x + 2, middle - 8, letters * LETTER + 4, 16, 'var(--paper)', 'none'), ...label];
}

const HATCH = 7;
function hatch(x: number, y: number, wide: number, tall: number): Shape[] {
  const lines: string[] = [];
  for (let at = HATCH; at < wide + tall; at += HATCH) {
    const [x1, y1] = at <= wide ? [at, 0] : [wide, at - wide];
    const [x2, y2] = at <= tall ? [0, at] : [at - tall, tall];
    lines.push(`M${round(x + x1)} ${round(y + y1)}L${round(x + x2)} ${round(y + y2)}`);
  }
  return lines.length === 0
    ? []
    : [
        {
          tag: 'path',
          attributes: { d: lines.join(''), stroke: 'var(--damson)', 'stroke-opacity': 0.45, fill: 'none' },
        },
      ];
}

function tickMarks(x: number, y: number, wide: number, tall: number): Shape[] {
  const lines: string[] = [];
  for (let at = 0; at <= wide; at += 6) lines.push(`M${round(x + at)} ${round(y + tall * 0.35)}V${round(y + tall)}`);
  return [{ tag: 'path', attributes: { d: lines.join(''), stroke: 'var(--muted)', fill: 'none' } }];
}

/** What the forms mean, in the order of the key below a drawing. */
export const LOOK_WORDS: [look: LifeLook, words: string][] = [
  ['solid', 'content of the main subject'],
  ['light', 'of another subject or language'],
  ['ticks', 'parked or for sale'],
  ['hollow', 'forwarding'],
  ['broken', 'errors'],
  ['closed', 'a closed door'],
  ['unread', 'captures not read'],
  ['drop', 'changed hands, or drops'],
];

/** A sample of a form, for the key. */
export function drawLook(look: LifeLook): LifeDrawing {
  const span: LifeSpan = { lane: 'content', look, from: 0, to: 0, label: '', detail: '' };
  return { width: 26, height: 14, shapes: drawSpan(span, 1, 25, 0, 14, true) };
}
