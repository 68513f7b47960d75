import { forgetBudget } from '../../../../../store/budgets';
import { write } from '../../../../../store/database';
import { getStore } from '../../../../server';
import { handle } from '../../../respond';

/** Forgets what a server taught; it is asked as declared again. */
export const DELETE = handle(async (_request, { server }) => {
  const store = await getStore();
  write(store, () => forgetBudget(store, decodeURIComponent(server)));
  return new Response(null, { status: 204 });
});
