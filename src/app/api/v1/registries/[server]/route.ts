import { write } from '../../../../../store/base/database';
import { forgetBudget } from '../../../../../store/lifecycle/budgets';
import { getStore } from '../../../../server';
import { route } from '../../../respond';

/** Forgets what a server taught; it is asked as declared again. */
export const DELETE = route('DELETE /registries/{server}', async ({ params: { server } }) => {
  const store = await getStore();
  write(store, () => forgetBudget(store, decodeURIComponent(server)));
  return new Response(null, { status: 204 });
});
