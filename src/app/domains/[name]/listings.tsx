import { nextStep, priceAt } from '../../../core/listings/listing';
import {
  ago,
  bothPrices,
  changeWords,
  closing,
  listingWords,
  moment,
  money,
  plural,
  RESERVE_WORDS,
} from '../../../core/wording/format';
import type { Dossier } from '../../../services/dossier/dossier';
import Link from '../../../ui/link';
import { NUMBER, PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';

type Listing = Dossier['listings'][number];
const column = plainColumnsFor<Listing>();

/** Every offer of it that is known, the one the grid shows first among the open ones, and what changed of them. */
export function Listings({ dossier, now }: { dossier: Dossier; now: number }) {
  const { listings, listingChanges, homeCurrency } = dossier;
  if (listings.length === 0) return <p>No venue offers it, as far as is known.</p>;
  const isShown = (listing: Listing) =>
    listing.isOpen && listing.kind === dossier.listing && listing.venue === dossier.venue;
  const order = (listing: Listing) => (isShown(listing) ? 0 : listing.isOpen ? 1 : 2);
  return (
    <>
      <PlainTable
        label="Offers"
        isHeadless
        rows={listings.toSorted((a, b) => order(a) - order(b))}
        rowId={({ sourceId, kind }) => `${sourceId} ${kind}`}
        columns={[
          column('Offer', (listing) => (
            <>
              {listingWords({ listing: listing.kind, bids: listing.bids })}
              {listing.reserve && `, ${RESERVE_WORDS[listing.reserve]}`}
              <span className="small block">
                at {listing.venue ?? 'a venue'}, by{' '}
                <Link href={`/sources/${listing.sourceId}`} className="hover:underline">
                  {listing.sourceName}
                </Link>
                , read {ago(listing.seenAt, now)}
                {listing.url && (
                  <>
                    , <span className="break-all">{listing.url}</span>
                  </>
                )}
              </span>
            </>
          )),
          column(
            'Price',
            (listing) => (
              <>
                {bothPrices(priceAt(listing, now), listing.currency, listing.homeMinor, homeCurrency) ||
                  'price on request'}
                <span className="small block">
                  {nextOf(listing, now)}
                  {isShown(listing) && listings.length > 1 && '; shown in the pool'}
                </span>
              </>
            ),
            NUMBER,
          ),
        ]}
      />
      {listingChanges.length > 0 && (
        <details className="mt-1">
          <summary className="small cursor-pointer">{plural(listingChanges.length, 'change')} of them</summary>
          {listingChanges.map((change, index) => (
            <div key={index} className="flex justify-between border-t border-faint py-0.5">
              <span>
                {changeWords(change, now)} <span className="small">{change.venue}</span>
              </span>
              <span className="small">{moment(change.at, now)}</span>
            </div>
          ))}
        </details>
      )}
    </>
  );
}

/** What comes next of an offer, and when. */
function nextOf(listing: Listing, now: number): string | null {
  if (!listing.isOpen) return listing.state === 'open' ? 'closed' : listing.state;
  const step = nextStep(listing, now);
  if (step) return `then ${money(step.priceMinor, null)} ${closing(step.at, now)}`;
  const { closingAt } = listing;
  return closingAt === null ? null : `closes ${closing(closingAt, now)} (${moment(closingAt, now)})`;
}
