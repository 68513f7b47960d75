import { brokenLimits, type HouseLimits } from '../../../../../core/fit/house-limits';
import { SPAM_FROM } from '../../../../../core/spam/threshold';
import type { DomainRow } from '../../../../../store/domains';
import { readShortlist } from '../../../../../store/shortlist';
import { suggestionFor } from '../../../../plan';
import { currentBrief, getEngine } from '../../../../server';
import { domainRow } from '../../../domain-row';
import { handle, readId } from '../../../respond';

/** What should be known before money moves. */
function warningsOf(row: DomainRow, limits: HouseLimits): string[] {
  const warnings = brokenLimits(limits, {
    strength: row.strength,
    trust: row.trust,
    referring: row.referring_domains,
    spamRisk: row.judged === 'clean' ? 0 : row.spam_risk,
    letters: row.length,
    hyphens: row.hyphens,
    digits: row.digits,
  });
  if (row.judged === 'spam' || row.judged === 'pass') warnings.push(`you marked it ${row.judged}`);
  if (row.judged !== 'clean' && row.spam_risk !== null && row.spam_risk >= SPAM_FROM)
    warnings.push(`its spam risk is ${row.spam_risk} of 100`);
  const marks = row.marks_found ?? 0;
  if (marks > 0) warnings.push(marks === 1 ? 'a word mark is like it' : `${marks} word marks are like it`);
  if (row.forward_to) warnings.push(`it forwarded to ${row.forward_to}`);
  return warnings;
}

/** All ways to have a domain, on the terms of this moment, with what limits allow and what a bid should be at most. */
export const GET = handle(async (request) => {
  const asked = request.nextUrl.searchParams;
  const { briefs, brief: current } = await currentBrief();
  const { store, row } = await domainRow(asked.get('name') ?? '');
  const id = asked.get('brief');
  const brief = briefs.find((one) => one.id === (id === null ? current.id : readId(id))) ?? current;
  const terms = await getEngine().orderTerms(brief.id, row.id);
  const entry = readShortlist(store, brief.id).find(({ domainId }) => domainId === row.id);
  return Response.json({
    ...terms,
    warnings: warningsOf(row, brief.limits),
    maximumBidMinor: entry?.maximumBidMinor ?? null,
    suggested: entry ? suggestionFor(brief, entry) : null,
  });
});
