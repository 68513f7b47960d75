import { saleView } from '../../../../../services/selling/selling';
import { readResale } from '../../../../../store/portfolio/resale-rows';
import { getEngine } from '../../../../server';
import { Problem, route } from '../../../respond';
import { resaleOf } from '../sale-of';

/** A sale with who asked, what to answer, and what was done. */
export const GET = route('GET /resales/{id}', async ({ params: { id } }) => {
  const { store, sale } = await resaleOf(id);
  return { sale: saleView(store, sale) };
});

/** Asks the venue at once how it stands. */
export const POST = route('POST /resales/{id}', async ({ params: { id } }) => {
  const { store, sale } = await resaleOf(id);
  const after = await getEngine().resaleLook(sale.id);
  return { sale: saleView(store, after ?? sale) };
});

/** Takes it off sale. */
export const DELETE = route('DELETE /resales/{id}', async ({ params: { id } }) => {
  const { store, sale } = await resaleOf(id);
  const refusal = await getEngine().resaleWithdraw(sale.id);
  if (refusal !== null) throw new Problem(409, 'It was not taken back', refusal);
  return { sale: saleView(store, readResale(store, sale.id) ?? sale) };
});
