import { brokenLimits, type HouseLimits } from '../../core/fit/house-limits';
import { SPAM_FROM } from '../../core/spam/threshold';
import type { Store } from '../../store/base/database';
import type { DomainRow } from '../../store/domains/domains';
import { doubtOf } from '../../store/offers/ways';

/** What should be known of a name before money moves, in words. */
export function concernsOf(store: Store, row: DomainRow, limits: HouseLimits): string[] {
  const concerns = brokenLimits(limits, {
    strength: row.strength,
    trust: row.trust,
    referring: row.referring_domains,
    spamRisk: row.judged === 'clean' ? 0 : row.spam_risk,
    letters: row.length,
    hyphens: row.hyphens,
    digits: row.digits,
  });
  const doubt = row.phase === 'free' && row.phase_at !== null ? doubtOf(store, row) : null;
  if (doubt !== null) concerns.push(doubt);
  if (row.phase === 'not-registrable')
    concerns.push(`it cannot be registered: ${row.phase_reason ?? 'it is reserved'}`);
  if (row.judged === 'spam' || row.judged === 'pass') concerns.push(`you marked it ${row.judged}`);
  if (row.judged !== 'clean' && row.spam_risk !== null && row.spam_risk >= SPAM_FROM)
    concerns.push(`its spam risk is ${row.spam_risk} of 100`);
  const marks = row.marks_found ?? 0;
  if (marks > 0) concerns.push(marks === 1 ? 'a trademark is like it' : `${marks} trademarks are like it`);
  if (row.forward_to) concerns.push(`it forwarded to ${row.forward_to}`);
  return concerns;
}
