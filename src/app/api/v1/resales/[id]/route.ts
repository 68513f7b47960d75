import { saleView } from '../../../../../services/selling/selling';
import { readResale } from '../../../../../store/portfolio/resales';
import { getEngine } from '../../../../server';
import { handle, Problem } from '../../../respond';
import { resaleOf } from '../sale-of';

/** A sale with who asked, what to answer, and what was done. */
export const GET = handle(async (_, { id }) => {
  const { store, sale } = await resaleOf(id);
  return Response.json({ sale: saleView(store, sale) });
});

/** Asks the venue at once how it stands. */
export const POST = handle(async (_, { id }) => {
  const { store, sale } = await resaleOf(id);
  const after = await getEngine().resaleLook(sale.id);
  return Response.json({ sale: saleView(store, after ?? sale) });
});

/** Takes it off sale. */
export const DELETE = handle(async (_, { id }) => {
  const { store, sale } = await resaleOf(id);
  const refusal = await getEngine().resaleWithdraw(sale.id);
  if (refusal !== null) throw new Problem(409, 'It was not taken back', refusal);
  return Response.json({ sale: saleView(store, readResale(store, sale.id) ?? sale) });
});
