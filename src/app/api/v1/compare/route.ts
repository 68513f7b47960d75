import { compareDomains } from '../../../../services/comparison/comparison';
import { comparedNames } from '../../../compare/names';
import { currentBrief } from '../../../server';
import { Problem, route } from '../../respond';

/** Up to four domains side by side, fact by fact, with what differs. */
export const GET = route('GET /compare', async ({ query }) => {
  const { store, brief } = await currentBrief();
  const { names, problems } = comparedNames(query.name);
  if (names.length === 0 || problems.length > 0)
    throw new Problem(400, 'The request makes no sense', problems.join(' ') || 'Say two to four names, each as name=…');
  const { domains, ...comparison } = await compareDomains(store, names, brief.id);
  return { names: domains.map(({ name }) => name), ...comparison };
});
