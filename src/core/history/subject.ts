import { type SubjectVerdict, subjectClassifier } from '../topics/classifier';
import { type Terms, termsOf } from '../topics/terms';
import type { Era, ReadCapture } from './past';

/** Words of anchors count so many times: they are few, and written about the site. */
const ANCHOR_WEIGHT = 2;

/**
 * The subject of a domain by what was there and what others call it: words of the captures of its main era of content, and of the anchors
 * that lead to it. The name's own words are another signal, and kept apart.
 *
 * @param anchors texts with how many domains use each.
 */
export function subjectOfSite(
  captures: readonly ReadCapture[],
  eras: readonly Era[],
  anchors: readonly { anchor: string; domains: number }[],
): SubjectVerdict & { from: string } {
  const content = eras.filter(({ kind }) => kind === 'content');
  const main = content.reduce<Era | null>(
    (best, era) => (!best || era.to - era.from > best.to - best.from ? era : best),
    null,
  );
  const read = captures.filter(
    ({ at, kind }) => main !== null && kind === 'content' && at >= main.from && at <= main.to,
  );
  const byLanguage = new Map<string | null, Terms>();
  const add = (language: string | null, word: string, count: number) => {
    const terms = byLanguage.get(language) ?? new Map<string, number>();
    terms.set(word, (terms.get(word) ?? 0) + count);
    byLanguage.set(language, terms);
  };
  for (const { terms, language } of read) for (const [word, count] of terms) add(language, word, count);
  // anchors are too short to tell their language by: they are read in that of the site
  const language = main?.language ?? null;
  for (const { anchor, domains } of anchors)
    for (const word of termsOf(anchor).keys()) add(language, word, ANCHOR_WEIGHT * Math.min(domains, 20));
  const texts = [...byLanguage].map(([language, terms]) => ({ language, terms }));
  const from = [
    read.length > 0 ? `${read.length} ${read.length === 1 ? 'capture' : 'captures'}` : null,
    anchors.length > 0 ? `${anchors.length} ${anchors.length === 1 ? 'anchor text' : 'anchor texts'}` : null,
  ].filter((part) => part !== null);
  return { ...subjectClassifier().classifyAll(texts), from: from.join(' and ') || 'nothing' };
}
