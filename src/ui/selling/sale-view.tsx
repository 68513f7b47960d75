'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { ago, closing, moment, money, plural } from '../../core/wording/format';
import { call } from '../api';
import { ActionForm } from '../fields';
import { textOf } from '../form-data';
import { useNow } from '../shell/live';
import { readBid } from '../shortlist/stages';
import type { InquiryShown, SaleShown } from './types';

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
  const router = useRouter();
  const now = useNow();
  const isOpen = OPEN.has(sale.state);
  const params = { id: sale.id };
  const act = async (what: () => Promise<unknown>, words: string | null) => {
    try {
      await what();
      if (words) toast(words);
      router.refresh();
    } catch (error) {
      toast((error as Error).message);
      router.refresh();
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
  const [asks, setAsks] = useState<string | null>(null);
  const counter = asks ?? (advice?.amountMinor ? (advice.amountMinor / 100).toFixed(2) : '');
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
          <form
            className="mt-1 flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              const minor = readBid(counter);
              if (minor) void answer('counter', minor);
            }}
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
            <button type="submit" className="quiet" disabled={!readBid(counter)}>
              Ask for
            </button>
            <input
              className="field w-24 text-right"
              inputMode="decimal"
              aria-label={`What is asked of ${inquiry.buyer}`}
              value={counter}
              onChange={(event) => setAsks(event.target.value)}
            />
            <button type="button" className="quiet" onClick={() => void answer('decline')}>
              Decline
            </button>
          </form>
        </>
      )}
    </div>
  );
}

/** Where no venue tells: who asked, and that it is sold. */
function ByHand({ sale }: { sale: SaleShown }) {
  const router = useRouter();
  const note = async (form: FormData) => {
    const offer = String(form.get('offer'));
    const offerMinor = readBid(offer);
    if (offerMinor === undefined) throw new Error('Write the offer as 140 or 140.50, or leave it empty.');
    const body = { buyer: textOf(form, 'buyer'), words: textOf(form, 'words') || 'asks', offerMinor };
    await call('POST /resales/{id}/inquiries', { params: { id: sale.id }, body });
    router.refresh();
  };
  const sold = async (form: FormData) => {
    const [finalMinor, feesMinor] = ['price', 'fees'].map((key) => readBid(String(form.get(key))));
    if (!finalMinor || feesMinor === undefined) throw new Error('Write what it was sold for as 140 or 140.50.');
    await call('POST /resales/{id}/sold', { params: { id: sale.id }, body: { finalMinor, feesMinor } });
    router.refresh();
  };
  return (
    <div className="mt-3 space-y-3">
      <ActionForm label="Note it" busyLabel="Noting" isQuiet act={note}>
        <div className="flex flex-wrap items-end gap-2">
          <Field name="buyer" label="Who asked" className="w-36" />
          <Field name="offer" label={`Offers, ${sale.currency}`} className="w-24 text-right" />
          <Field name="words" label="Words" className="w-44" />
        </div>
      </ActionForm>
      <ActionForm label="It is sold" busyLabel="Entering" isQuiet act={sold}>
        <div className="flex flex-wrap items-end gap-2">
          <Field name="price" label={`Sold for, ${sale.currency}`} className="w-24 text-right" />
          <Field name="fees" label="Kept by the venue" className="w-24 text-right" />
        </div>
      </ActionForm>
    </div>
  );
}

function Field({ name, label, className }: { name: string; label: string; className: string }) {
  return (
    <label>
      <span className="small block">{label}</span>
      <input name={name} className={`field ${className}`} />
    </label>
  );
}
