import { domainRow } from '../../../../../../app/api/domain-row';
import { RuleChangesSchema } from '../../../../../../contracts/redirects';
import { problemsOf } from '../../../../../../core/redirects/rules';
import { redirectPlan } from '../../../../../../services/redirects/redirects';
import { decideRules, readRules } from '../../../../../../store/portfolio/redirects';
import { handle, readJson } from '../../../../respond';

/** Where a domain's old addresses could move, and what is decided. */
export const GET = handle(async (_, { name }) => {
  const { store, row } = await domainRow(name);
  return Response.json(await redirectPlan(store, row));
});

/** Decides where old addresses move: to an address, gone (null), or undecided again (left out). */
export const PATCH = handle(async (request, { name }) => {
  const { rules } = await readJson(request, RuleChangesSchema);
  const { store, row } = await domainRow(name);
  const before = decideRules(store, row.id, rules);
  return Response.json({ before, problems: problemsOf(readRules(store, row.id), row.name) });
});
