import { write } from '../../../../../store/base/database';
import { forgetBudget } from '../../../../../store/lifecycle/budgets';
import { getStore } from '../../../../server';
import { handle } from '../../../respond';

/** Forgets what a server taught; it is asked as declared again. */
export const DELETE = handle(async (_request, { server }) => {
  const store = await getStore();
  write(store, () => forgetBudget(store, decodeURIComponent(server)));
  return new Response(null, { status: 204 });
});
