import { tenths } from '../core/formats/figures';
import type { DomainView } from '../core/pool/domain-view';
import { offerTitle, phaseWords, plural, score, yearOf } from '../core/wording/format';

/** The state of things in a sentence, from figures that stand below it. */
export function verdictLine(row: DomainView, now: number): string {
  const parts = [phaseWords(row, now)];
  if (row.firstSeenAt !== null) parts.push(`first seen ${yearOf(row.firstSeenAt)}`);
  if (row.subject !== null) parts.push(`about ${row.subject.toLowerCase()}`);
  if (row.referringDomains !== null)
    parts.push(
      `${plural(row.referringDomains, 'referring domain')}${row.effective === null ? '' : ` (${tenths(row.effective)} effective)`}`,
    );
  if (row.strength !== null) parts.push(`strength ${score(row.strength)}, trust ${score(row.trust) || 'unknown'}`);
  if (row.judged === 'spam' || row.judged === 'clean')
    parts.push(`${row.judged} by your mark (computed risk ${row.spamRisk ?? 'none'})`);
  else if (row.spamRisk !== null) parts.push(`spam risk ${row.spamRisk} of 100`);
  if (row.listing !== null) parts.push(offerTitle(row));
  const text = parts.join('; ');
  return `${text[0].toUpperCase()}${text.slice(1)}.`;
}
