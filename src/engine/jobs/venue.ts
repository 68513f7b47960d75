import { z } from 'zod';
import { LISTING_KINDS } from '../../core/formats/list-fields';
import { registrableDomain } from '../../core/names/domain';
import { NetError } from '../../net/errors';
import { HttpClient } from '../../net/http';
import { write } from '../../store/database';
import { type ListedValues, putListed, putSighting } from '../../store/domains';
import { countRows, putReject } from '../../store/sources';
import { type JobContext, JobError, throwIfStopped } from '../context';

export const VenueParams = z.object({ url: z.url() });

/** The feed of a venue, as docs/venue-feed.md describes it. */
const Feed = z.object({
  venue: z.string().min(1).max(120),
  currency: z.string().regex(/^[A-Z]{3}$/),
  listings: z.array(z.unknown()),
});
const Listing = z.object({
  domain: z.string(),
  kind: z.enum(LISTING_KINDS),
  priceMinor: z.number().int().min(0).nullable().default(null),
  bids: z.number().int().min(0).nullable().default(null),
  closesAt: z.iso.datetime().nullable().default(null),
  registeredAt: z.iso.datetime().nullable().default(null),
  url: z.url().nullable().default(null),
});

const BATCH = 1000;

/** Reads a venue's feed. Reading it again brings prices, bids and closing times up to date. */
export async function runVenue(context: JobContext): Promise<void> {
  const { store, job, settings, signal } = context;
  const { url } = VenueParams.parse(job.params);
  const sourceId = job.sourceId;
  if (sourceId === null) throw new JobError('The feed lost its source.');
  const feed = await fetchFeed(context, url);
  const http = feed.listings;
  for (let start = 0; start < http.length; start += BATCH) {
    throwIfStopped(signal);
    const ids = write(store, () => writeListings(context, sourceId, feed, start, http.slice(start, start + BATCH)));
    context.changed(ids, sourceId);
    context.progress({
      done: Math.min(http.length, start + BATCH),
      total: http.length,
      unit: 'listings',
      rate: 0,
      message: feed.venue,
    });
  }
  context.log.info({ url, listings: http.length, userAgent: settings.userAgent }, 'venue feed read');
}

async function fetchFeed(context: JobContext, url: string): Promise<z.infer<typeof Feed>> {
  const { settings, store, signal } = context;
  const http = new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
    maxBodyBytes: 256 * 1024 * 1024,
  });
  try {
    const answer = await http.get(url, { accept: 'application/json', signal });
    if (answer.status !== 200) throw new JobError(`The venue answered ${answer.status}.`);
    const parsed = Feed.safeParse(JSON.parse(answer.body.toString('utf8')));
    if (!parsed.success)
      throw new JobError(`The feed is not as docs/venue-feed.md describes it: ${z.prettifyError(parsed.error)}`);
    return parsed.data;
  } catch (error) {
    if (error instanceof SyntaxError) throw new JobError('The feed is no JSON.');
    if (error instanceof NetError) throw new JobError(`${error.message}.`);
    throw error;
  } finally {
    await http.close();
  }
}

function writeListings(
  context: JobContext,
  sourceId: number,
  feed: z.infer<typeof Feed>,
  start: number,
  part: unknown[],
): number[] {
  const { store } = context;
  const at = store.now();
  const ids: number[] = [];
  let setAside = 0;
  let isNewCount = 0;
  part.forEach((entry, index) => {
    const parsed = Listing.safeParse(entry);
    const domain = parsed.success ? registrableDomain(parsed.data.domain) : null;
    if (!parsed.success || !domain) {
      const reason = parsed.success
        ? `"${parsed.data.domain.slice(0, 80)}" is no registrable domain`
        : z.prettifyError(parsed.error);
      putReject(store, sourceId, { line: start + index + 1, reason, sample: JSON.stringify(entry).slice(0, 120) });
      setAside++;
      return;
    }
    const listing = parsed.data;
    const values: ListedValues = {
      phase: null,
      dropAt: null,
      registeredAt: listing.registeredAt ? Date.parse(listing.registeredAt) : null,
      listing: listing.kind,
      venue: feed.venue,
      priceMinor: listing.priceMinor,
      currency: feed.currency,
      bids: listing.bids,
      closingAt: listing.closesAt ? Date.parse(listing.closesAt) : null,
      listingUrl: listing.url,
      source: `source ${sourceId}`,
    };
    const { id, isNew } = putListed(store, domain, values, at);
    if (isNew) isNewCount++;
    putSighting(store, id, sourceId, at, null, { ...listing, venue: feed.venue, currency: feed.currency });
    ids.push(id);
  });
  countRows(store, sourceId, {
    rows_read: part.length,
    rows_taken: ids.length,
    rows_set_aside: setAside,
    domains_new: isNewCount,
  });
  return ids;
}
