'use client';

import { type QueryClient, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { Answer } from '../contracts/calls';
import type { DomainView } from '../core/pool/domain-view';
import type { Judgement } from '../core/pool/facts';
import { call } from './api';
import { useSettled } from './parts/use-settled';

/** What the dossier adds to a row of the pool, as far as a quick look needs it. */
export type Details = Answer<'GET /domains/{name}'>;
const detailsOf = (name: string) => ({
  queryKey: ['pool', 'details', name],
  queryFn: ({ signal }: { signal: AbortSignal }) => call('GET /domains/{name}', { params: { name }, signal }),
});

/**
 * Details of a domain, as they are kept when they were loaded before; when the pool has changed since, they stay until newer ones are there.
 * `ahead` are loaded as well, since they come next. While there are none, or none can be had, the row itself says what is known.
 */
export function useDetails(name: string | undefined, ahead: string[] = [], waitMs = 0): Details | null {
  const client = useQueryClient();
  const settled = useSettled(name, waitMs);
  const { data, isFetched } = useQuery({
    ...detailsOf(name ?? ''),
    enabled: name !== undefined && (settled === name || waitMs === 0),
  });
  const next = ahead.join(' ');
  useEffect(() => {
    if (!isFetched || next === '') return;
    for (const one of next.split(' ')) void client.prefetchQuery(detailsOf(one));
  }, [client, isFetched, next]);
  return data ?? null;
}

/** A row of the pool with what newer details say of it. */
export function freshRow(row: DomainView, details: Details | null): DomainView {
  if (!details) return row;
  const { starts, matches, freshIn, sayability, nameSubject } = row;
  return { ...row, ...details, starts, matches, freshIn, sayability, nameSubject };
}

/** Changes what is kept of a domain, ahead of the server. */
export function patchDetails(
  client: QueryClient,
  name: string,
  change: { judged?: Judgement; judgedReason?: string | null; shortlisted?: boolean },
): void {
  client.setQueryData<Details>(detailsOf(name).queryKey, (kept) => kept && { ...kept, ...change });
}
