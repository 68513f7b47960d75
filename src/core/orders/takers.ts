import type { Connection } from '../connections/connection';
import type { Settings, VenueAccount } from '../settings/settings';
import type { OrderKind } from './order';

/** Who takes an order at a venue: an account there, or services that a person described, one that is sent to and one that is asked after it. */
export type OrderTaker =
  | { by: 'account'; currency: string; account: VenueAccount }
  | {
      by: 'service';
      currency: string;
      service: Connection;
      /** null: nobody can be asked how an order stands; it is followed by hand. */
      state: Connection | null;
    };

type OfOrders = Pick<Settings, 'accounts' | 'connections'>;

/** Who takes an order of a kind at a venue; null: it is done by hand. An account goes before what is described. */
export function takerOf({ accounts, connections }: OfOrders, venue: string, kind: OrderKind): OrderTaker | null {
  const account = accounts.find((one) => one.venue === venue);
  if (account) return { by: 'account', currency: account.currency, account };
  const isOfVenue = (one: Connection) => one.isOn && one.venue === venue;
  const service = connections.find((one) => one.use === 'orders' && isOfVenue(one) && one.kinds.includes(kind));
  if (!service) return null;
  const state = connections.find((one) => one.use === 'order-state' && isOfVenue(one)) ?? null;
  return { by: 'service', currency: service.currency, service, state };
}

/** The venues that orders can be sent to, in the order of the settings. */
export function venuesTaking({ accounts, connections }: OfOrders): string[] {
  const described = connections.filter(({ use, isOn }) => use === 'orders' && isOn).map(({ venue }) => venue);
  return [...new Set([...accounts.map(({ venue }) => venue), ...described])];
}

/** A service that a person described sends nothing until they say so, whatever else is sent. */
export const isDryAt = (taker: OrderTaker | null): boolean => taker?.by === 'service' && taker.service.isDry;
