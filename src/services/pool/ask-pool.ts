import type { EnginePort } from '../../contracts/engine-port';
import { priceAt } from '../../core/listings/listing';
import { homeMinor, type Rates } from '../../core/listings/rates';
import type { DomainView } from '../../core/pool/domain-view';
import type { FurtherOffer } from '../../core/pool/offer';
import type { PoolAnswer, PoolQuery } from '../../core/pool/query';
import type { Store } from '../../store/base/database';
import { readRates } from '../../store/base/settings';
import { readDomains } from '../../store/domains/domains';
import { noteVisit } from '../../store/domains/marks';
import { listingsOf } from '../../store/offers/listings';
import { freshSieves } from '../../store/pool/sieves';
import type { Brief } from '../../store/shortlist/briefs';
import { shortlistIds } from '../../store/shortlist/shortlist';
import { domainView } from './views';

/** Asks the engine for a window of the pool, and draws its rows for the current brief. */
export async function askPool(
  store: Store,
  engine: EnginePort,
  brief: Brief,
  query: PoolQuery,
): Promise<Omit<PoolAnswer, 'ids' | 'names' | 'offers'> & { rows: DomainView[] }> {
  noteVisit(store, store.now());
  const { ids, names, offers, said, ...answer } = await engine.queryPool(query);
  const shortlisted = shortlistIds(store, brief.id);
  const rates = readRates(store);
  const fresh = freshSieves(store, ids);
  const byId = new Map(ids.map((id, index) => [id, { ...names[index], said: said[index] }]));
  const rows = readDomains(store, ids).map((row) => {
    const view = domainView(row, shortlisted.has(row.id), rates, {
      starts: byId.get(row.id)?.starts ?? [],
      matches: byId.get(row.id)?.matches ?? [],
      freshIn: fresh.get(row.id) ?? [],
      sayability: byId.get(row.id)?.said?.sayability ?? null,
      nameSubject: byId.get(row.id)?.said?.subject ?? null,
    });
    const offer = offers[row.id];
    return offer ? { ...view, ...shownOffer(store, row.id, offer, rates) } : view;
  });
  return { ...answer, rows };
}

/** The offer that let a row through, where it is not the one that its row has. */
function shownOffer(store: Store, id: number, { venue, listing: kind }: FurtherOffer, rates: Rates) {
  const found = listingsOf(store, id).find((listing) => listing.venue === venue && listing.kind === kind);
  if (!found) return null;
  const priceMinor = priceAt(found, store.now());
  return {
    listing: found.kind,
    venue: found.venue,
    priceMinor,
    currency: found.currency,
    homeMinor: homeMinor(priceMinor, found.currency, rates),
    bids: found.bids,
    closingAt: found.closingAt,
    listingUrl: found.url,
    listingAt: found.seenAt,
  };
}
