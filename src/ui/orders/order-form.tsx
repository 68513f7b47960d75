'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import { useMutation } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import { FormProvider, useForm } from 'react-hook-form';
import { z } from 'zod';
import type { Answer } from '../../contracts/calls';
import type { WayToHave } from '../../contracts/orders';
import { readAmount, typedAmount } from '../../core/money/typed-amount';
import type { OrderKind } from '../../core/orders/order';
import { ago, money } from '../../core/wording/format';
import { costWords, countdown, KIND_WORDS, standing, VERBS, wayWords } from '../../core/wording/orders';
import { statusWords } from '../../core/wording/status';
import { MoneyOf } from '../decision/figures';
import { useField } from '../forms/field';
import { someAmount } from '../forms/typed';
import Link from '../link';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';
import { giveOrder } from './give-order';

type Terms = Answer<'GET /orders/terms'>;
type Given = Answer<'POST /orders'>['order'];
type Typed = { amount: string };
const IS_TYPED: ReadonlySet<OrderKind> = new Set(['bid', 'offer', 'backorder']);

/** What is typed for a way: an amount, not below the least that is taken there. */
const amountFor = (way: WayToHave | null) =>
  z.object({
    amount: someAmount('the amount').refine((minor) => minor >= (way?.leastMinor ?? 0), {
      error: way ? `The least that is taken is ${money(way.leastMinor, way.currency)}.` : undefined,
    }),
  });

/** The ways to have a domain, the amount where one is typed, what the order holds, and the press that gives it. */
export function OrderForm({
  terms,
  briefId,
  problem,
  onClose,
}: {
  terms: Terms;
  briefId: number;
  problem: string | null;
  onClose(): void;
}) {
  const redraw = useRedraw();
  const now = useNow();
  const [isUnknown, setUnknown] = useState(false);
  const press = useRef<HTMLButtonElement>(null);
  const firstWay = Math.max(
    0,
    terms.ways.findIndex(({ refusal }) => refusal === null),
  );
  const [picked, setPicked] = useState<number | null>(null);
  const chosen = picked ?? firstWay;
  const way = terms.ways[chosen] ?? null;
  const form = useForm<Typed, unknown, z.output<ReturnType<typeof amountFor>>>({
    resolver: zodResolver(amountFor(way)),
    values: { amount: proposedFor(way, terms) },
    // terms that are read anew beside it do not take what was typed
    resetOptions: { keepDirtyValues: true },
    mode: 'onChange',
  });
  const minor = readAmount(form.watch('amount')) ?? null;

  const sending = useMutation({
    mutationFn: (body: Parameters<typeof giveOrder>[0]) => giveOrder(body, () => setUnknown(true)),
    onSuccess: redraw,
    onSettled: () => setUnknown(false),
  });
  const done = sending.data ?? null;
  const isAsked = way !== null && !terms.isOwned;
  const refusal = way && refusalOf(terms, way);
  // biome-ignore lint/correctness/useExhaustiveDependencies: where an amount is to be given, a figure typed replaces the one proposed; else Enter presses
  useEffect(() => {
    if (isAsked && isTyped(way) && !done) form.setFocus('amount', { shouldSelect: true });
    else press.current?.focus();
  }, [terms, done, chosen]);
  // pressed again, also when the answer was lost on its way, it is the same order; another amount or way is another
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new key for each order that is put together
  const clientKey = useMemo(() => crypto.randomUUID(), [terms.name, briefId, chosen, minor]);

  const choose = (n: number) => {
    setPicked(n);
    form.reset({ amount: proposedFor(terms.ways[n], terms) }, { keepDirtyValues: false });
  };
  const give = form.handleSubmit(({ amount }) => {
    if (!way || sending.isPending) return;
    const { venue, kind, currency } = way;
    sending.mutate({ name: terms.name, briefId, venue, kind, amountMinor: amount, currency, clientKey });
  });
  const error = sending.error?.message ?? problem ?? refusal;

  return (
    <FormProvider {...form}>
      {/* only the button gives the order: Enter on a way or in a field does not */}
      <form noValidate aria-label={`Order ${terms.name}`} onSubmit={(event) => event.preventDefault()}>
        {done ? (
          <DoneNote order={done} />
        ) : (
          <>
            {terms.warnings.length > 0 && (
              <p className="mt-3 border-l-2 border-ink pl-3">
                <strong>Before you pay:</strong> {terms.warnings.join('; ')}.
              </p>
            )}
            {terms.isOwned && <p className="mt-3">It is yours already.</p>}
            <Ways terms={terms} chosen={chosen} now={now} onChoose={choose} />
            <div className="mt-3">
              <MoneyOf name={terms.name} width={558} />
            </div>
            {isAsked && (
              <>
                {isTyped(way) && <AmountLine way={way} onEnter={() => press.current?.focus()} />}
                <Consequences terms={terms} way={way} minor={minor} />
              </>
            )}
          </>
        )}
        {error && (
          <p role="alert" className="mt-3 bg-quince px-3 py-1.5">
            {error}
          </p>
        )}
        {isUnknown && (
          <p role="status" className="mt-3">
            Not known yet whether it was taken: the answer was lost. Asking …
          </p>
        )}
        <div className="mt-4 flex items-center gap-2">
          {done ? (
            <>
              <button ref={press} type="button" className="press" onClick={onClose}>
                Done
              </button>
              <Link href="/orders" className="quiet" onClick={onClose}>
                All orders
              </Link>
            </>
          ) : (
            <>
              {isAsked && (
                <button
                  ref={press}
                  type="button"
                  className="press"
                  onClick={() => void give()}
                  disabled={
                    !amountFor(way).safeParse(form.getValues()).success || refusal !== null || sending.isPending
                  }
                >
                  {sending.isPending ? 'Sending …' : pressWords(terms, way, minor)}
                </button>
              )}
              <Dialog.Close className="quiet">Not now</Dialog.Close>
              {(terms.isDryRun || way?.isDry) && (
                <span className="small">
                  Dry run: it is written down and not sent (
                  {terms.isDryRun ? 'Settings' : 'as its service is described'}).
                </span>
              )}
            </>
          )}
        </div>
      </form>
    </FormProvider>
  );
}

const pressWords = (terms: Terms, way: WayToHave, minor: number | null) =>
  `${way.hasAccount || terms.isDryRun || way.isDry ? '' : 'By hand: '}${VERBS[way.kind]} ${money(minor, way.currency)}`;

/** What became of it. */
function DoneNote({ order }: { order: Given }) {
  return (
    <p role="status" className="mt-4 border-l-2 border-damson pl-3 text-[15px]">
      <strong>{standing(order)}</strong>
      {order.state === 'by hand' && order.url && (
        <>
          {': '}
          <a className="set" href={order.url} target="_blank" rel="noreferrer">
            to the listing
          </a>
        </>
      )}
    </p>
  );
}

/** @param onEnter Enter goes on to the button and not through it: one press would give the order. */
function AmountLine({ way, onEnter }: { way: WayToHave; onEnter(): void }) {
  const { given, problem } = useField('amount');
  return (
    <>
      <label className="mt-3 flex items-baseline gap-2">
        <span>{way.kind === 'offer' ? 'Your offer' : 'The most you pay'}</span>
        <input
          {...given}
          className="field w-28 text-right"
          inputMode="decimal"
          onKeyDown={(event) => {
            if (event.key !== 'Enter') return;
            event.preventDefault();
            onEnter();
          }}
        />
        <span>{way.currency}</span>
        {way.leastMinor !== null && (
          <span className="small">the least that is taken: {money(way.leastMinor, way.currency)}</span>
        )}
      </label>
      {problem}
    </>
  );
}

const proposedFor = (way: WayToHave | null, terms: Terms) => typedAmount(way && proposal(way, terms));

/** Where nobody says the price, the person does; and at a registrar that cannot be reached, the one that is asked there. */
const isTyped = ({ kind, priceMinor, hasAccount }: WayToHave) =>
  IS_TYPED.has(kind) || priceMinor === null || (kind === 'register' && !hasAccount);

/** What is proposed to pay: the price that is asked, or the maximum that was set, as far as it is enough. */
function proposal(way: WayToHave, { mostMinor: most }: Terms): number | null {
  if (!IS_TYPED.has(way.kind)) return way.priceMinor;
  const there = most === null || !way.ratePpm ? null : Math.floor((most * 1_000_000) / way.ratePpm);
  if (there === null) return way.leastMinor;
  return way.leastMinor === null ? there : Math.max(there, way.leastMinor);
}

/** Why it cannot be had in this way, whatever the amount. */
function refusalOf(terms: Terms, way: WayToHave): string | null {
  if (terms.isOwned) return null;
  if (way.refusal) return `${way.refusal}.`;
  if (way.kind === 'register' && terms.phase !== 'free') return `It is not available: ${statusWords(terms.phase)}.`;
  if (way.ratePpm === null) return `No rate is set between ${way.currency} and ${terms.brief.currency} (Settings).`;
  return null;
}

function Ways({
  terms,
  chosen,
  now,
  onChoose,
}: {
  terms: Terms;
  chosen: number;
  now: number;
  onChoose(n: number): void;
}) {
  return (
    <fieldset className="mt-3">
      <legend className="sr-only">Ways to have it</legend>
      {terms.ways.map((way, n) => (
        <label key={`${way.venue} ${way.offered}`} className="flex items-baseline gap-2 border-t border-rule py-1.5">
          <input type="radio" name="way" checked={n === chosen} onChange={() => onChoose(n)} />
          <span className="first-letter:uppercase">
            {wayWords(way, now)}
            {way.reserve === 'unmet' && ', reserve not met'}
            {way.closesAt !== null && `, ${countdown(way.closesAt, now)} left`}
            <span className="small block">{costWords(way, terms.brief.currency)}</span>
          </span>
          <span className="small ml-auto whitespace-nowrap">
            {way.isLive ? 'asked just now' : way.priceMinor === null ? 'by hand' : `read ${ago(way.asOf, now)}`}
            {way.url && !way.hasAccount && (
              <>
                {' · '}
                <a className="set" href={way.url} target="_blank" rel="noreferrer">
                  listing
                </a>
              </>
            )}
          </span>
        </label>
      ))}
      {terms.orders
        .filter(({ state }) => state !== 'dry')
        .slice(0, 3)
        .map((order) => (
          <p key={order.id} className="small">
            {KIND_WORDS[order.kind]} at {order.venue} up to {money(order.amountMinor, order.currency)}:{' '}
            {standing(order)}
          </p>
        ))}
    </fieldset>
  );
}

/** What the order holds of the budget, and what that leaves. */
function Consequences({ terms, way, minor }: { terms: Terms; way: WayToHave; minor: number | null }) {
  const { brief, limits } = terms;
  if (minor === null || way.ratePpm === null) return null;
  const own = Math.round((minor * way.ratePpm) / 1_000_000);
  const fees = way.kind === 'register' ? 0 : brief.feesMinor;
  return (
    <p className="small mt-3">
      Costs at most <strong className="text-ink">{money(own + fees, brief.currency)}</strong>
      {fees > 0 && ` with ${money(fees, brief.currency)} of fees`}
      {way.currency !== brief.currency && `, at today’s rate`}.{' '}
      {limits.briefMinor === null
        ? 'The brief has no budget.'
        : `${money(limits.briefMinor, brief.currency)} of the budget are left before it`}
      {limits.briefMinor !== null && limits.dayMinor === null && '.'}
      {limits.dayMinor !== null &&
        `${limits.briefMinor === null ? ' ' : ', and '}${money(limits.dayMinor, terms.homeCurrency)} of today’s limit.`}
    </p>
  );
}
