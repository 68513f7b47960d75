import { LIST_PHASES, type ListBatch } from '../core/formats/list-batch';
import { LISTING_KINDS } from '../core/formats/list-fields';
import type { Listing } from '../core/listings/listing';
import type { Rates } from '../core/listings/rates';
import { type Store, statement } from './database';
import { putDomain, type SaidValues, takeSaid } from './domains';
import { takeOffer } from './listings';

export interface WrittenBatch {
  /** Domain of each row. */
  ids: Uint32Array;
  /** 1 where the row added the domain to the database. */
  isNew: Uint8Array;
  taken: number;
  /** Rows whose domain the source had named before. */
  repeated: number;
  domainsNew: number;
}

/** Rows a statement: calling the driver once for many saves a third of the time. */
const DOMAINS_AT_ONCE = 16;
const SIGHTINGS_AT_ONCE = 200;
const DOMAIN_COLUMNS = 18;
const INSERT_DOMAINS = `INSERT OR IGNORE INTO domains (id, name, ending, length, hyphens, digits, added_at, phase, phase_source,
  drop_at, registered_at, listing, venue, price_minor, currency, bids, closing_at, listing_at, in_pool) VALUES `;
const ONE_DOMAIN = `(${'?,'.repeat(DOMAIN_COLUMNS)}1)`;
const INSERT_SIGHTINGS = 'INSERT OR IGNORE INTO sightings (domain_id, source_id, at, line, said) VALUES ';
const ONE_SIGHTING = `(?,?,?,?,'')`;
const FULL_DOMAINS = insertMany(INSERT_DOMAINS, ONE_DOMAIN, DOMAINS_AT_ONCE);
const FULL_SIGHTINGS = insertMany(INSERT_SIGHTINGS, ONE_SIGHTING, SIGHTINGS_AT_ONCE);

function insertMany(insert: string, row: string, rows: number): string {
  return insert + new Array(rows).fill(row).join(',');
}

/**
 * Writes a part of a list: domains that are not known are added with what the list says, the others brought up to date, and
 * every domain gets its sighting. What a row said is kept apart (putRawRows). Call inside a write transaction.
 */
export function putListBatch(
  store: Store,
  sourceId: number,
  batch: ListBatch,
  venue: string | null,
  at: number,
  rates: Rates,
): WrittenBatch {
  const writer = new BatchWriter(store, sourceId, batch, venue, at, rates);
  for (let start = 0; start < batch.count; start += DOMAINS_AT_ONCE)
    writer.putDomains(start, Math.min(batch.count, start + DOMAINS_AT_ONCE));
  for (let start = 0; start < batch.count; start += SIGHTINGS_AT_ONCE)
    writer.putSightings(start, Math.min(batch.count, start + SIGHTINGS_AT_ONCE));
  return writer.written;
}

class BatchWriter {
  readonly written: WrittenBatch;
  private readonly names: Buffer;
  private readonly source: string;
  private nextId: number;

  constructor(
    private readonly store: Store,
    private readonly sourceId: number,
    private readonly batch: ListBatch,
    private readonly venue: string | null,
    private readonly at: number,
    private readonly rates: Rates,
  ) {
    const { nameBytes, count } = batch;
    this.names = Buffer.from(nameBytes.buffer, nameBytes.byteOffset, nameBytes.byteLength);
    this.source = `source ${sourceId}`;
    const last = statement(store.raw, 'SELECT coalesce(max(id), 0) FROM domains').pluck().get() as number;
    this.nextId = last + 1;
    this.written = { ids: new Uint32Array(count), isNew: new Uint8Array(count), taken: 0, repeated: 0, domainsNew: 0 };
  }

  /** Adds rows in one statement with ids of their own; where some were known already, finds out which. */
  putDomains(start: number, end: number): void {
    const { store, written } = this;
    const rows = end - start;
    const first = this.nextId;
    const values: unknown[] = [];
    for (let r = start; r < end; r++) this.pushDomain(values, r, first + r - start);
    const sql = rows === DOMAINS_AT_ONCE ? FULL_DOMAINS : insertMany(INSERT_DOMAINS, ONE_DOMAIN, rows);
    const { changes } = statement(store.raw, sql).run(values);
    this.nextId += rows;
    if (changes === rows) {
      written.domainsNew += rows;
      for (let r = start; r < end; r++) {
        written.ids[r] = first + r - start;
        written.isNew[r] = 1;
      }
      return;
    }
    const find = statement(store.raw, 'SELECT id FROM domains WHERE name = ?').pluck();
    for (let r = start; r < end; r++) {
      const name = this.nameOf(r);
      const id = find.get(name) as number;
      written.ids[r] = id;
      if (id === first + r - start) {
        written.domainsNew++;
        written.isNew[r] = 1;
      } else this.takeKnown(r, name, id);
    }
  }

  /** A domain that was known already gets what the row says. */
  private takeKnown(r: number, name: string, id: number): void {
    const { store, batch, at } = this;
    if (putDomain(store, { name, ending: this.word(batch.ending[r]) ?? '' }, true, at).isNew) this.written.domainsNew++;
    takeSaid(store, id, this.valuesOf(r));
    const offer = this.offerOf(r);
    if (offer) takeOffer(store, id, offer, at, this.rates);
  }

  putSightings(start: number, end: number): void {
    const { store, batch, written, sourceId, at } = this;
    const rows = end - start;
    const values: unknown[] = [];
    for (let r = start; r < end; r++) values.push(written.ids[r], sourceId, at, batch.line[r]);
    const sql = rows === SIGHTINGS_AT_ONCE ? FULL_SIGHTINGS : insertMany(INSERT_SIGHTINGS, ONE_SIGHTING, rows);
    const { changes } = statement(store.raw, sql).run(values);
    written.taken += changes;
    written.repeated += rows - changes;
  }

  private pushDomain(values: unknown[], r: number, id: number): void {
    const { batch, at } = this;
    const phase = batch.phase[r];
    const listing = batch.listing[r];
    values.push(
      id,
      this.nameOf(r),
      this.word(batch.ending[r]),
      batch.length[r],
      batch.hyphens[r],
      batch.digits[r],
      at,
      phase === 0 ? 'unknown' : LIST_PHASES[phase - 1],
      phase === 0 ? null : this.source,
      known(batch.dropAt[r]),
      known(batch.registeredAt[r]),
      listing === 0 ? null : LISTING_KINDS[listing - 1],
      listing === 0 ? null : (this.word(batch.venue[r]) ?? this.venue),
      known(batch.priceMinor[r]),
      this.word(batch.currency[r]),
      known(batch.bids[r]),
      known(batch.closingAt[r]),
      listing === 0 ? null : at,
    );
  }

  private valuesOf(r: number): SaidValues {
    const { batch } = this;
    return {
      phase: batch.phase[r] === 0 ? null : LIST_PHASES[batch.phase[r] - 1],
      dropAt: known(batch.dropAt[r]),
      registeredAt: known(batch.registeredAt[r]),
      source: this.source,
    };
  }

  private offerOf(r: number): Listing | null {
    const { batch } = this;
    if (batch.listing[r] === 0) return null;
    return {
      kind: LISTING_KINDS[batch.listing[r] - 1],
      venue: this.word(batch.venue[r]) ?? this.venue,
      state: 'open',
      priceMinor: known(batch.priceMinor[r]),
      currency: this.word(batch.currency[r]),
      reserve: null,
      bids: known(batch.bids[r]),
      closingAt: known(batch.closingAt[r]),
      steps: [],
      url: null,
    };
  }

  private nameOf(r: number): string {
    const { nameEnd } = this.batch;
    return this.names.toString('latin1', r === 0 ? 0 : nameEnd[r - 1], nameEnd[r]);
  }

  private word(code: number): string | null {
    return code === 0 ? null : this.batch.words[code - 1];
  }
}

function known(value: number): number | null {
  return Number.isNaN(value) ? null : value;
}
