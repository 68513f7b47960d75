import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { findDomain } from '../../store/domains/domains';
import { changesOfSource } from '../../store/offers/listing-changes';
import { listingsOf, openListings } from '../../store/offers/listings';
import { eachReject, readSource } from '../../store/sources/sources';
import { lookAtVenue } from '../files/venue-preview';
import { JobError } from '../runner/context';
import { OneDocument } from './fixtures';
import { type Trial, trial } from './testing';
import { runVenue } from './venue';

let store: Store;
let server: OneDocument;
beforeEach(async () => {
  store = await freshStore();
  server = new OneDocument();
  await server.open();
});
afterEach(() => server.close());

const read = async (again?: Trial, more: object = {}) => {
  const run = trial(store, 'venue', { url: server.url, ...more }, again);
  await runVenue(run.context);
  return run;
};
const feed = (...listings: unknown[]) => JSON.stringify({ venue: 'Saltmarch Exchange', currency: 'EUR', listings });
const auction = { domain: 'a.org', kind: 'auction', priceMinor: 2500, bids: 3, closesAt: '2126-11-26T20:15:00Z' };
const whats = (run: Trial) => changesOfSource(store, run.sourceId, 99).map(({ name, what }) => `${name} ${what}`);

describe('a venue', () => {
  it('is read, and what does not fit is rejected', async () => {
    server.body = feed(
      auction,
      { domain: 'b.org', kind: 'raffle' },
      { domain: 'no domain', kind: 'offer' },
      { domain: 'c.org', kind: 'offer', priceMinor: 12.5 },
      { domain: 'd.org', kind: 'offer' },
      'rubbish',
    );
    const run = await read();
    expect(readSource(store, run.sourceId)).toMatchObject({ rows_read: 6, rows_taken: 2, rows_set_aside: 4 });
    expect(findDomain(store, 'a.org')).toMatchObject({
      listing: 'auction',
      venue: 'Saltmarch Exchange',
      price_minor: 2500,
      currency: 'EUR',
      bids: 3,
      closing_at: Date.UTC(2126, 10, 26, 20, 15),
      in_pool: 1,
    });
    expect(findDomain(store, 'd.org')).toMatchObject({ listing: 'offer', price_minor: null });
  });

  it('may list every kind, with its reserve, its steps and a currency of its own', async () => {
    const steps = [
      { at: '2126-01-02T00:00:00Z', priceMinor: 400 },
      { at: '2020-01-01T00:00:00+02:00', priceMinor: 700 },
    ];
    server.body = feed(
      { ...auction, reserve: 'unmet' },
      { domain: 'b.org', kind: 'falling', priceMinor: 900, steps, currency: 'GBP' },
      { domain: 'c.org', kind: 'backorder', priceMinor: 6900 },
      { domain: 'd.org', kind: 'expired-auction', state: 'sold', priceMinor: 100, bids: 2 },
      { domain: 'e.org', kind: 'buy-now', priceMinor: 100 },
      { domain: 'f.org', kind: 'offer' },
    );
    const run = await read();
    const { rows, kinds } = openListings(store, run.sourceId, null, 0, 9);
    expect(kinds).toHaveLength(5);
    expect(rows.find(({ name }) => name === 'a.org')).toMatchObject({ reserve: 'unmet', state: 'open' });
    // the second step was first in time, and is over
    expect(rows.find(({ name }) => name === 'b.org')).toMatchObject({ priceMinor: 700, currency: 'GBP' });
    expect(findDomain(store, 'b.org')).toMatchObject({ price_minor: 700, currency: 'GBP' });
    expect(findDomain(store, 'd.org')).toMatchObject({ listing: null });
    expect(openListings(store, run.sourceId, 'offer', 0, 9).rows.map(({ name }) => name)).toEqual(['f.org']);
  });

  it('read again notices bids, extensions, ends and withdrawals, and writes them down', async () => {
    server.body = feed(auction, { ...auction, domain: 'b.org' }, { domain: 'c.org', kind: 'buy-now', priceMinor: 500 });
    const run = await read();
    expect(whats(run)).toEqual([]);
    server.body = feed(
      { ...auction, bids: 5, priceMinor: 3100, closesAt: '2126-11-26T20:25:00Z' },
      { ...auction, domain: 'b.org', state: 'sold' },
    );
    const again = await read(run);
    expect(whats(run).sort()).toEqual(['a.org bid', 'a.org extended', 'a.org price', 'b.org sold', 'c.org withdrawn']);
    expect(again.progress.at(-1)?.message).toBe('2 listings, 5 things changed');
    expect(findDomain(store, 'c.org')).toMatchObject({ listing: null, in_pool: 1 });
    expect(listingsOf(store, findDomain(store, 'c.org')!.id)[0]).toMatchObject({ state: 'withdrawn' });
    expect(readSource(store, run.sourceId)).toMatchObject({ rows_read: 5, rows_taken: 3, rows_repeated: 2 });
  });

  it('that says nothing has changed is not read', async () => {
    server.body = feed(auction);
    const run = await read();
    const again = await read(run);
    expect(server.requests).toBe(2);
    expect(again.progress.at(-1)?.message).toContain('nothing has changed');
    expect(readSource(store, run.sourceId)).toMatchObject({ rows_read: 1, detail: { wasUnchanged: true } });
  });

  it('that answers with an empty feed loses nothing of what is known of it', async () => {
    server.body = feed(auction);
    const run = await read();
    server.body = feed();
    await expect(read(run)).rejects.toThrow('without a single listing');
    expect(findDomain(store, 'a.org')).toMatchObject({ listing: 'auction' });
  });

  it.each([
    ['not json', 'The feed is no JSON'],
    ['{"venue":"x"}', 'not as docs/venue-feed.md describes'],
    ['{"venue":"x","currency":"euro","listings":[]}', 'currency'],
  ])('whose feed is %s is told so', async (text, message) => {
    server.body = text;
    const error = await read().catch((failure: Error) => failure);
    expect(error).toBeInstanceOf(JobError);
    expect((error as Error).message).toContain(message);
  });

  it('that answers with an error is told so', async () => {
    server.status = 503;
    await expect(read()).rejects.toThrow('The address answered 503.');
  });
});

describe('a venue without a feed of our kind', () => {
  const table =
    'Lot;Format;Current price;Bids;Reserve;Ends\na.org;Auction;£1,200;4;not met;2126-11-26 20:15\nb.org;Fixed price;£90;;;\nno lot;;;;;\n';

  it('is read by a mapping of its columns, in its own currency', async () => {
    server.body = table;
    const look = await lookAtVenue(store, trial(store, 'venue', {}).context.settings, server.url);
    if (look.kind !== 'table') throw new Error('it was taken for a feed');
    expect(look.look).toMatchObject({ delimiter: ';', hasHeader: true });
    const columns = ['domain', 'kind', 'price', 'bids', 'reserve', 'closing'];
    const run = await read(undefined, { table: { delimiter: ';', columns, venue: 'Quayside Lots' } });
    expect(findDomain(store, 'a.org')).toMatchObject({
      venue: 'Quayside Lots',
      price_minor: 120_000,
      currency: 'GBP',
      bids: 4,
    });
    expect(listingsOf(store, findDomain(store, 'a.org')!.id)[0]).toMatchObject({ kind: 'auction', reserve: 'unmet' });
    expect(readSource(store, run.sourceId)).toMatchObject({ rows_read: 3, rows_taken: 2, rows_set_aside: 1 });
    expect([...eachReject(store, run.sourceId)]).toMatchObject([{ line: 4 }]);
  });

  it('whose feed is of our kind is recognised as such', async () => {
    server.body = feed(auction);
    const look = await lookAtVenue(store, trial(store, 'venue', {}).context.settings, server.url);
    expect(look).toEqual({ kind: 'feed', venue: 'Saltmarch Exchange', currency: 'EUR', listings: 1 });
  });
});
