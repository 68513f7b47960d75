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

/** Every offer of it that is known, the one the grid shows first among the open ones, and what changed of them. */
export function Listings({ dossier, now }: { dossier: Dossier; now: number }) {
  const { listings, listingChanges, homeCurrency } = dossier;
  if (listings.length === 0) return <p>No venue offers it, as far as is known.</p>;
  const isShown = (listing: Dossier['listings'][number]) =>
    listing.isOpen && listing.kind === dossier.listing && listing.venue === dossier.venue;
  const order = (listing: Dossier['listings'][number]) => (isShown(listing) ? 0 : listing.isOpen ? 1 : 2);
  return (
    <>
      <table className="w-full">
        <tbody>
          {listings
            .toSorted((a, b) => order(a) - order(b))
            .map((listing) => {
              const step = nextStep(listing, now);
              const price = priceAt(listing, now);
              return (
                <tr key={`${listing.sourceId} ${listing.kind}`} className="border-t border-rule align-top">
                  <td className="py-1 pr-3">
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
                  </td>
                  <td className="py-1 text-right">
                    {bothPrices(price, listing.currency, listing.homeMinor, homeCurrency) || 'price on request'}
                    <span className="small block">
                      {!listing.isOpen
                        ? listing.state === 'open'
                          ? 'closed'
                          : listing.state
                        : step
                          ? `then ${money(step.priceMinor, null)} ${closing(step.at, now)}`
                          : listing.closingAt !== null &&
                            `closes ${closing(listing.closingAt, now)} (${moment(listing.closingAt, now)})`}
                      {isShown(listing) && listings.length > 1 && '; shown in the pool'}
                    </span>
                  </td>
                </tr>
              );
            })}
        </tbody>
      </table>
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
