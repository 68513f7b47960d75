'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { FormProvider, useForm } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import { readAmount, typedAmount } from '../../core/money/typed-amount';
import { stepUp } from '../../core/orders/amounts';
import { type OrderShown, standing } from '../../core/wording/orders';
import { call } from '../api';
import { BareField } from '../forms/field';
import { someAmount } from '../forms/typed';
import { useRedraw } from '../server-state';

const TypedAmount = z.object({ amountMinor: someAmount('the amount') });
/** Figures stand at the right; what is wrong with them, below and over what follows. */
const SUM =
  'relative [&>input]:text-right [&>[role=alert]]:absolute [&>[role=alert]]:right-0 [&>[role=alert]]:z-10 [&>[role=alert]]:whitespace-nowrap';
type Typed = z.input<typeof TypedAmount>;

/** An amount of an order in a line, followed by what can be done with it; it follows the order while nobody has typed. */
function useAmount(minor: number) {
  const redraw = useRedraw();
  const form = useForm<Typed, unknown, z.output<typeof TypedAmount>>({
    resolver: zodResolver(TypedAmount),
    values: { amountMinor: typedAmount(minor) },
    resetOptions: { keepDirtyValues: true },
  });
  /** Does something, and says what went wrong; what was typed is there again then. */
  const doing = async (act: () => Promise<unknown>) => {
    try {
      await act();
      form.reset({ amountMinor: typedAmount(minor) }, { keepDirtyValues: false });
      redraw();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  return { form, doing };
}

/** A higher maximum, by a step or as it is typed. */
export function Raise({ order }: { order: OrderShown }) {
  // whole units: nobody bids cents for the sake of it
  const over = Math.ceil(Math.max(order.leastMinor ?? 0, stepUp(order.amountMinor, 1) ?? 0) / 100) * 100;
  const { form, doing } = useAmount(over);
  const { name, briefId, venue, worthHighMinor: high } = order;
  const minor = readAmount(form.watch('amountMinor'));
  const raise = form.handleSubmit(({ amountMinor }) =>
    doing(async () => {
      const { order: raised } = await call('POST /orders', {
        body: { name, briefId, venue, amountMinor, kind: 'bid' },
      });
      toast(`${name}: ${standing(raised)}`);
    }),
  );
  return (
    <FormProvider {...form}>
      <form
        noValidate
        className="flex flex-wrap items-center justify-end gap-2"
        onSubmit={(event) => void raise(event)}
      >
        <BareField
          name="amountMinor"
          className={`w-24 ${SUM}`}
          inputMode="decimal"
          aria-label={`New maximum for ${name}`}
        />
        <span>{order.currency}</span>
        <button type="submit" className={order.state === 'outbid' ? 'press' : 'quiet'}>
          {order.state === 'outbid' ? 'Bid again' : 'Raise'}
        </button>
        {high !== null && minor && minor > high && (
          <span className="small w-full text-right">above what it is worth</span>
        )}
      </form>
    </FormProvider>
  );
}

/** What came of an order that the person carried out. */
export function ByHand({ order }: { order: OrderShown }) {
  const { form, doing } = useAmount(order.amountMinor);
  const tell = (outcome: 'won' | 'lost' | 'withdrawn', priceMinor: number | null) =>
    doing(() => call('POST /orders/{id}/outcome', { params: { id: order.id }, body: { outcome, priceMinor } }));
  return (
    <FormProvider {...form}>
      <form
        noValidate
        className="flex items-center gap-2"
        onSubmit={(event) => {
          const by = (event.nativeEvent as SubmitEvent).submitter as HTMLButtonElement | null;
          void form.handleSubmit(({ amountMinor }) => tell(by?.value === 'lost' ? 'lost' : 'won', amountMinor))(event);
        }}
      >
        {order.url && (
          <a className="set" href={order.url} target="_blank" rel="noreferrer">
            listing
          </a>
        )}
        <BareField
          name="amountMinor"
          className={`w-20 ${SUM}`}
          inputMode="decimal"
          aria-label={`Price that ${order.name} went for`}
        />
        <button type="submit" className="quiet" value="won">
          Won
        </button>
        <button type="submit" className="quiet" value="lost">
          Lost
        </button>
        <button type="button" className="quiet" onClick={() => void tell('withdrawn', null)}>
          Left it
        </button>
      </form>
    </FormProvider>
  );
}
