'use client';

import { ORDER_KINDS, type OrderKind } from '../../core/orders/order';
import { Complaint, LineField, TickField } from '../forms/field';

const KIND_WORDS: Record<OrderKind, string> = {
  bid: 'bids',
  buy: 'purchases',
  offer: 'offers',
  backorder: 'backorders',
  register: 'registrations',
};

/** Whom orders go to, which, and whether they go out. */
export function OfOrders({ use, venues }: { use: 'orders' | 'order-state'; venues: readonly string[] }) {
  return (
    <>
      <div className="flex flex-wrap gap-4">
        <LineField
          name="venue"
          label="Venue or registrar"
          hint="as its listings name it"
          list="venues"
          className="w-64 max-w-full"
        />
        <datalist id="venues">
          {venues.map((venue) => (
            <option key={venue} value={venue} />
          ))}
        </datalist>
        {use === 'orders' && (
          <LineField name="currency" label="Currency" hint="that amounts are in" maxLength={3} className="w-20" />
        )}
      </div>
      {use === 'orders' && (
        <>
          <fieldset>
            <legend className="font-semibold">What is ordered this way</legend>
            <div className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
              {ORDER_KINDS.map((kind) => (
                <TickField key={kind} name={`kinds.${kind}`}>
                  {KIND_WORDS[kind]}
                </TickField>
              ))}
            </div>
            <Complaint name="kinds" />
          </fieldset>
          <TickField name="isDry" hint="an order shows what it would send, and nothing goes out">
            dry run: orders are only written down
          </TickField>
        </>
      )}
    </>
  );
}
