'use client';

import { useQuery } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useRef } from 'react';
import { call } from '../api';
import { ConfirmNote, confirmDomain } from '../dossier/confirm';
import { useNow } from '../shell/live';
import { OrderForm } from './order-form';

const FRESH_MS = 9 * 60_000;

/** Orders a domain: the ways to have it on the terms of this moment, what it holds and may cost, and one press to give it. */
export default function OrderDialog({ name, briefId, onClose }: { name: string; briefId: number; onClose(): void }) {
  const now = useNow();
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
          {terms ? (
            <OrderForm terms={terms} briefId={briefId} problem={asked.error?.message ?? null} onClose={onClose} />
          ) : (
            <>
              {asked.error ? (
                <p role="alert" className="mt-3 bg-quince px-3 py-1.5">
                  {asked.error.message}
                </p>
              ) : (
                <p role="status" className="mt-3">
                  Asking on what terms it is to be had …
                </p>
              )}
              <Dialog.Close className="quiet mt-4">Not now</Dialog.Close>
            </>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
