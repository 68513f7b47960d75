import type { EnginePort } from '../../contracts/engine-port';
import type { Risk } from '../../core/bids/risk';
import { standing } from '../../core/wording/orders';
import type { Store } from '../../store/base/database';
import { tagsOf } from '../../store/domains/marks';
import { notesOf } from '../../store/domains/notes';
import type { Brief } from '../../store/shortlist/briefs';
import { shortlistedFor } from '../../store/shortlist/shortlist';
import { fitsFor } from '../fit/fit';
import { orderViews } from '../orders/orders';
import { planFor, reckon } from '../plan/plan';
import { domainView, viewRules } from '../pool/views';

/**
 * The shortlist of a brief with all that a decision on each of its names wants: the plan's word, ways, worth, maximum, and when it is due.
 * Amounts in minor units of the brief's currency.
 *
 * @param briefs all briefs, by whose names it is said where else a domain is shortlisted.
 * @param risk another than the brief's, to see what it would change.
 */
export async function shortlistView(
  store: Store,
  engine: EnginePort,
  brief: Brief,
  briefs: readonly Pick<Brief, 'id' | 'name'>[],
  risk: Risk = brief.risk,
) {
  const reckoned = reckon(store, brief, risk);
  const [{ entries: planned, bids, turns, ...plan }, fits] = await Promise.all([
    planFor(store, engine, brief, risk, reckoned),
    fitsFor(
      engine,
      reckoned.entries.map(({ entry }) => entry.domain),
      brief,
    ),
  ]);
  const plannedById = new Map(planned.map((entry) => [entry.id, entry]));
  const bidsById = new Map(bids.map((bid) => [bid.id, bid]));
  const rules = viewRules(store);
  const entries = reckoned.entries.map(({ entry, ways, way, maximum, mostMinor, order }, n) => {
    const { domainId, domain } = entry;
    const bid = bidsById.get(domainId) ?? null;
    const view = domainView(domain, true, rules);
    const [last = null, ...others] = notesOf(store, domainId);
    return {
      ...entry,
      fit: fits[n],
      domain: view,
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
      bid,
      turn: turns[domainId] ?? null,
      planned: plannedById.get(domainId) ?? null,
      decidedAt: bid?.at ?? way?.closesAt ?? (way?.kind === 'register' ? null : view.dropAt),
    };
  });
  return { plan, entries };
}

/** When the older of what is known was asked; null: nothing was. */
function oldest(...times: (number | null)[]): number | null {
  const known = times.filter((at) => at !== null);
  return known.length === 0 ? null : Math.min(...known);
}
