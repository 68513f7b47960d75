import { keepTried } from '../../../../../store/base/tries';
import { getEngine, getStore } from '../../../../server';
import { route } from '../../../respond';

/** Asks an outside service one real question; the last answer of each is kept. */
export const POST = route('POST /setup/try', async ({ body: { ability, settings, question } }) => {
  const tried = await getEngine().tryAbility(ability, settings, question);
  keepTried(await getStore(), tried);
  return tried;
});
