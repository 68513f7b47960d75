'use client';

import { QueryClient, QueryClientProvider, useQueryClient } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import { type ReactNode, useCallback, useState } from 'react';

/** What a screen asked for is true until the server says that something has changed; how long it is kept for coming back to it. */
const KEPT_MS = 10 * 60_000;

/** There a page is drawn once: a timer for each thing it asks for would hold all of it for as long, however soon it is forgotten. */
const IS_SERVER = typeof window === 'undefined';

/** Where what screens asked of the server is kept, once for all of them. */
export function ServerState({ children }: { children: ReactNode }) {
  const [client] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          // the server is on this machine: it answers or it does not, and the events' stream says when to ask again
          queries: {
            staleTime: Number.POSITIVE_INFINITY,
            gcTime: IS_SERVER ? Number.POSITIVE_INFINITY : KEPT_MS,
            retry: false,
            refetchOnWindowFocus: false,
            refetchOnReconnect: false,
            networkMode: 'always',
          },
          mutations: { networkMode: 'always', retry: false },
        },
      }),
  );
  return <QueryClientProvider client={client}>{children}</QueryClientProvider>;
}

/**
 * Draws anew what has changed: the page, whose data the server draws it with, and what its screens asked for beside. The one place where a
 * page is drawn anew (docs/decisions/0081).
 */
export function useRedraw(): () => void {
  const { refresh } = useRouter();
  const client = useQueryClient();
  return useCallback(() => {
    refresh();
    void client.invalidateQueries();
  }, [refresh, client]);
}
