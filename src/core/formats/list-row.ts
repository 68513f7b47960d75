import type { Reserve } from '../listings/listing';
import type { RegistrableDomain } from '../names/domain';
import type { Price } from './amounts';
import { LIST_FIELDS, type ListField, type ListingKind } from './list-fields';
import { bareCell, joinedName, namesIn } from './list-names';
import { cellReader, DATES, type ListPhase, saysNothing } from './list-values';
import { Tally } from './tally';
import { type Told, UNTOLD } from './told';

/** A figure of somebody else, under its own name. */
export interface Score {
  name: string;
  value: number;
  /** What the highest is; null: it does not say. */
  of: number | null;
}

/** What one row of a list says of a domain. Times in ms since 1970 UTC; null: not said or not readable. */
export interface ListRow {
  domain: string;
  ending: string;
  phase: ListPhase | null;
  dropAt: number | null;
  closingAt: number | null;
  priceMinor: number | null;
  currency: string | null;
  bids: number | null;
  kind: ListingKind | null;
  venue: string | null;
  reserve: Reserve | null;
  /** Address of the listing's page. */
  url: string | null;
  registeredAt: number | null;
  expiresAt: number | null;
  firstSeenAt: number | null;
  registrar: string | null;
  backlinks: number | null;
  referringDomains: number | null;
  /** Visits a month, keywords that it is found by, the best position among them, and the price of a click in minor units. */
  traffic: number | null;
  keywords: number | null;
  position: number | null;
  cpcMinor: number | null;
  cpcCurrency: string | null;
  scores: Score[];
  /** ISO 639-1 and ISO 3166-1, or as the list writes it. */
  language: string | null;
  country: string | null;
}

/** A row that says nothing of its name. */
export const NOTHING_SAID: Omit<ListRow, 'domain' | 'ending'> = {
  phase: null, dropAt: null, closingAt: null, priceMinor: null, currency: null, bids: null, kind: null, venue: null, reserve: null,
  url: null, registeredAt: null, expiresAt: null, firstSeenAt: null, registrar: null, backlinks: null, referringDomains: null,
  traffic: null, keywords: null, position: null, cpcMinor: null, cpcCurrency: null, scores: [], language: null, country: null,
}; // biome-ignore format: a list of names
/** Texts that come again and again in a column mean the same each time; forgotten when full. */
const MOST_REMEMBERED = 20_000;
function remembering<T>(read: (text: string) => T): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    let value = known.get(text);
    if (value === undefined) {
      value = read(text);
      if (known.size >= MOST_REMEMBERED) known.clear();
      known.set(text, value);
    }
    return value;
  };
}
/** Reads rows by the given columns. */
export class ListRowReader {
  readonly tally: Tally;
  private readonly places: Record<ListField, number[]>;
  private readonly readers: ((text: string) => unknown)[];
  private readonly isNamesOnly: boolean;

  /** @param told how the columns are written; absent: nothing is known of it. @param now what times that are left count from. */
  constructor(
    private readonly columns: readonly ListField[],
    private readonly told: readonly Told[] = [],
    now: number | null = null,
  ) {
    this.places = Object.fromEntries(
      LIST_FIELDS.map((field) => [field, columns.flatMap((one, n) => (one === field ? [n] : []))]),
    ) as Record<ListField, number[]>;
    this.readers = columns.map((field, n) => remembering(cellReader(field, told[n] ?? UNTOLD, now)));
    this.tally = new Tally(columns.length);
    this.isNamesOnly = columns.length > 1 && columns.every((field) => field === 'domain');
  }

  /** @returns what the row says of its first name, or the reason why it makes no sense. */
  read(fields: string[]): ListRow | string {
    const rows = this.readAll(fields);
    return typeof rows === 'string' ? rows : rows[0];
  }

  /**
   * @returns a row for each name that stands in it, or the reason why it makes no sense. Values beside the names that cannot be read are
   * null, and tallied: the names are worth keeping without them.
   */
  readAll(fields: string[]): ListRow[] | string {
    const names = this.namesOf(fields);
    if (typeof names === 'string') return names;
    const price = this.said<Price>('price', fields);
    const currency =
      price === null ? null : (price.currency ?? this.said<string>('currency', fields) ?? this.toldCurrency());
    const click = this.said<Price>('cpc', fields);
    const said = {
      phase: this.said<ListPhase>('phase', fields),
      dropAt: this.said<number>('drop-date', fields),
      closingAt: this.said<number>('closing', fields),
      priceMinor: price?.minor ?? null,
      currency,
      bids: this.said<number>('bids', fields),
      kind: this.said<ListingKind>('kind', fields),
      venue: this.said<string>('venue', fields),
      reserve: this.said<Reserve>('reserve', fields),
      url: this.said<string>('listing-url', fields),
      registeredAt: this.said<number>('registered', fields),
      expiresAt: this.said<number>('expires', fields),
      firstSeenAt: this.said<number>('first-seen', fields),
      registrar: this.said<string>('registrar', fields),
      backlinks: this.said<number>('backlinks', fields),
      referringDomains: this.said<number>('referring-domains', fields),
      traffic: this.said<number>('traffic', fields),
      keywords: this.said<number>('keywords', fields),
      position: this.said<number>('position', fields),
      cpcMinor: click?.minor ?? null,
      cpcCurrency: click?.currency ?? null,
      scores: this.scoresOf(fields),
      language: this.said<string>('language', fields),
      country: this.said<string>('country', fields),
    };
    return names.map(({ name, ending }) => ({ domain: name, ending, ...said }));
  }

  private namesOf(fields: string[]): RegistrableDomain[] | string {
    const { places } = this;
    const texts = this.isNamesOnly ? fields : places.domain.map((n) => fields[n] ?? '');
    const tld = places.tld.length > 0 ? (fields[places.tld[0]] ?? '') : '';
    const names: RegistrableDomain[] = [];
    for (const text of texts) {
      if (text.trim() === '') continue;
      const joined = tld === '' ? null : joinedName(text, tld);
      if (joined) names.push(joined);
      else names.push(...namesIn(text));
    }
    if (names.length > 0) return names;
    const text = texts.find((one) => one.trim() !== '')?.trim();
    if (text === undefined) return 'the domain column is empty';
    return text.includes('\ufffd')
      ? "the name holds bytes that are not in the file's character set"
      : `"${text.slice(0, 80)}" is no registrable domain`;
  }

  /** The value of a field: of several columns the first that has one, of a day and a time both. */
  private said<T>(field: ListField, fields: string[]): T | null {
    const places = this.places[field];
    if (places.length === 0) return null;
    if (places.length > 1 && DATES.has(field)) {
      const text = places
        .map((n) => bareCell(fields[n] ?? ''))
        .filter(Boolean)
        .join(' ');
      return this.valueOf(places[0], text) as T | null;
    }
    let found: T | null = null;
    for (const n of places) {
      const value = this.valueOf(n, bareCell(fields[n] ?? '')) as T | null;
      if (found === null) found = value;
    }
    return found;
  }

  private valueOf(column: number, text: string): unknown {
    if (saysNothing(this.columns[column], text)) {
      this.tally.note(column, text, 'empty');
      return null;
    }
    const value = this.readers[column](text);
    this.tally.note(column, text, value === null ? 'notUnderstood' : 'read');
    return value;
  }

  private scoresOf(fields: string[]): Score[] {
    return this.places.score.flatMap((n) => {
      const value = this.valueOf(n, bareCell(fields[n] ?? '')) as number | null;
      const { title, scale } = this.told[n] ?? UNTOLD;
      return value === null ? [] : [{ name: title, value, of: scale }];
    });
  }

  private toldCurrency(): string | null {
    for (const n of this.places.price) if (this.told[n]?.currency) return this.told[n].currency;
    return null;
  }
}
/** Reads one row by the given columns, as ListRowReader does. */
export function readListRow(fields: string[], columns: readonly ListField[]): ListRow | string {
  return new ListRowReader(columns).read(fields);
}
