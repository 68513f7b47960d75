/**
 * The bulk import. Hand-written SQL: many rows a statement, what they share bound once. Through prepared queries, one by one, the domains and
 * sightings of 100,000 rows alone take 1.4 s: as long as the whole import of them, file and all (bench `list-import`).
 */
import { LIST_PHASES, type ListBatch } from '../../core/formats/list-batch';
import { LISTING_KINDS } from '../../core/formats/list-fields';
import { LIST_FIGURES, packFigures } from '../../core/formats/list-figures';
import type { Listing } from '../../core/listings/listing';
import type { Rates } from '../../core/listings/rates';
import type { Store } from '../base/database';
import { statement } from '../base/statement';
import { greatestId, putDomain, type SaidValues, takeSaid } from '../domains/domains';
import { takeOffer } from '../offers/best-listing';
import { putStatement } from './list-figures';

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

/**
 * Rows a statement: calling the driver once for many saves a third of the time. What many rows share is bound once for all of
 * them, by name: each value that is bound costs as much as storing two.
 */
const DOMAINS_AT_ONCE = 16;
const SIGHTINGS_AT_ONCE = 200;
/** Rows that share less than this are written one by one. */
const LEAST_SHARED = 4;
const INSERT_DOMAINS = `INSERT OR IGNORE INTO domains (name, ending, length, hyphens, digits, added_at, phase, phase_source,
  drop_at, registered_at, listing, venue, price_minor, currency, bids, closing_at, listing_at, in_pool) VALUES `;
const ONE_DOMAIN = '(?,@ending,?,?,?,@at,@phase,@phaseSource,?,?,@listing,@venue,?,@currency,?,?,@listingAt,1)';
const VALUES_A_DOMAIN = 9;
const INSERT_SIGHTINGS = 'INSERT OR IGNORE INTO sightings (domain_id, source_id, at, line, said, figures) VALUES ';
const ONE_SIGHTING = `(?,@source,@at,?,'',NULL)`;
const ONE_STATING = `(?,@source,@at,?,'',?)`;

/** Statements that insert so many rows, by their number; few numbers occur. */
function inserting(insert: string, row: string): (rows: number) => string {
  const texts: string[] = [];
  return (rows) => {
    texts[rows] ??= insert + new Array(rows).fill(row).join(',');
    return texts[rows];
  };
}
const insertDomains = inserting(INSERT_DOMAINS, ONE_DOMAIN);
const insertSightings = inserting(INSERT_SIGHTINGS, ONE_SIGHTING);
const insertStating = inserting(INSERT_SIGHTINGS, ONE_STATING);

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
  writer.putDomains();
  for (let start = 0; start < batch.count; start += SIGHTINGS_AT_ONCE)
    writer.putSightings(start, Math.min(batch.count, start + SIGHTINGS_AT_ONCE));
  return writer.written;
}

class BatchWriter {
  readonly written: WrittenBatch;
  private readonly names: Buffer;
  private readonly source: string;
  private nextId: number;
  private readonly isStating: boolean;
  /** Figures of the row at hand. */
  private readonly values = new Float64Array(LIST_FIGURES.length);

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
    this.isStating = batch.figures.some(({ length }) => length > 0);
    this.nextId = greatestId(store) + 1;
    this.written = { ids: new Uint32Array(count), isNew: new Uint8Array(count), taken: 0, repeated: 0, domainsNew: 0 };
  }

  /** Adds the domains, those that share most at a time; each that is new gets the id after the last. */
  putDomains(): void {
    for (const rows of this.groups()) {
      const shared = this.sharedBy(rows[0]);
      let start = 0;
      while (start < rows.length) {
        const left = rows.length - start;
        const many = left >= DOMAINS_AT_ONCE ? DOMAINS_AT_ONCE : left >= LEAST_SHARED ? LEAST_SHARED : 1;
        this.putSome(rows, start, start + many, shared);
        start += many;
      }
    }
  }

  /** Rows that have in common what few words say, each group in the order of the batch. */
  private groups(): Iterable<number[]> {
    const { batch } = this;
    const groups = new Map<number, number[]>();
    const words = batch.words.length + 1;
    for (let r = 0; r < batch.count; r++) {
      const kinds = batch.phase[r] * 16 + batch.listing[r];
      const key = ((kinds * words + batch.ending[r]) * words + batch.venue[r]) * words + batch.currency[r];
      const group = groups.get(key);
      if (group) group.push(r);
      else groups.set(key, [r]);
    }
    return groups.values();
  }

  private sharedBy(r: number): object {
    const { batch, at, source } = this;
    const phase = batch.phase[r];
    const listing = batch.listing[r];
    return {
      at,
      ending: this.word(batch.ending[r]),
      phase: phase === 0 ? 'unknown' : LIST_PHASES[phase - 1],
      phaseSource: phase === 0 ? null : source,
      listing: listing === 0 ? null : LISTING_KINDS[listing - 1],
      venue: listing === 0 ? null : (this.word(batch.venue[r]) ?? this.venue),
      currency: this.word(batch.currency[r]),
      listingAt: listing === 0 ? null : at,
    };
  }

  /** Adds rows in one statement; where some were known already, finds out which. */
  private putSome(rows: number[], start: number, end: number, shared: object): void {
    const { store, batch, written } = this;
    const many = end - start;
    const values: unknown[] = new Array(many * VALUES_A_DOMAIN);
    let at = 0;
    for (let i = start; i < end; i++) {
      const r = rows[i];
      values[at++] = this.nameOf(r);
      values[at++] = batch.length[r];
      values[at++] = batch.hyphens[r];
      values[at++] = batch.digits[r];
      values[at++] = known(batch.dropAt[r]);
      values[at++] = known(batch.registeredAt[r]);
      values[at++] = known(batch.priceMinor[r]);
      values[at++] = known(batch.bids[r]);
      values[at++] = known(batch.closingAt[r]);
    }
    const { changes } = statement(store.raw, insertDomains(many)).run(values, shared);
    written.domainsNew += changes;
    const find = statement(store.raw, 'SELECT id FROM domains WHERE name = ?').pluck();
    for (let i = start; i < end; i++) {
      const r = rows[i];
      const id = changes === many ? this.nextId : (find.get(this.nameOf(r)) as number);
      written.ids[r] = id;
      if (id === this.nextId) {
        written.isNew[r] = 1;
        this.nextId++;
      } else this.takeKnown(r, id);
    }
  }

  /** A domain that was known already gets what the row says. */
  private takeKnown(r: number, id: number): void {
    const { store, batch, at } = this;
    if (putDomain(store, { name: this.nameOf(r), ending: this.word(batch.ending[r]) ?? '' }, true, at).isNew)
      this.written.domainsNew++;
    takeSaid(store, id, this.valuesOf(r));
    const offer = this.offerOf(r);
    if (offer) takeOffer(store, id, offer, at, this.rates);
  }

  putSightings(start: number, end: number): void {
    const { store, batch, written, sourceId, at, isStating } = this;
    const rows = end - start;
    const values: unknown[] = new Array((isStating ? 3 : 2) * rows);
    let place = 0;
    for (let r = start; r < end; r++) {
      values[place++] = written.ids[r];
      values[place++] = batch.line[r];
      if (isStating) values[place++] = this.figuresOf(r);
    }
    const insert = isStating ? insertStating : insertSightings;
    const { changes } = statement(store.raw, insert(rows)).run(values, { source: sourceId, at });
    if (isStating && changes < rows) this.stateAgain(start, end);
    written.taken += changes;
    written.repeated += rows - changes;
  }

  /** A list that is read again, or names a domain twice, states what it says last. */
  private stateAgain(start: number, end: number): void {
    const { store, written, sourceId, at } = this;
    for (let r = start; r < end; r++) {
      const figures = written.isNew[r] === 1 ? null : this.figuresOf(r);
      if (figures !== null) putStatement(store, written.ids[r], sourceId, figures, at);
    }
  }

  private figuresOf(r: number): string | null {
    const { values, batch } = this;
    for (let n = 0; n < values.length; n++) values[n] = batch.figures[n].length > 0 ? batch.figures[n][r] : Number.NaN;
    return packFigures({ values, currency: batch.cpcCurrency.length > 0 ? this.word(batch.cpcCurrency[r]) : null });
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
