import type { Metadata } from 'next';
import { Suspense } from 'react';
import { readRates } from '../../store/database';
import { tagsOf } from '../../store/marks';
import { notesOf } from '../../store/notes';
import { listOrders } from '../../store/orders';
import { readShortlist, shortlistedFor } from '../../store/shortlist';
import { standing } from '../../ui/orders/words';
import { ShortlistScreen } from '../../ui/shortlist/shortlist-screen';
import { fitsFor } from '../fit';
import { orderViews } from '../orders';
import { suggestionFor, waysFor } from '../plan';
import { currentBrief } from '../server';
import { domainView } from '../views';

export const metadata: Metadata = { title: 'Shortlist' };

export default async function ShortlistPage() {
  const { store, brief, briefs } = await currentBrief();
  const rates = readRates(store);
  const shortlist = readShortlist(store, brief.id);
  const fits = await fitsFor(
    shortlist.map(({ domain }) => domain),
    brief,
  );
  const ways = waysFor(store, brief, shortlist);
  const orders = new Map(
    orderViews(store, listOrders(store, brief.id))
      .reverse()
      .map((order) => [order.domainId, order]),
  );
  const entries = shortlist.map((entry, n) => {
    const { domainId, domain } = entry;
    const order = orders.get(domainId);
    const [last = null, ...others] = notesOf(store, domainId);
    return {
      ...entry,
      fit: fits[n],
      domain: domainView(domain, true, rates),
      suggested: suggestionFor(brief, entry),
      tags: tagsOf(store, domainId),
      notes: { count: last ? 1 + others.length : 0, last: last?.text ?? null, lastAt: last?.at ?? null },
      alsoIn: shortlistedFor(store, domainId).flatMap(({ briefId }) =>
        briefId === brief.id ? [] : (briefs.find(({ id }) => id === briefId)?.name ?? []),
      ),
      way: ways[n]?.words ?? null,
      rivals: ways[n]?.others ?? null,
      order: order && order.state !== 'dry' ? standing(order) : null,
      oldestAt: oldest(domain.phase_at, domain.listing === null ? null : domain.listing_at),
    };
  });
  return (
    <Suspense>
      <ShortlistScreen key={brief.id} brief={brief} entries={entries} />
    </Suspense>
  );
}

/** When the older of what is known was asked; null: nothing was. */
function oldest(...times: (number | null)[]): number | null {
  const known = times.filter((at) => at !== null);
  return known.length === 0 ? null : Math.min(...known);
}
