import { fixed, tenths } from '../formats/figures';
import type { ListFigure } from '../formats/list-figures';
import type { DomainView } from '../pool/domain-view';
import { type FactName, factSpec } from '../pool/facts';
import { ago, count, linksOrigin, offerTitle, pastOrigin, score } from './format';

/** A figure of the table of facts as it is shown; empty: not known. */
export function figure(fact: FactName, value: number | null): string {
  if (value === null) return '';
  switch (factSpec(fact).written) {
    case 'tenths':
      return tenths(value);
    case 'hundredths':
      return fixed(value, 2);
    case 'factor':
      return `${value}x`;
    case 'score':
      return score(value);
    default:
      return count(value);
  }
}

/** What a figure says, where it comes from, and how old that is. */
export function figureOrigin(fact: FactName, row: DomainView, now: number): string {
  const { about, told } = factSpec(fact);
  const source = told === undefined ? '' : ORIGINS[told](row, now, fact);
  return [about, source].filter(Boolean).join('; ');
}

const ORIGINS = {
  links: linksOrigin,
  past: pastOrigin,
  captures: (row: DomainView, now: number) =>
    row.capturesAt === null
      ? 'captures were not read'
      : `${row.capturesRead ?? 0} captures read ${ago(row.capturesAt, now)}`,
  offer: (row: DomainView) => offerTitle(row),
  rankings: () => 'by imported lists of keywords',
  lists: (row: DomainView, now: number, fact: FactName) => {
    const stated = row.stated?.[fact as ListFigure];
    return stated ? `${stated.name ? `${stated.name}, ` : ''}${stated.source}, read ${ago(stated.at, now)}` : '';
  },
};
