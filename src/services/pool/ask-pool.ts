import type { EnginePort } from '../../contracts/engine-port';
import { priceAt } from '../../core/listings/listing';
import { homeMinor, type Rates } from '../../core/listings/rates';
import type { DomainView } from '../../core/pool/domain-view';
import type { FurtherOffer } from '../../core/pool/offer';
import type { PoolAnswer, PoolQuery } from '../../core/pool/query';
import { columnsOfRows, type PartRow, ROW_FIELDS, type RowColumns, type RowField } from '../../core/pool/row-columns';
import type { Store } from '../../store/base/database';
import { type DomainRow, readDomainColumns } from '../../store/domains/domains';
import { noteVisit } from '../../store/domains/marks';
import { listingsOf } from '../../store/offers/listings';
import { freshSieves } from '../../store/pool/sieves';
import type { Brief } from '../../store/shortlist/briefs';
import { shortlistIds } from '../../store/shortlist/shortlist';
import { columnsOf, drawerOf, viewRules } from './views';

/** What is answered beside the rows of the window. */
type Window = Omit<PoolAnswer, 'ids' | 'names' | 'offers'>;

/** Asks the engine for a window of the pool, and draws its rows for the current brief. */
export async function askPool(
  store: Store,
  engine: EnginePort,
  brief: Brief,
  query: PoolQuery,
): Promise<Window & { rows: DomainView[] }> {
  const { rows, ...answer } = await askRows(store, engine, brief, query, ROW_FIELDS);
  return { ...answer, rows: rows as DomainView[] };
}

/** The same with some fields of the rows, field by field. */
export async function askColumns(
  store: Store,
  engine: EnginePort,
  brief: Brief,
  { fields, ...query }: PoolQuery & { fields: readonly RowField[] },
): Promise<Window & { rows: RowColumns }> {
  const wanted = ROW_FIELDS.filter((field) => fields.includes(field));
  const { rows, ...answer } = await askRows(store, engine, brief, query, wanted);
  return { ...answer, rows: columnsOfRows(rows, wanted) };
}

async function askRows(
  store: Store,
  engine: EnginePort,
  brief: Brief,
  query: PoolQuery,
  fields: readonly RowField[],
): Promise<Window & { rows: PartRow[] }> {
  noteVisit(store, store.now());
  const { ids, names, offers, said, ...answer } = await engine.queryPool(query);
  const draw = drawerOf(fields);
  const shortlisted = shortlistIds(store, brief.id);
  const rules = viewRules(store);
  const fresh = freshSieves(store, ids);
  const placeOf = new Map(ids.map((id, place) => [id, place]));
  const rows = readDomainColumns(store, ids, columnsOf(fields)).map((row) => {
    const place = placeOf.get(row.id) ?? 0;
    const view = draw(row as DomainRow, {
      isShortlisted: shortlisted.has(row.id),
      rules,
      starts: names[place]?.starts ?? [],
      matches: names[place]?.matches ?? [],
      freshIn: fresh.get(row.id) ?? [],
      sayability: said[place]?.sayability ?? null,
      nameSubject: said[place]?.subject ?? null,
    });
    const offer = offers[row.id];
    return offer ? { ...view, ...only(fields, shownOffer(store, row.id, offer, rules.rates)) } : view;
  });
  return { ...answer, rows };
}

function only(wanted: readonly RowField[], offer: Partial<DomainView> | null): Partial<DomainView> {
  return Object.fromEntries(Object.entries(offer ?? {}).filter(([field]) => wanted.includes(field as RowField)));
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
