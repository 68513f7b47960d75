import type { Metadata } from 'next';
import { Suspense } from 'react';
import { standing } from '../../core/wording/orders';
import { fitsFor } from '../../services/fit/fit';
import { orderViews } from '../../services/orders/orders';
import { reckon } from '../../services/plan/plan';
import { domainView, viewRules } from '../../services/pool/views';
import { tagsOf } from '../../store/domains/marks';
import { notesOf } from '../../store/domains/notes';
import { readShortlist, shortlistedFor } from '../../store/shortlist/shortlist';
import { ShortlistScreen } from '../../ui/shortlist/shortlist-screen';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Shortlist' };

export default async function ShortlistPage() {
  const { store, engine, brief, briefs } = await currentBrief();
  const rules = viewRules(store);
  const shortlist = readShortlist(store, brief.id);
  const fits = await fitsFor(
    engine,
    shortlist.map(({ domain }) => domain),
    brief,
  );
  const reckoned = reckon(store, brief).entries;
  const entries = shortlist.map((entry, n) => {
    const { domainId, domain } = entry;
    const { maximum, mostMinor, ways, way, order } = reckoned[n];
    const [last = null, ...others] = notesOf(store, domainId);
    return {
      ...entry,
      fit: fits[n],
      domain: domainView(domain, true, rules),
      maximum,
      mostMinor,
      tags: tagsOf(store, domainId),
      notes: { count: last ? 1 + others.length : 0, last: last?.text ?? null, lastAt: last?.at ?? null },
      alsoIn: shortlistedFor(store, domainId).flatMap(({ briefId }) =>
        briefId === brief.id ? [] : (briefs.find(({ id }) => id === briefId)?.name ?? []),
      ),
      ways,
      way: way === null ? null : ways.indexOf(way),
      order: order === null ? null : standing(orderViews(store, [order])[0]),
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
