import { alike, type Worded } from '../topics/alike';
import type { Terms } from '../topics/terms';
import { type CaptureMark, isSameEra } from './sample';

/** A capture that was read. */
export interface ReadCapture extends CaptureMark {
  /** ms since 1970 UTC. */
  at: number;
  title: string;
  /** `area.subject`; null: not clear. */
  subject: string | null;
}

/** A time in which a name showed one and the same thing. */
export interface Era extends Pick<ReadCapture, 'kind' | 'title' | 'language' | 'subject' | 'redirectTo'> {
  from: number;
  to: number;
  /** Captures in it, and how many of them were read. */
  captures: number;
  read: number;
}

/** A time when the name changed hands, as far as it shows. */
export interface Drop {
  /** It lies between these. */
  from: number;
  to: number;
  why: string;
}

export interface Past {
  eras: Era[];
  /** Times of more than 400 days without a capture. */
  gaps: { from: number; to: number }[];
  /** Years in which there was content, one decimal. */
  contentYears: number;
  drops: Drop[];
  /** 1 minus the cosine between the words of the main era of content and of the last: 0 the same site, 1 nothing in common; null: no content. */
  drift: number | null;
  /** Times that content changed its language, and its subject. */
  languageSwitches: number;
  subjectSwitches: number;
  /** Language and subject of the main era. */
  language: string | null;
  subject: string | null;
}

export interface PastInput {
  /** Of all captures, in order. */
  times: readonly number[];
  /** In order. */
  read: readonly ReadCapture[];
  /** Begin of the present registration; null: not known, or none. */
  registeredAt: number | null;
}

const DAY = 86_400_000;
const YEAR = 365.2425 * DAY;
const GAP_MS = 400 * DAY;
/** A registration that began so much later than the first capture is not the first. */
const YOUNGER_MS = 90 * DAY;
/** Drops that lie so near to each other are one. */
const ONE_DROP_MS = 550 * DAY;

/** Spans, gaps, drops and drift from the captures that were read. */
export function summarizeCaptures({ times, read, registeredAt }: PastInput): Past {
  const gaps: Past['gaps'] = [];
  for (let i = 1; i < times.length; i++)
    if (times[i] - times[i - 1] > GAP_MS) gaps.push({ from: times[i - 1], to: times[i] });
  const groups = groupEras(read, gaps);
  const eras = groups.map((group, n) => eraOf(group, groups[n - 1], groups[n + 1], times, gaps));
  const content = groups.flatMap((group, n) => (group[0].kind === 'content' ? [{ group, era: eras[n] }] : []));
  const main = content.reduce<(typeof content)[number] | null>(
    (best, entry) => (best === null || lasted(entry.era) > lasted(best.era) ? entry : best),
    null,
  );
  const last = content.at(-1);
  return {
    eras,
    gaps,
    contentYears: Math.round((content.reduce((sum, { era }) => sum + lasted(era), 0) / YEAR) * 10) / 10,
    drops: dropsOf(groups, eras, gaps, times, registeredAt),
    drift: main && last ? thousandth(Math.max(0, 1 - alike(wordedOf(main), wordedOf(last)))) : null,
    languageSwitches: switches(content.map(({ era }) => era.language)),
    subjectSwitches: switches(content.map(({ era }) => era.subject)),
    language: main?.era.language ?? null,
    subject: main?.era.subject ?? null,
  };
}

const thousandth = (value: number) => Math.round(value * 1000) / 1000;
const lasted = ({ from, to }: Era) => to - from;

/** Captures that show the same site, in turn; a gap ends an era. */
function groupEras(read: readonly ReadCapture[], gaps: Past['gaps']): ReadCapture[][] {
  const groups: ReadCapture[][] = [];
  for (const capture of read) {
    const group = groups.at(-1);
    const before = group?.at(-1);
    const isParted = before !== undefined && gaps.some(({ from, to }) => before.at <= from && capture.at >= to);
    // the era's first capture counts as well: else a site that changes bit by bit would never have changed
    if (group && before && !isParted && (isSameEra(before, capture) || isSameEra(group[0], capture)))
      group.push(capture);
    else groups.push([capture]);
  }
  return groups;
}

/** An era reaches half-way to its neighbours, but not across a gap, and no further than the captures go. */
function eraOf(
  group: ReadCapture[],
  before: ReadCapture[] | undefined,
  after: ReadCapture[] | undefined,
  times: readonly number[],
  gaps: Past['gaps'],
): Era {
  const first = group[0].at;
  const end = group[group.length - 1].at;
  let from = before ? Math.round(((before.at(-1)?.at ?? first) + first) / 2) : times[0];
  let to = after ? Math.round((end + after[0].at) / 2) : times[times.length - 1];
  for (const gap of gaps) {
    if (gap.to <= first) from = Math.max(from, gap.to);
    if (gap.from >= end) to = Math.min(to, gap.from);
  }
  const middle = group[Math.floor(group.length / 2)];
  return {
    from,
    to,
    kind: middle.kind,
    title: middle.title,
    language: mostOf(group.map(({ language }) => language)),
    subject: mostOf(group.map(({ subject }) => subject)),
    redirectTo: middle.redirectTo,
    captures: times.filter((at) => at >= from && at <= to).length,
    read: group.length,
  };
}

function dropsOf(
  groups: ReadCapture[][],
  eras: Era[],
  gaps: Past['gaps'],
  times: readonly number[],
  registeredAt: number | null,
): Drop[] {
  const drops: Drop[] = [];
  const add = (drop: Drop) => {
    const near = drops.some(({ from, to }) => drop.from - to < ONE_DROP_MS && from - drop.to < ONE_DROP_MS);
    if (!near) drops.push(drop);
  };
  if (registeredAt !== null && times.length > 0 && registeredAt - times[0] > YOUNGER_MS) {
    const before = times.filter((at) => at < registeredAt).at(-1) ?? times[0];
    add({ from: before, to: registeredAt, why: 'the present registration began after it was first seen' });
  }
  for (let n = 1; n < groups.length; n++) {
    const [was, is] = [eras[n - 1], eras[n]];
    const wasContent = lastContentBefore(groups, n);
    const isAnother = is.kind === 'content' && wasContent !== null && !isSameEra(wasContent, groups[n][0]);
    const isGap = gaps.some(({ from, to }) => was.to <= from && is.from >= to);
    if (isGap && (isAnother || is.kind !== 'content'))
      add({ from: was.to, to: is.from, why: `nothing was captured for long, then ${wordsFor(is, was)}` });
    else if (was.kind === 'content' && isAnother && was.subject !== is.subject && was.language === is.language)
      add({ from: was.to, to: is.from, why: 'another site followed, with other words and another subject' });
    else if (was.kind !== 'content' && isAnother)
      add({ from: was.from, to: is.from, why: `${KIND_WORDS[was.kind]}, then another site` });
    else if (
      wasContent &&
      is.kind !== 'content' &&
      is.kind !== 'error' &&
      is.kind !== 'blocked' &&
      was.kind === 'content'
    )
      add({ from: was.to, to: is.from, why: `content, then ${KIND_WORDS[is.kind]}` });
  }
  return drops.sort((a, b) => a.from - b.from);
}

const KIND_WORDS = {
  content: 'content',
  parked: 'parked',
  'for-sale': 'for sale',
  redirect: 'a redirect to another domain',
  error: 'errors',
  blocked: 'a closed door',
} satisfies Record<ReadCapture['kind'], string>;

function wordsFor(is: Era, was: Era): string {
  return is.kind === 'content' ? (was.kind === 'content' ? 'another site' : 'a site') : KIND_WORDS[is.kind];
}

function lastContentBefore(groups: ReadCapture[][], n: number): ReadCapture | null {
  for (let k = n - 1; k >= 0; k--) if (groups[k][0].kind === 'content') return groups[k][groups[k].length - 1];
  return null;
}

function wordedOf({ group, era }: { group: ReadCapture[]; era: Era }): Worded {
  const words: Terms = new Map();
  for (const { terms } of group) for (const [word, count] of terms) words.set(word, (words.get(word) ?? 0) + count);
  return { terms: words, language: era.language };
}

function mostOf(values: (string | null)[]): string | null {
  const counts = new Map<string, number>();
  for (const value of values) if (value !== null) counts.set(value, (counts.get(value) ?? 0) + 1);
  let best: string | null = null;
  for (const [value, count] of counts) if (best === null || count > (counts.get(best) ?? 0)) best = value;
  return best;
}

function switches(values: (string | null)[]): number {
  const known = values.filter((value) => value !== null);
  return known.filter((value, n) => n > 0 && value !== known[n - 1]).length;
}
