'use client';

import { useMutation, useQuery } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Answer } from '../../contracts/calls';
import type { WayToHave } from '../../contracts/orders';
import { readAmount, typedAmount } from '../../core/money/typed-amount';
import type { OrderKind } from '../../core/orders/order';
import { ago, money } from '../../core/wording/format';
import { costWords, countdown, KIND_WORDS, standing, VERBS, wayWords } from '../../core/wording/orders';
import { statusWords } from '../../core/wording/status';
import { call } from '../api';
import { MoneyOf } from '../decision/figures';
import { ConfirmNote, confirmDomain } from '../dossier/confirm';
import Link from '../link';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';
import { giveOrder } from './give-order';

type Terms = Answer<'GET /orders/terms'>;
const FRESH_MS = 9 * 60_000;
const IS_TYPED: ReadonlySet<OrderKind> = new Set(['bid', 'offer', 'backorder']);

/** Orders a domain: the ways to have it on the terms of this moment, what it holds and may cost, and one press to give it. */
export default function OrderDialog({ name, briefId, onClose }: { name: string; briefId: number; onClose(): void }) {
  const redraw = useRedraw();
  const now = useNow();
  const [amount, setAmount] = useState<string | null>(null);
  const [isUnknown, setUnknown] = useState(false);
  const press = useRef<HTMLButtonElement>(null);
  const field = useRef<HTMLInputElement>(null);
  const openedAt = useRef(now);

  const asked = useQuery({
    queryKey: ['terms', name, briefId],
    // the terms of this moment, whatever was asked before
    staleTime: 0,
    gcTime: 0,
    queryFn: async () => {
      const read = () => call('GET /orders/terms', { query: { name, brief: briefId } });
      const found = await read();
      const isUnsure = found.phaseAt === null || openedAt.current - found.phaseAt > FRESH_MS || found.phase !== 'free';
      // a name that no venue offers is registered, and for that its verdict is taken again
      if (!isUnsure || found.ways.some(({ kind }) => kind !== 'register')) return { terms: found, confirmed: null };
      const confirmed = await confirmDomain(name);
      return { terms: await read(), confirmed };
    },
  });
  const { terms, confirmed } = asked.data ?? { terms: null, confirmed: null };
  const firstWay = terms
    ? Math.max(
        0,
        terms.ways.findIndex(({ refusal }) => refusal === null),
      )
    : 0;
  const [picked, setPicked] = useState<number | null>(null);
  const chosen = picked ?? firstWay;

  const sending = useMutation({
    mutationFn: (body: Parameters<typeof giveOrder>[0]) => giveOrder(body, () => setUnknown(true)),
    onSuccess: redraw,
    onSettled: () => setUnknown(false),
  });
  const done = sending.data ?? null;

  const way = terms?.ways[chosen] ?? null;
  const isDry = (terms?.isDryRun ?? false) || (way?.isDry ?? false);
  const proposed = way && terms ? proposal(way, terms) : null;
  const shown = amount ?? typedAmount(proposed);
  const minor = readAmount(shown);
  const refusal = terms && way ? refusalOf(terms, way, minor) : null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: where an amount is to be given, a figure typed replaces the one proposed; else Enter presses
  useEffect(() => {
    if (field.current) field.current.select();
    else press.current?.focus();
  }, [terms, done, chosen]);
  // pressed again, also when the answer was lost on its way, it is the same order; another amount or way is another
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new key for each order that is put together
  const clientKey = useMemo(() => crypto.randomUUID(), [name, briefId, chosen, minor]);

  const choose = (n: number) => {
    setPicked(n);
    setAmount(null);
  };
  const isSending = sending.isPending;
  const error = (sending.error ?? asked.error)?.message ?? null;
  const give = () => {
    if (!terms || !way || !minor || isSending) return;
    const { venue, kind, currency } = way;
    sending.mutate({ name, briefId, venue, kind, amountMinor: minor, currency, clientKey });
  };

  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed left-1/2 top-16 z-50 max-h-[85vh] w-[600px] max-w-[calc(100vw-16px)] -translate-x-1/2 overflow-auto rounded-lg border border-rule bg-sheet p-5 shadow-xl"
        >
          <Dialog.Title className="font-serif text-title font-semibold wrap-anywhere">Order {name}</Dialog.Title>
          {terms && <p className="small">for {terms.brief.name}</p>}
          {confirmed && (
            <div className="mt-3">
              <ConfirmNote confirmed={confirmed} now={now} />
            </div>
          )}
          {!terms && !error && (
            <p role="status" className="mt-3">
              {confirmed ? 'Asking for the price …' : 'Asking on what terms it is to be had …'}
            </p>
          )}
          {done && (
            <p role="status" className="mt-4 border-l-2 border-damson pl-3 text-[15px]">
              <strong>{standing(done)}</strong>
              {done.state === 'by hand' && done.url && (
                <>
                  {': '}
                  <a className="set" href={done.url} target="_blank" rel="noreferrer">
                    to the listing
                  </a>
                </>
              )}
            </p>
          )}
          {terms && !done && (
            <>
              {terms.warnings.length > 0 && (
                <p className="mt-3 border-l-2 border-ink pl-3">
                  <strong>Before you pay:</strong> {terms.warnings.join('; ')}.
                </p>
              )}
              {terms.isOwned && <p className="mt-3">It is yours already.</p>}
              <Ways terms={terms} chosen={chosen} now={now} onChoose={choose} />
              <div className="mt-3">
                <MoneyOf name={name} width={558} />
              </div>
              {way && !terms.isOwned && (
                <>
                  {isTyped(way) && (
                    <label className="mt-3 flex items-baseline gap-2">
                      <span>{way.kind === 'offer' ? 'Your offer' : 'The most you pay'}</span>
                      <input
                        ref={field}
                        className="field w-28 text-right"
                        inputMode="decimal"
                        value={shown}
                        aria-invalid={minor === undefined}
                        onChange={(event) => setAmount(event.target.value)}
                        onKeyDown={(event) => {
                          if (event.key !== 'Enter') return;
                          // the same press must not go on to the button: one Enter would give the order
                          event.preventDefault();
                          press.current?.focus();
                        }}
                      />
                      <span>{way.currency}</span>
                      {way.leastMinor !== null && (
                        <span className="small">the least that is taken: {money(way.leastMinor, way.currency)}</span>
                      )}
                    </label>
                  )}
                  <Consequences terms={terms} way={way} minor={minor ?? null} />
                </>
              )}
            </>
          )}
          {(error ?? refusal) && (
            <p role="alert" className="mt-3 bg-quince px-3 py-1.5">
              {error ?? refusal}
            </p>
          )}
          {isUnknown && (
            <p role="status" className="mt-3">
              Not known yet whether it was taken: the answer was lost. Asking …
            </p>
          )}
          <div className="mt-4 flex items-center gap-2">
            {terms && !done && way && !terms.isOwned && (
              <button
                ref={press}
                type="button"
                className="press"
                disabled={!minor || refusal !== null || isSending}
                onClick={() => void give()}
              >
                {isSending
                  ? 'Sending …'
                  : `${way.hasAccount || isDry ? '' : 'By hand: '}${VERBS[way.kind]} ${money(minor ?? null, way.currency)}`}
              </button>
            )}
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
              <Dialog.Close className="quiet">Not now</Dialog.Close>
            )}
            {isDry && !done && (
              <span className="small">
                Dry run: it is written down and not sent ({terms?.isDryRun ? 'Settings' : 'as its service is described'}
                ).
              </span>
            )}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

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

function refusalOf(terms: Terms, way: WayToHave, minor: number | null | undefined): string | null {
  if (terms.isOwned) return null;
  if (way.refusal) return `${way.refusal}.`;
  if (way.kind === 'register' && terms.phase !== 'free') return `It is not available: ${statusWords(terms.phase)}.`;
  if (way.ratePpm === null) return `No rate is set between ${way.currency} and ${terms.brief.currency} (Settings).`;
  if (minor === undefined) return 'Write the amount as 140 or 140.50.';
  if (minor !== null && way.leastMinor !== null && minor < way.leastMinor)
    return `The least that is taken is ${money(way.leastMinor, way.currency)}.`;
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
