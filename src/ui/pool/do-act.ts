'use client';

import type { QueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { PoolView } from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import { patchDetails } from '../details';
import { type Act, act } from './acts';
import { type Selection, whichOf } from './selection';

interface ActedOn {
  /** The one row that it is for; null: what is selected. */
  only: DomainView | null;
  selection: Selection;
  view: PoolView;
  withExcluded: boolean;
  now: number;
  client: QueryClient;
  pool: { patch(ids: ReadonlySet<number>, change: Partial<DomainView>): void; refresh(): void };
}

/** Does something to rows: they show it at once, and what really is when it could not be done. */
export async function doAct(
  what: Act,
  { only, selection, view, withExcluded, now, client, pool }: ActedOn,
): Promise<void> {
  const which = only ? { ids: [only.id] } : whichOf(selection, view.parts, withExcluded);
  const change = shownChange(what, now);
  if (Object.keys(change).length > 0) {
    const ids = only ? new Set([only.id]) : selection.all ? new Set<number>() : selection.ids;
    pool.patch(ids, change);
    if (only) patchDetails(client, only.name, change);
  }
  try {
    await act(what, which, only?.display ?? null, pool.refresh);
  } catch (error) {
    toast((error as Error).message);
    pool.refresh();
  }
}

/** What a row shows once something is done to it. */
function shownChange(what: Act, now: number): Partial<DomainView> {
  switch (what.kind) {
    case 'judge':
      return { judged: what.judged, judgedReason: what.reason ?? null, judgedAt: now };
    case 'shortlist':
    case 'unshortlist':
      return { shortlisted: what.kind === 'shortlist' };
    case 'watch':
    case 'unwatch':
      return { watched: what.kind === 'watch' ? 'by hand' : null };
    default:
      return {};
  }
}
