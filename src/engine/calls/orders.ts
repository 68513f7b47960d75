import { actor } from '../../core/work/actor';
import { happen } from '../../store/orders/orders';
import { readResale } from '../../store/portfolio/resale-rows';
import { confirm } from '../lookups/confirm';
import { OrderRefused, place, termsOf } from '../orders/place';
import { type EngineParts, type Handlers, soon, taken } from './parts';

type OrderPath =
  | '/domains/confirm'
  | '/orders/terms'
  | '/orders/place'
  | '/orders/withdraw'
  | '/orders/look'
  | '/orders/outcome'
  | '/resales/look'
  | '/resales/withdraw';

/** Orders and sales: given, asked after, taken back. */
export const orderCalls = (parts: EngineParts): Handlers<OrderPath> => {
  const { store, pool, venues } = parts;
  const announceOrders = () => parts.announce('orders', { type: 'orders', at: store.now() });
  return {
    '/domains/confirm': ({ id }) => confirm(store, id),
    '/orders/terms': ({ briefId, domainId }) => termsOf(store, briefId, domainId),
    '/orders/place': async (wish) => {
      const order = place(store, wish);
      taken(parts, [order.domainId], null);
      pool.setMembers('shortlist', order.briefId, [order.domainId], true);
      const isDue = order.state === 'queued' && (order.sendAt ?? 0) <= store.now();
      const after = isDue ? await soon(venues.outbox.attend(order.id), order) : order;
      return { order: after ?? order };
    },
    '/orders/withdraw': async ({ id }) => ({ refusal: await venues.outbox.withdraw(id) }),
    '/orders/look': async ({ id }) => ({ order: await venues.outbox.attend(id) }),
    '/orders/outcome': ({ id, outcome, priceMinor }) => {
      const order = happen(store, id, { kind: 'hand', outcome }, actor(), null, { finalMinor: priceMinor });
      if (!order) throw new OrderRefused('it is not an order that is done by hand, or it has ended');
      taken(parts, [order.domainId], null);
      announceOrders();
      return { order };
    },
    '/resales/look': async ({ id }) => {
      const sale = await soon(venues.resales.attend(id), null);
      announceOrders();
      return { sale: sale ?? readResale(store, id) };
    },
    '/resales/withdraw': async ({ id }) => ({ refusal: await venues.resales.withdraw(id) }),
  };
};
