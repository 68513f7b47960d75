import { listTokens, makeToken } from '../../../../store/base/tokens';
import { getStore } from '../../../server';
import { Problem, route } from '../../respond';

export const GET = route('GET /tokens', async () => ({ tokens: listTokens(await getStore()) }));

export const POST = route('POST /tokens', async ({ body: { name, scope } }) => {
  const made = makeToken(await getStore(), name, scope);
  if (!made) throw new Problem(409, 'It was not done', 'There are 100 tokens already.', 'Take one back first.');
  return made;
});
