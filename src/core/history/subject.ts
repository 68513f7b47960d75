import { type SubjectVerdict, subjectClassifier } from '../topics/classifier';
import { type Terms, termsOf } from '../topics/terms';
import type { Era, ReadCapture } from './past';

/** A verdict of less confidence is no subject. */
export const LEAST_CONFIDENCE = 0.5;

/** The subject of one text; null below the least confidence. */
export function clearSubject(verdict: SubjectVerdict): string | null {
  return verdict.confidence >= LEAST_CONFIDENCE ? verdict.subject : null;
}

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
  const terms: Terms = new Map();
  const add = (word: string, count: number) => terms.set(word, (terms.get(word) ?? 0) + count);
  for (const capture of read) for (const [word, count] of capture.terms) add(word, count);
  for (const { anchor, domains } of anchors)
    for (const word of termsOf(anchor).keys()) add(word, ANCHOR_WEIGHT * Math.min(domains, 20));
  const from = [
    read.length > 0 ? `${read.length} ${read.length === 1 ? 'capture' : 'captures'}` : null,
    anchors.length > 0 ? `${anchors.length} ${anchors.length === 1 ? 'anchor text' : 'anchor texts'}` : null,
  ].filter((part) => part !== null);
  return { ...subjectClassifier().classify(terms), from: from.join(' and ') || 'nothing' };
}
