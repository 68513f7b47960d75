import type { DomainView } from '../pool/domain-view';
import { count, linksOrigin } from './format';

/** A mark of the person overrules the risk that was computed. */
export const isOverruled = ({ judged }: Pick<DomainView, 'judged'>): boolean => judged === 'spam' || judged === 'clean';

/** The spam risk that counts, 0 to 100; empty: not known. */
export const spamText = (row: Pick<DomainView, 'judged' | 'spamRisk'>): string =>
  isOverruled(row) ? (row.judged === 'spam' ? '100' : '0') : count(row.spamRisk);

/** Where the risk comes from; under a mark also what was computed. */
export const spamOrigin = (row: DomainView, now: number): string =>
  isOverruled(row)
    ? `you marked it ${row.judged}; ${row.spamRisk ?? 'nothing'} was computed, ${linksOrigin(row, now)}`
    : linksOrigin(row, now);
