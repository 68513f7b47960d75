'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { FormProvider, useForm } from 'react-hook-form';
import { toast } from 'sonner';
import { z } from 'zod';
import { InquirySchema } from '../../contracts/selling';
import { typedAmount } from '../../core/money/typed-amount';
import { ago, closing, moment, money, plural } from '../../core/wording/format';
import { call } from '../api';
import { AmountLine, BareField, LineField } from '../forms/field';
import { Form } from '../forms/form';
import { amount, sentBy, someAmount } from '../forms/typed';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';
import type { InquiryShown, SaleShown } from './types';

const TypedCounter = z.object({ amountMinor: someAmount('what you ask') });
const OPEN = new Set(['by hand', 'queued', 'sent', 'listed']);
const STANDS: Record<string, string> = {
  open: 'waits for you',
  countered: 'thinks about it',
  agreed: 'has it',
  declined: 'declined',
  gone: 'gone',
};

/** A sale: how it stands, who asked, what to answer, and all that was done. */
export function SaleView({ sale }: { sale: SaleShown }) {
  const redraw = useRedraw();
  const now = useNow();
  const isOpen = OPEN.has(sale.state);
  const params = { id: sale.id };
  const act = async (what: () => Promise<unknown>, words: string | null) => {
    try {
      await what();
      if (words) toast(words);
      redraw();
    } catch (error) {
      toast((error as Error).message);
      redraw();
    }
  };
  return (
    <section aria-labelledby={`sale-${sale.id}`} data-sale={sale.venue}>
      <div className="flex items-baseline gap-3">
        <h2 id={`sale-${sale.id}`}>{sale.venue}</h2>
        <span>
          {sale.state === 'sold' ? (
            <strong>sold for {money(sale.finalMinor, sale.currency)}</strong>
          ) : (
            <>
              {sale.state}, {money(sale.askMinor, sale.currency)} asked, not under{' '}
              {money(sale.floorMinor, sale.currency)}
            </>
          )}
          {sale.feesMinor !== null && sale.state === 'sold' && `, ${money(sale.feesMinor, sale.currency)} kept by it`}
        </span>
        {isOpen && (
          <span className="ml-auto flex gap-2 whitespace-nowrap">
            {sale.state !== 'by hand' && (
              <button
                type="button"
                className="quiet"
                onClick={() => void act(() => call('POST /resales/{id}', { params }), null)}
              >
                Ask now
              </button>
            )}
            <button
              type="button"
              className="quiet"
              onClick={() =>
                void act(() => call('DELETE /resales/{id}', { params }), `${sale.name} is off sale at ${sale.venue}`)
              }
            >
              Take it back
            </button>
          </span>
        )}
      </div>
      <p className="small">
        {sale.answeredAt === null
          ? `Offered ${ago(sale.createdAt, now)}; the venue has not said anything yet.`
          : `As the venue said ${ago(sale.answeredAt, now)}.`}{' '}
        {sale.reason}
      </p>
      {sale.inquiries.map((inquiry) => (
        <InquiryLine key={inquiry.inquiry} inquiry={inquiry} sale={sale} act={act} />
      ))}
      {isOpen && sale.inquiries.length === 0 && <p className="mt-1">Nobody has asked for it yet.</p>}
      {sale.state === 'by hand' && <ByHand sale={sale} />}
      <details className="mt-2">
        <summary className="small cursor-pointer">{plural(sale.log.length, 'line')} of what was done and heard</summary>
        <p className="small mt-1">The text: {sale.text}</p>
        <ol>
          {sale.log.map(({ at, who, words }) => (
            <li key={`${at} ${words}`} className="small border-t border-faint py-0.5">
              {moment(at, now)}, {who}: {words}
            </li>
          ))}
        </ol>
      </details>
    </section>
  );
}

function InquiryLine({
  inquiry,
  sale,
  act,
}: {
  inquiry: InquiryShown;
  sale: SaleShown;
  act(what: () => Promise<unknown>, words: string | null): Promise<void>;
}) {
  const now = useNow();
  const { advice, offerMinor } = inquiry;
  const form = useForm<z.input<typeof TypedCounter>, unknown, z.output<typeof TypedCounter>>({
    resolver: zodResolver(TypedCounter),
    values: { amountMinor: typedAmount(advice?.amountMinor || null) },
    // what is drawn anew beside it does not take what was typed
    resetOptions: { keepDirtyValues: true },
  });
  const answer = (what: 'accept' | 'counter' | 'decline', amountMinor: number | null = null) =>
    act(
      () =>
        call('POST /resales/{id}/answers', {
          params: { id: sale.id },
          body: { inquiry: inquiry.inquiry, act: what, amountMinor },
        }),
      `${inquiry.buyer} is answered`,
    );
  const isLow = offerMinor !== null && offerMinor < sale.floorMinor;
  return (
    <div className="mt-2 border-t border-rule pt-1.5" data-inquiry={inquiry.state}>
      <p className="flex items-baseline gap-2">
        <strong>{inquiry.buyer}</strong>
        <span>
          {inquiry.words}
          {offerMinor !== null && `, ${money(offerMinor, sale.currency)}`}
          {inquiry.askedMinor !== null && (
            <span className="small"> after {money(inquiry.askedMinor, sale.currency)} was asked</span>
          )}
        </span>
        <span className="small ml-auto whitespace-nowrap">
          {inquiry.isAnswering ? 'the answer is on its way' : STANDS[inquiry.state]}
          {inquiry.state === 'open' && inquiry.until !== null && `, ${closing(inquiry.until, now)}`}
        </span>
      </p>
      {advice && !inquiry.isAnswering && (
        <>
          <p className="small">
            Suggested: {advice.act}
            {advice.amountMinor !== null && ` ${money(advice.amountMinor, sale.currency)}`}, {advice.reason}.
          </p>
          <FormProvider {...form}>
            <form
              noValidate
              className="mt-1 flex flex-wrap items-center gap-2"
              onSubmit={(event) => void form.handleSubmit(({ amountMinor }) => answer('counter', amountMinor))(event)}
            >
              {offerMinor !== null && (
                <button
                  type="button"
                  className="quiet"
                  disabled={isLow}
                  title={isLow ? 'under the floor' : undefined}
                  onClick={() => void answer('accept')}
                >
                  Accept {money(offerMinor, sale.currency)}
                </button>
              )}
              <button type="submit" className="quiet">
                Ask for
              </button>
              <BareField
                name="amountMinor"
                className="w-24 [&>input]:text-right"
                inputMode="decimal"
                aria-label={`What is asked of ${inquiry.buyer}`}
              />
              <button type="button" className="quiet" onClick={() => void answer('decline')}>
                Decline
              </button>
            </form>
          </FormProvider>
        </>
      )}
    </div>
  );
}

const TypedInquiry = sentBy(
  z.object({
    buyer: z.string(),
    words: z.string().transform((typed) => typed.trim() || 'asks'),
    offerMinor: amount('the offer'),
  }),
  InquirySchema,
);
const TypedSold = z.object({ finalMinor: someAmount('what it was sold for'), feesMinor: amount('what was kept') });

/** Where no venue tells: who asked, and that it is sold. */
function ByHand({ sale }: { sale: SaleShown }) {
  const redraw = useRedraw();
  const params = { id: sale.id };
  return (
    <div className="mt-3 space-y-3">
      <Form
        schema={TypedInquiry}
        values={{ buyer: '', words: '', offerMinor: '' }}
        label="Note it"
        busyLabel="Noting"
        isQuiet
        act={async (body) => {
          await call('POST /resales/{id}/inquiries', { params, body });
          redraw();
        }}
      >
        <div className="flex flex-wrap items-end gap-2">
          <LineField name="buyer" label="Who asked" place="small" className="w-36" />
          <AmountLine name="offerMinor" label={`Offers, ${sale.currency}`} place="small" className="w-24" />
          <LineField name="words" label="Words" place="small" className="w-44" />
        </div>
      </Form>
      <Form
        schema={TypedSold}
        values={{ finalMinor: '', feesMinor: '' }}
        label="It is sold"
        busyLabel="Entering"
        isQuiet
        act={async (body) => {
          await call('POST /resales/{id}/sold', { params, body });
          redraw();
        }}
      >
        <div className="flex flex-wrap items-end gap-2">
          <AmountLine name="finalMinor" label={`Sold for, ${sale.currency}`} place="small" className="w-24" />
          <AmountLine name="feesMinor" label="Kept by the venue" place="small" className="w-24" />
        </div>
      </Form>
    </div>
  );
}
