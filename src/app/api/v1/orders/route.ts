import { orderLog } from '../../../../store/orders';
import { ordersToShow, orderViews } from '../../../orders';
import { getEngine, getStore } from '../../../server';
import { estimatesFor } from '../../../ways';
import { domainRow } from '../../domain-row';
import { handle, readId, readJson } from '../../respond';
import { OrderSchema } from '../../schemas';

/** Orders that are open, those that ended last, and the log of every act. */
export const GET = handle(async (request) => {
  const store = await getStore();
  const asked = request.nextUrl.searchParams.get('brief');
  const briefId = asked === null ? null : readId(asked);
  return Response.json({ ...ordersToShow(store, briefId), log: orderLog(store, { briefId }) });
});

/** Gives an order. It is on disk before anything is sent, and is sent once. */
export const POST = handle(async (request) => {
  const { name, ...wish } = await readJson(request, OrderSchema);
  const { store, row } = await domainRow(name);
  const estimates = estimatesFor(store, wish.briefId, row.id, wish);
  const order = await getEngine().placeOrder({ ...wish, domainId: row.id, estimates });
  return Response.json({ order: orderViews(store, [order])[0] }, { status: 201 });
});
