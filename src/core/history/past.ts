import { alike, type Worded } from '../topics/alike';
import { clearSubject, subjectClassifier } from '../topics/classifier';
import type { Terms } from '../topics/terms';
import { type CaptureMark, isSameEra, sharedTitle } from './sample';

/** A capture that was read. */
export interface ReadCapture extends CaptureMark {
  /** ms since 1970 UTC. */
  at: number;
  title: string;
  /** `area.subject`; null: not clear. */
  subject: string | null;
  /** It only led to another address of the same name. */
  isPassedOn?: boolean;
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
  /** Times without a capture of more than 400 days, and of more than three times what is usual for the name. */
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
/** and so many times what is usual between two captures. */
const UNUSUAL = 3;
/** A registration that began so much later than the first capture is not the first. */
const YOUNGER_MS = 90 * DAY;
/** Drops that lie so near to each other are one. */
const ONE_DROP_MS = 550 * DAY;

/** Spans, gaps, drops and drift from the captures that were read. */
export function summarizeCaptures({ times, read, registeredAt }: PastInput): Past {
  const gaps = gapsOf(times);
  const told = read.filter((capture) => !capture.isPassedOn);
  const groups = groupEras(told.length > 0 ? told : read);
  const eras = groups.map((group, n) => eraOf(group, groups[n - 1], groups[n + 1], times));
  const content = groups.flatMap((group, n) => (group[0].kind === 'content' ? [{ group, era: eras[n] }] : []));
  const main = content.reduce<(typeof content)[number] | null>(
    (best, entry) => (best === null || lasted(entry.era) > lasted(best.era) ? entry : best),
    null,
  );
  const last = content.at(-1);
  const contentMs = content.reduce((sum, { era }) => sum + lasted(era), 0);
  return {
    eras,
    gaps,
    contentYears: Math.round((contentMs / YEAR) * 10) / 10,
    drops: dropsOf(groups, eras, gaps, times, registeredAt),
    drift: main && last ? thousandth(Math.max(0, 1 - alike(wordedOf(main), wordedOf(last)))) : null,
    languageSwitches: switches(content.flatMap(({ group }) => group.map(({ language }) => language))),
    subjectSwitches: switches(content.map(({ era }) => era.subject)),
    language: main?.era.language ?? null,
    subject: main?.era.subject ?? null,
  };
}

const thousandth = (value: number) => Math.round(value * 1000) / 1000;
const lasted = ({ from, to }: Era) => to - from;

/** Times without a capture that are long, also by what is usual for this name: an archive may look in once in some years only. */
function gapsOf(times: readonly number[]): Past['gaps'] {
  const steps = times.slice(1).map((time, n) => time - times[n]);
  const usual = [...steps].sort((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
  const least = Math.max(GAP_MS, UNUSUAL * usual);
  return steps.flatMap((step, n) => (step > least ? [{ from: times[n], to: times[n + 1] }] : []));
}

/** Captures that show the same site, in turn. */
function groupEras(read: readonly ReadCapture[]): ReadCapture[][] {
  const groups: ReadCapture[][] = [];
  for (const capture of read) {
    const group = groups.at(-1);
    const before = group?.at(-1);
    // the era's first capture counts as well: else a site that changes bit by bit would never have changed
    if (group && before && (isSameEra(before, capture) || isSameEra(group[0], capture))) group.push(capture);
    else groups.push([capture]);
  }
  return groups;
}

/** An era reaches half-way to its neighbours, but not across a long time without a capture, and no further than the captures go. */
function eraOf(
  group: ReadCapture[],
  before: ReadCapture[] | undefined,
  after: ReadCapture[] | undefined,
  times: readonly number[],
): Era {
  const first = group[0].at;
  const end = group[group.length - 1].at;
  let from = before ? Math.round(((before.at(-1)?.at ?? first) + first) / 2) : times[0];
  let to = after ? Math.round((end + after[0].at) / 2) : times[times.length - 1];
  for (let i = 1; i < times.length; i++) {
    if (times[i] - times[i - 1] <= GAP_MS) continue;
    if (times[i] <= first) from = Math.max(from, times[i]);
    if (times[i - 1] >= end) to = Math.min(to, times[i - 1]);
  }
  const middle = group[Math.floor(group.length / 2)];
  const language = mostOf(group.map((capture) => capture.language));
  return {
    from,
    to,
    kind: middle.kind,
    title: middle.title,
    language,
    subject: mostOf(group.map(({ subject }) => subject)) ?? subjectTogether(group),
    redirectTo: middle.redirectTo,
    captures: times.filter((at) => at >= from && at <= to).length,
    read: group.length,
  };
}

/** The subject of captures none of which says enough. */
function subjectTogether(group: readonly ReadCapture[]): string | null {
  if (group[0].kind !== 'content') return null;
  return clearSubject(subjectClassifier().classifyAll(group.map(({ terms, language }) => ({ terms, language }))));
}

/** Kinds that a name shows that has lapsed. */
const LAPSED: ReadonlySet<ReadCapture['kind']> = new Set(['parked', 'for-sale']);

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
  const content = groups.flatMap((group, n) => (group[0].kind === 'content' ? [n] : []));
  for (const [turn, n] of content.entries()) {
    const end = groups[n][groups[n].length - 1].at;
    const next = content[turn + 1];
    const between = groups.slice(n + 1, next ?? groups.length);
    if (next === undefined) {
      // a name that is parked at the end may still be its owner's
      const sold = between.find(([{ kind }]) => kind === 'for-sale');
      if (sold) add({ from: end, to: sold[0].at, why: `content, then ${KIND_WORDS['for-sale']}` });
    } else if (!isSameSite(groups[n], groups[next], between.length > 0)) {
      const begin = groups[next][0].at;
      const why = reasonOf(
        eras[n],
        eras[next],
        between,
        gaps.some(({ from, to }) => end <= from && begin >= to),
      );
      if (why !== null) add({ from: end, to: begin, why });
    }
  }
  return drops.sort((a, b) => a.from - b.from);
}

/** Why a name is taken to have changed hands between two times of content; null: it is not. */
function reasonOf(was: Era, is: Era, between: readonly ReadCapture[][], isGap: boolean): string | null {
  const shown = between.find(([{ kind }]) => LAPSED.has(kind)) ?? between[0];
  if (shown) return `${KIND_WORDS[shown[0].kind]}, then another site`;
  if (isGap) return 'nothing was captured for long, then another site';
  const isOther = was.subject !== is.subject && (was.subject !== null || is.subject !== null);
  // a site that turns to another language may still be the same owner's, and keeps its name then
  const isTold =
    was.language === is.language ||
    (was.subject !== null && is.subject !== null) ||
    sharedTitle(was.title, is.title) === 0;
  return isOther && isTold ? 'another site followed, with other words and another subject' : null;
}

/** Whether content is that of before; after something else was shown it has to be much alike. */
function isSameSite(was: ReadCapture[], is: ReadCapture[], isParted: boolean): boolean {
  const last = was[was.length - 1];
  if (!isParted) return isSameEra(last, is[0]) || isSameEra(was[0], is[0]);
  return [last, was[0]].some(
    (capture) => sharedTitle(capture.title, is[0].title) === 1 || alike(capture, is[0]) >= MUCH_ALIKE,
  );
}

const MUCH_ALIKE = 0.4;

const KIND_WORDS = {
  content: 'content',
  parked: 'parked',
  'for-sale': 'for sale',
  redirect: 'a redirect to another domain',
  error: 'errors',
  blocked: 'a closed door',
  unknown: 'nothing that could be told',
} satisfies Record<ReadCapture['kind'], string>;

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
