import { RISKY_SUBJECTS } from '../spam/risky';
import { alike } from '../topics/alike';
import { areaOf } from '../topics/subjects';
import type { Terms } from '../topics/terms';
import type { CaptureKind } from './capture';

/** What tells one time of a site from another. */
export interface CaptureMark {
  kind: CaptureKind;
  language: string | null;
  terms: Terms;
  redirectTo: string | null;
  title?: string;
  /** `area.subject`; null: not clear. */
  subject?: string | null;
}

export interface SampleOptions {
  /** Captures that are read at most. */
  most: number;
  /** A change is pinned down to within so many ms. */
  finestMs: number;
  /** Where nothing changed, a capture is read every so many ms, since a change may have come and gone. */
  widestMs: number;
}

const DAY = 86_400_000;
export const SAMPLE_DEFAULTS: SampleOptions = { most: 24, finestMs: 60 * DAY, widestMs: 3 * 365 * DAY };
/** Texts of one site of one time have at least so much in common. */
const SAME_TEXT = 0.15;
/** The same where they are about something else. */
const FAR_TEXT = 0.3;
/** A stretch that changed is looked into before one this many times as long that did not. */
const CHANGED_FIRST = 8;

/** Whether two captures show the same site: kind, language, target, and for content, words in common. */
export function isSameEra(a: CaptureMark, b: CaptureMark): boolean {
  if (a.kind !== b.kind || a.redirectTo !== b.redirectTo) return false;
  if (a.kind !== 'content') return true;
  const subjects = [a.subject ?? null, b.subject ?? null];
  const isKnown = subjects[0] !== null && subjects[1] !== null;
  if (isKnown && subjects[0] === subjects[1]) return true;
  const titles = sharedTitle(a.title ?? '', b.title ?? '');
  if (a.language !== null && b.language !== null && a.language !== b.language) return !isKnown && titles === 1;
  // a site that keeps its title has moved on to something else; not so where it sells what abused names are used for
  if (titles === 1 && !subjects.some((subject) => subject !== null && RISKY_SUBJECTS.test(subject))) return true;
  const isFar = isKnown && areaOf(subjects[0]) !== areaOf(subjects[1]);
  if (!isFar && titles > 0.5) return true;
  return alike(a, b) >= (isFar ? FAR_TEXT : SAME_TEXT);
}

/** Share of the words of the shorter title that are in the other; titles that any site has say nothing. */
export function sharedTitle(a: string, b: string): number {
  const [one, other] = [titleWords(a), titleWords(b)];
  const least = Math.min(one.size, other.size);
  if (least === 0) return 0;
  let shared = 0;
  for (const word of one) if (other.has(word)) shared++;
  return shared / least;
}

const ANY_TITLE = new Set(
  'home homepage welcome index untitled document page start startseite accueil inicio willkommen bienvenue the and und der die das les los del shop blog'.split(
    ' ',
  ),
);
const titleWords = (title: string) =>
  new Set((title.toLowerCase().match(/[\p{L}\p{N}]{3,}/gu) ?? []).filter((word) => !ANY_TITLE.has(word)));

/**
 * Chooses which captures to read: the first, the last, then again and again the middle of the stretch that tells most, which is one whose
 * ends differ. So a site that never changed costs a handful of captures, and each change is found to within two months.
 */
export class CaptureSampler {
  private readonly read = new Map<number, CaptureMark>();
  private readonly failed = new Set<number>();
  private readonly options: SampleOptions;

  /** @param times of all captures, ms since 1970, in order. */
  constructor(
    private readonly times: readonly number[],
    options: Partial<SampleOptions> = {},
  ) {
    this.options = { ...SAMPLE_DEFAULTS, ...options };
  }

  /** Place in `times` of the capture to read next; null: enough is known. */
  next(): number | null {
    const { times, read, failed } = this;
    if (read.size + failed.size >= Math.min(times.length, this.options.most)) return null;
    if (read.size === 0) return this.nearest(0, 0, times.length - 1);
    const places = [...read.keys()].sort((a, b) => a - b);
    const first = this.nearest(0, 0, places[0] - 1);
    if (places[0] > 0 && first !== null && failed.size === 0) return first;
    const last = places[places.length - 1];
    const end = last < times.length - 1 ? this.nearest(times.length - 1, last + 1, times.length - 1) : null;
    if (end !== null && (read.size === 1 || times[times.length - 1] - times[last] > this.options.finestMs)) return end;
    return this.middleOfMostTelling(places);
  }

  put(place: number, mark: CaptureMark): void {
    this.read.set(place, mark);
  }

  /** The archive did not hand this one out. */
  fail(place: number): void {
    this.failed.add(place);
  }

  private middleOfMostTelling(places: number[]): number | null {
    const { times, read } = this;
    const { finestMs, widestMs } = this.options;
    let best: number | null = null;
    let most = 0;
    for (let i = 1; i < places.length; i++) {
      const [from, to] = [places[i - 1], places[i]];
      const width = times[to] - times[from];
      const isSame = isSameEra(read.get(from) as CaptureMark, read.get(to) as CaptureMark);
      if (to - from < 2 || width <= (isSame ? widestMs : finestMs)) continue;
      const worth = width * (isSame ? 1 : CHANGED_FIRST);
      if (worth <= most) continue;
      const middle = this.nearestTo((times[from] + times[to]) / 2, from + 1, to - 1);
      if (middle !== null) [best, most] = [middle, worth];
    }
    return best;
  }

  private nearest(place: number, low: number, high: number): number | null {
    return low > high ? null : this.nearestTo(this.times[place], low, high);
  }

  /** The capture nearest to a moment that was neither read nor refused. */
  private nearestTo(at: number, low: number, high: number): number | null {
    let best: number | null = null;
    for (let place = low; place <= high; place++) {
      if (this.failed.has(place) || this.read.has(place)) continue;
      if (best === null || Math.abs(this.times[place] - at) < Math.abs(this.times[best] - at)) best = place;
    }
    return best;
  }
}
