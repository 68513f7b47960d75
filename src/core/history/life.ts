import { fixed } from '../formats/figures';
import type { Phase } from '../lifecycle/phase';
import type { LinkSpan } from '../links/profile';
import { languageName } from './language-name';
import type { Era, Past } from './past';

/** The strips of a lifeline, from top to bottom. */
export const LIFE_LANES = ['registration', 'content', 'language', 'links', 'observations'] as const;
export type LifeLane = (typeof LIFE_LANES)[number];

/**
 * How a span is drawn, so that it is told without colour: solid, content of the main subject; light, of another subject or language;
 * ticks, parked or for sale; hollow, forwarding; broken, errors; closed, a closed door; unread, captures that nobody read; line,
 * registered; dashed, registered as far as captures show; drop, it changed hands; point, something we saw.
 */
export type LifeLook =
  | 'solid'
  | 'light'
  | 'ticks'
  | 'hollow'
  | 'broken'
  | 'closed'
  | 'unread'
  | 'line'
  | 'dashed'
  | 'drop'
  | 'language'
  | 'point';

export interface LifeSpan {
  lane: LifeLane;
  look: LifeLook;
  /** ms since 1970 UTC; a moment has `to` as `from`. */
  from: number;
  to: number;
  /** A few words, as they stand in the strip. */
  label: string;
  /** The rest of it. */
  detail: string;
}

export interface LifeInput {
  now: number;
  phase: Phase;
  registeredAt: number | null;
  expiresAt: number | null;
  /** Of the drop that came, or is expected. */
  dropFrom: number | null;
  dropTo: number | null;
  firstSeenAt: number | null;
  lastSeenAt: number | null;
  capturesByYear: readonly { year: number; captures: number }[] | null;
  past: (Pick<Past, 'eras' | 'drops' | 'language'> & { drift?: number | null }) | null;
  /** Title of the subject of a domain's main era. */
  mainSubject: string | null;
  observations: readonly { at: number; what: string; detail: string }[];
}

/** A life on one axis. */
export interface Life {
  from: number;
  to: number;
  spans: LifeSpan[];
}

const DAY = 86_400_000;
const YEAR = 365.2425 * DAY;
const GONE = new Set<Phase>(['free', 'pending-delete']);

/** Everything that is known of a domain's life on one axis of time, lane by lane and in order. */
export function lifeOf(input: LifeInput): Life {
  const spans = [
    ...registration(input),
    ...content(input),
    ...languages(input),
    ...input.observations.map(
      ({ at, what, detail }): LifeSpan => ({
        lane: 'observations',
        look: 'point',
        from: at,
        to: at,
        label: what,
        detail,
      }),
    ),
  ];
  const order = (span: LifeSpan) => LIFE_LANES.indexOf(span.lane);
  spans.sort((a, b) => order(a) - order(b) || a.from - b.from || a.to - b.to);
  const from = Math.min(input.now - YEAR, ...spans.map((span) => span.from));
  return { from, to: Math.max(input.now, ...spans.map((span) => span.to)) + 0.02 * (input.now - from), spans };
}

/** The axis with links gained and lost on it as well. */
export function widenLife(life: Life, links: readonly LinkSpan[]): Life {
  const first = links[0];
  return first ? { ...life, from: Math.min(life.from, first.from) } : life;
}

function registration(input: LifeInput): LifeSpan[] {
  const { now, registeredAt, expiresAt, past, firstSeenAt, lastSeenAt, phase } = input;
  const spans: LifeSpan[] = [];
  const put = (look: LifeLook, from: number, to: number, label: string, detail: string) =>
    spans.push({ lane: 'registration', look, from, to: Math.max(from, to), label, detail });
  const isFree = phase === 'free';
  const drops = past?.drops ?? [];
  // before the present registration, only captures tell that there was one
  let from = firstSeenAt;
  const known = isFree ? null : registeredAt;
  for (const drop of drops) {
    if (from !== null && drop.from > from) put('dashed', from, drop.from, 'registered', 'as captures show');
    put('drop', drop.from, drop.to, 'changed hands', drop.why);
    from = drop.to;
  }
  if (known !== null) {
    if (from !== null && drops.length === 0 && known - from > 90 * DAY)
      put('dashed', from, known, 'registered', 'as captures show');
    const end = expiresAt === null || expiresAt < now ? now : expiresAt;
    put('line', known, end, 'registered', expiresAt === null ? 'no expiry is known' : `until ${iso(expiresAt)}`);
  } else if (isFree && registeredAt !== null) {
    put('line', registeredAt, input.dropFrom ?? lastSeenAt ?? now, 'registered', 'until it dropped');
  } else if (from !== null && lastSeenAt !== null && lastSeenAt > from)
    put('dashed', from, lastSeenAt, 'registered', 'as captures show');
  if (input.dropFrom !== null && (GONE.has(phase) || input.dropFrom > now)) {
    const to = input.dropTo ?? input.dropFrom;
    put('drop', input.dropFrom, to, input.dropFrom > now ? 'drop expected' : 'dropped', iso(input.dropFrom));
  }
  return spans;
}

/** Less is the change that any site goes through. */
const LEAST_DRIFT = 0.1;
const KIND_LABELS: Record<Era['kind'], string> = {
  content: 'content',
  parked: 'parked',
  'for-sale': 'for sale',
  redirect: 'forwarding',
  error: 'errors',
  blocked: 'a closed door',
  unknown: 'not told',
};
const KIND_LOOKS: Record<Exclude<Era['kind'], 'content'>, LifeLook> = {
  parked: 'ticks',
  'for-sale': 'ticks',
  redirect: 'hollow',
  error: 'broken',
  blocked: 'closed',
  unknown: 'closed',
};

function content({ past, capturesByYear, mainSubject }: LifeInput): LifeSpan[] {
  const lastContent = past?.eras.findLast(({ kind }) => kind === 'content');
  const drift = past?.drift ?? 0;
  if (past !== null && past.eras.length > 0)
    return past.eras.map((era): LifeSpan => {
      const isMain =
        (era.subject === null || mainSubject === null || era.subject === mainSubject) &&
        (era.language === null || past.language === null || era.language === past.language);
      const label =
        era.kind === 'content'
          ? (era.subject ?? 'content')
          : era.redirectTo
            ? `to ${era.redirectTo}`
            : KIND_LABELS[era.kind];
      // how far the last site is from the main one stands where it is seen
      const hasDrifted = era === lastContent && drift >= LEAST_DRIFT;
      const parts = [
        ...(label === KIND_LABELS[era.kind] ? [] : [KIND_LABELS[era.kind]]),
        ...(era.title ? [`"${era.title}"`] : []),
        `${era.captures} captures, ${era.read} read`,
      ];
      return {
        lane: 'content',
        look: era.kind === 'content' ? (isMain ? 'solid' : 'light') : KIND_LOOKS[era.kind],
        from: era.from,
        to: era.to,
        label: hasDrifted ? `${label}, topic change ${fixed(drift, 2)}` : label,
        detail: parts.join('; '),
      };
    });
  return (capturesByYear ?? []).map(({ year, captures }) => ({
    lane: 'content',
    look: 'unread',
    from: Date.UTC(year, 0, 1),
    to: Date.UTC(year + 1, 0, 1) - 1,
    label: String(captures),
    detail: `${captures} ${captures === 1 ? 'capture' : 'captures'}, none read`,
  }));
}

/** Content eras in one language in turn are one span. */
function languages({ past }: LifeInput): LifeSpan[] {
  const spans: LifeSpan[] = [];
  let code: string | null = null;
  for (const era of past?.eras ?? []) {
    if (era.kind !== 'content' || era.language === null) continue;
    const last = spans.at(-1);
    if (last && era.language === code) last.to = era.to;
    else
      spans.push({
        lane: 'language',
        look: 'language',
        from: era.from,
        to: era.to,
        label: languageName(era.language),
        detail: 'language of what was there',
      });
    code = era.language;
  }
  return spans;
}

const iso = (at: number) => new Date(at).toISOString().slice(0, 10);
