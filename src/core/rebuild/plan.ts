import { type OldAddress, proposeRedirects } from '../redirects/match';
import type { PhraseWorth } from '../worth/rebuild';

/** An old page with what it would be brought back for. */
export interface OldPage extends OldAddress {
  /** Readers of the pages that link to it, as those pages claim; an estimate of others. */
  readers: number;
}

export interface PlannedPage extends OldPage {
  /** Phrases that are likely to have led to it, and the visits a month that they would bring. */
  phrases: PhraseWorth[];
  visits: number;
  /** Its part of what the whole site has, 0 to 1: the mean of its parts of referrers' weight, visits and readers, of those that are known. */
  share: number;
  /** All pages up to here together, the best first. */
  upTo: number;
  /** Whether it is among those that carry most of the site. */
  isSuggested: boolean;
}

export interface PagePlan {
  pages: PlannedPage[];
  /** Phrases that no old page is like: they are shown, and belong to nothing. */
  unplaced: PhraseWorth[];
  /** What the shares are made of. */
  measures: ('links' | 'visits' | 'readers')[];
}

/** Pages that carry so much together are worth having again; beyond that each adds little. */
const CARRIES_MOST = 0.8;
/** A page with less is not worth a page of text, whatever the others have. */
const LEAST_SHARE = 0.01;

/**
 * Ranks old pages by what they would bring back: the weight of their referrers, the visits of the phrases that are most like them (as
 * redirects are matched), and the readers of the pages that link to them.
 */
export function planPages(old: readonly OldPage[], phrases: readonly PhraseWorth[]): PagePlan {
  const { byPath, unplaced } = placePhrases(old, phrases);
  const visitsOf = (list: readonly PhraseWorth[]) => list.reduce((sum, { keptVisits }) => sum + keptVisits, 0);
  const rows = old.map((page) => ({ page, phrases: byPath.get(page.path) ?? [] }));
  const sums = {
    links: old.reduce((sum, { weight }) => sum + weight, 0),
    visits: rows.reduce((sum, row) => sum + visitsOf(row.phrases), 0),
    readers: old.reduce((sum, { readers }) => sum + readers, 0),
  };
  const measures = (['links', 'visits', 'readers'] as const).filter((measure) => sums[measure] > 0);
  const pages = rows
    .map(({ page, phrases: own }) => {
      const visits = visitsOf(own);
      const has = { links: page.weight, visits, readers: page.readers };
      const share = measures.reduce((sum, measure) => sum + has[measure] / sums[measure], 0) / (measures.length || 1);
      return { ...page, phrases: own, visits, share };
    })
    .sort((a, b) => b.share - a.share || a.path.localeCompare(b.path));
  let before = 0;
  return {
    pages: pages.map((page) => {
      const isSuggested = before < CARRIES_MOST && page.share >= LEAST_SHARE;
      before += page.share;
      return { ...page, upTo: before, isSuggested };
    }),
    unplaced,
    measures,
  };
}

/** Gives each phrase to the old page that is most like it. */
function placePhrases(old: readonly OldPage[], phrases: readonly PhraseWorth[]) {
  const byPath = new Map<string, PhraseWorth[]>();
  const unplaced: PhraseWorth[] = [];
  const asPages = old.map(({ path, title, anchors }) => ({
    url: `http://old.invalid${path}`,
    title: title ?? '',
    text: anchors.join(' '),
  }));
  const asked = phrases.map(({ phrase }) => ({ path: '/', anchors: [phrase], title: null, weight: 0, domains: 0 }));
  const paths = new Map(asPages.map(({ url }, n) => [url, old[n].path]));
  for (const [n, { candidates }] of proposeRedirects(asked, asPages).entries()) {
    // the same path says nothing here: a phrase has none
    const best = candidates.find(({ reasons }) => reasons.length > 0);
    const path = best && paths.get(best.url);
    if (path === undefined) unplaced.push(phrases[n]);
    else byPath.set(path, [...(byPath.get(path) ?? []), phrases[n]]);
  }
  return { byPath, unplaced };
}

/** A subject that the links were given for. */
export interface CarryingSubject {
  /** `area.subject`; null: neither the words of the page nor those of its links tell one. */
  subject: string | null;
  /** Part of the referrers' weight, 0 to 1. */
  share: number;
  paths: string[];
}

/**
 * Which subjects carried the site: each old page's weight goes to the subject that its title and the words of its links tell.
 *
 * @param tell subject of some words; null: none that shows.
 */
export function carryingSubjects(old: readonly OldAddress[], tell: (text: string) => string | null): CarryingSubject[] {
  const all = old.reduce((sum, { weight }) => sum + weight, 0);
  const subjects = new Map<string | null, CarryingSubject>();
  for (const { path, title, anchors, weight } of old) {
    if (weight === 0) continue;
    const subject = tell(`${title ?? ''} ${anchors.join(' ')} ${path.replace(/[^\p{L}\p{N}]+/gu, ' ')}`);
    const known = subjects.get(subject) ?? { subject, share: 0, paths: [] };
    known.share += weight / all;
    known.paths.push(path);
    subjects.set(subject, known);
  }
  return [...subjects.values()].sort(
    (a, b) => Number(a.subject === null) - Number(b.subject === null) || b.share - a.share,
  );
}
