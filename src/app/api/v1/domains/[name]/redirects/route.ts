import { domainRow } from '../../../../../../app/api/domain-row';
import { problemsOf } from '../../../../../../core/redirects/rules';
import { redirectPlan } from '../../../../../../services/redirects/redirects';
import { decideRules, readRules } from '../../../../../../store/portfolio/redirects';
import { route } from '../../../../respond';

/** Where a domain's old addresses could move, and what is decided. */
export const GET = route('GET /domains/{name}/redirects', async ({ params: { name } }) => {
  const { store, row } = await domainRow(name);
  return await redirectPlan(store, row);
});

/** Decides where old addresses move: to an address, gone (null), or undecided again (left out). */
export const PATCH = route('PATCH /domains/{name}/redirects', async ({ params: { name }, body }) => {
  const { rules } = body;
  const { store, row } = await domainRow(name);
  const before = decideRules(store, row.id, rules);
  return { before, problems: problemsOf(readRules(store, row.id), row.name) };
});
