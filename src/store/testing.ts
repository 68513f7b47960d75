import type { Listing } from '../core/listings/listing';
import { registrableDomain } from '../core/names/domain';
import { type Store, write } from './base/database';
import { knex, run } from './base/query';
import type { Row } from './base/schema';
import { readRates } from './base/settings';
import { type DomainRow, findDomain, putDomain } from './domains/domains';
import { putCapture, type StoredCapture } from './links/captures';
import { type NewLink, putLink } from './links/links';
import { updateBestListing } from './offers/best-listing';
import { putListing } from './offers/listings';
import { type Brief, type BriefInput, listBriefs, saveBrief } from './shortlist/briefs';
import { addSource, listSources } from './sources/sources';

/** A brief for selling on, in euros, where nothing else is said. */
export function briefOfTest(store: Store, part: Partial<BriefInput> = {}): Brief {
  const id = saveBrief(store, {
    name: 'Hives',
    purpose: 'resell',
    subjectWords: ['hive'],
    trustedSites: [],
    excludedEndings: [],
    budgetMinor: 500_000,
    currency: 'EUR',
    ...part,
  });
  const brief = listBriefs(store).find((one) => one.id === id);
  if (!brief) throw new Error('the brief was not kept');
  return brief;
}

/** A domain of the pool, with columns set as a look at it would set them. */
export function domainOfTest(store: Store, name: string, values: Partial<Row<'domains'>> = {}): DomainRow {
  const domain = registrableDomain(name);
  if (!domain) throw new Error(`"${name}" is no registrable domain`);
  const { id } = write(store, () => putDomain(store, domain, true, store.now()));
  if (Object.keys(values).length > 0) run(store, knex('domains').where({ id }).update(values));
  const row = findDomain(store, name);
  if (!row) throw new Error(`${name} was not kept`);
  return row;
}

/** A source of a kind and name: made where it is missing. */
export function sourceOfTest(store: Store, kind: Parameters<typeof addSource>[1], name: string): number {
  return listSources(store).find((source) => source.name === name)?.id ?? addSource(store, kind, name, {});
}

/** An open offer at a price, seen now. */
export function listingOfTest(store: Store, domainId: number, part: Partial<Listing> & { venue: string }): void {
  const source = sourceOfTest(store, 'venue', part.venue);
  const plain = {
    kind: 'buy-now', state: 'open', priceMinor: 1000, currency: 'EUR', reserve: null, bids: null, closingAt: null, steps: [], url: null,
  } as const; // biome-ignore format: one listing
  write(store, () => {
    putListing(store, domainId, source, { ...plain, ...part, steps: part.steps ?? [] }, store.now());
    updateBestListing(store, domainId, store.now(), readRates(store));
  });
}

let links = 0;

/** A link from the front page of one domain to that of another. */
export function linkOfTest(store: Store, from: string, to: string, part: Partial<NewLink> = {}): void {
  const [fromRow, toRow] = [from, to].map((name) => findDomain(store, name) ?? domainOfTest(store, name));
  write(store, () =>
    putLink(store, {
      toId: toRow.id,
      fromId: fromRow.id,
      sourceId: part.sourceId ?? sourceOfTest(store, 'links', 'Tidewater Links'),
      seq: ++links,
      fromUrl: `https://${from}/`,
      toUrl: `https://${to}/`,
      anchor: '',
      nofollow: false,
      indexable: true,
      firstSeenAt: null,
      lastSeenAt: null,
      ...part,
    }),
  );
}

/** A capture of content that was read. */
export function captureOfTest(store: Store, domain: DomainRow, part: Partial<StoredCapture>): void {
  write(store, () =>
    putCapture(
      store,
      domain.id,
      {
        at: store.now(),
        url: `http://${domain.name}/`,
        status: 200,
        kind: 'content',
        marks: [],
        title: '',
        language: null,
        subject: null,
        subjectConfidence: null,
        terms: new Map(),
        links: [],
        redirectTo: null,
        fingerprint: null,
        ...part,
      },
      store.now(),
    ),
  );
}
