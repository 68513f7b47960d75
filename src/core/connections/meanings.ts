import { parseCurrency, parsePrice, parseYesNo } from '../formats/amounts';
import type { ListField } from '../formats/list-fields';
import { plainText } from '../formats/plain-text';
import { registrableDomain } from '../names/domain';
import {
  type AnswerField,
  AVAILABILITY,
  type Availability,
  type Description,
  FIELD_LABELS,
  missingField,
  USE_SPECS,
} from './connection';
import type { ReadAnswer } from './read-answer';
import { AnswerFault } from './tree';

/** How services say whether a name can be had, in small letters and without marks. What is not among them says nothing. */
const USUAL: Record<Availability, ReadonlySet<string>> = {
  available: new Set(['available', 'avail', 'free', 'true', 'yes', '1', 'unregistered', 'not registered', 'can register', 'registrable', 'available for registration']),
  premium: new Set(['premium', 'available premium', 'premium available', 'premium name', 'premium domain']),
  reserved: new Set(['reserved', 'blocked', 'restricted', 'forbidden', 'not allowed', 'prohibited', 'withheld']),
  taken: new Set(['taken', 'registered', 'unavailable', 'not available', 'false', 'no', '0', 'in use', 'exists', 'occupied']),
}; // biome-ignore format: lists of words

/** A word as services are understood by: in small letters, without marks. */
export const folded = (text: string) =>
  text
    .toLowerCase()
    .replace(/[\s_.:;,!-]+/g, ' ')
    .trim();

/** Which of the four a word of a service says, by the description's own words first; null: neither knows it. */
export function availabilityOf(text: string, words: Description['words']): Availability | null {
  const word = folded(text);
  if (word === '') return null;
  const own = AVAILABILITY.find((one) => (words[one] ?? '').split(',').map(folded).includes(word));
  return own ?? AVAILABILITY.find((one) => USUAL[one].has(word)) ?? null;
}

/** Reads the fields of an answer by where a description says that they stand. */
export class FieldReader {
  constructor(
    private readonly description: Pick<Description, 'fields' | 'format' | 'isMinor'>,
    private readonly answer: ReadAnswer,
  ) {}

  get count(): number {
    return this.answer.count;
  }

  has(field: AnswerField): boolean {
    return this.placeOf(field) !== null;
  }

  text(entry: number, field: AnswerField): string {
    const place = this.placeOf(field);
    if (place === null) return '';
    if (place.in === 'fixed') return place.at;
    return place.in === 'answer' ? this.answer.whole(place.at) : this.answer.text(entry, place.at);
  }

  /** An amount as text in whole units, whatever the service counts in. */
  amount(entry: number, field: AnswerField): string {
    const text = this.text(entry, field);
    const isBare = /^\s*-?\d+\s*$/.test(text);
    return this.description.isMinor && isBare ? (Number(text) / 100).toFixed(2) : text;
  }

  private placeOf(field: AnswerField) {
    // the parts of a feed have their places
    if (this.description.format === 'feed')
      return field === 'url' || field === 'title' || field === 'summary'
        ? ({ in: 'entry', at: `/${field}` } as const)
        : null;
    return this.description.fields[field] ?? null;
  }
}

/** @throws AnswerFault where what its use cannot do without is not picked. */
export function readerFor(description: Description, answer: ReadAnswer): FieldReader {
  const missing = missingField(description);
  if (missing !== null) throw new AnswerFault(`say where “${FIELD_LABELS[missing]}” stands`, 'fields');
  return new FieldReader(description, answer);
}

/**
 * What an answer says to be wrong, by the places that the description names; null: nothing. A place counts where something stands in it, or
 * the very text that is wanted.
 */
export function errorIn({ errors }: Pick<Description, 'errors'>, answer: ReadAnswer): string | null {
  for (const { at, is } of errors) {
    const found = answer.whole(at);
    const isMeant = is === '' ? found !== '' && parseYesNo(found) !== false : folded(found) === folded(is);
    if (isMeant) return plainText(found, 200);
  }
  return null;
}

/** A registrar's word on a name. */
export interface AvailabilityReply {
  availability: Availability;
  /** Of the first year, and of each after it, in minor units; null: it does not say. */
  priceMinor: number | null;
  renewalMinor: number | null;
  /** ISO 4217; null: it does not say. */
  currency: string | null;
}

/** @param name as A-labels. @throws AnswerFault where it says nothing of this name that is understood: a doubt is no "available". */
export function readAvailability(description: Description, answer: ReadAnswer, name: string): AvailabilityReply {
  const reader = readerFor(description, answer);
  const entry = entryOf(reader, name);
  const word = reader.text(entry, 'availability');
  if (word === '') throw new AnswerFault('where availability stands there is nothing', 'fields');
  const said = availabilityOf(word, description.words);
  if (said === null)
    throw new AnswerFault(`“${plainText(word, 80)}” is no word of availability that is known`, 'words');
  const isPremium = reader.has('premium') && saysPremium(reader.text(entry, 'premium'));
  const currency = parseCurrency(reader.text(entry, 'currency')) ?? (description.currency || null);
  const price = parsePrice(reader.amount(entry, 'price'), '.');
  const renewal = parsePrice(reader.amount(entry, 'renewal'), '.');
  return {
    availability: said === 'available' && isPremium ? 'premium' : said,
    priceMinor: price?.minor ?? null,
    renewalMinor: renewal?.minor ?? null,
    currency: price === null && renewal === null ? null : (price?.currency ?? renewal?.currency ?? currency),
  };
}

const saysPremium = (text: string) => parseYesNo(text) ?? folded(text).includes('premium');

/** The entry that speaks of a name: the one that names it, or the only one where none is named. @throws AnswerFault when there is none. */
export function entryOf(reader: FieldReader, name: string): number {
  if (reader.count === 0) throw new AnswerFault('the answer holds no entry', 'entries');
  if (!reader.has('domain')) {
    if (reader.count === 1) return 0;
    throw new AnswerFault(`the answer holds ${reader.count} entries; say where the domain stands`, 'fields');
  }
  for (let entry = 0; entry < reader.count; entry++) if (aLabels(reader.text(entry, 'domain')) === name) return entry;
  throw new AnswerFault(`the answer is about ${plainText(reader.text(0, 'domain'), 80) || 'no domain'}`, 'fields');
}

const aLabels = (text: string) => registrableDomain(text)?.name ?? text.trim().toLowerCase();

/** A page that was found. */
export interface FoundPage {
  url: string;
  title: string;
  summary: string;
}

/** Pages of an answer, those without an address that can be opened left out and counted, and how many it says there are in all. */
export function readPages(
  description: Description,
  answer: ReadAnswer,
): { pages: FoundPage[]; total: number | null; aside: number } {
  const reader = readerFor(description, answer);
  const pages: FoundPage[] = [];
  let aside = 0;
  if (reader.has('url'))
    for (let entry = 0; entry < reader.count; entry++) {
      const url = reader.text(entry, 'url');
      if (!/^https?:\/\//i.test(url) || !URL.canParse(url)) aside++;
      else
        pages.push({
          url: new URL(url).href,
          title: plainText(reader.text(entry, 'title'), 300),
          summary: plainText(reader.text(entry, 'summary'), 1000),
        });
    }
  return { pages, total: reader.has('total') ? totalOf(reader) : null, aside };
}

/** The count that it states: the first number that stands there, like "About 1,240 results". */
function totalOf(reader: FieldReader): number | null {
  const text = /\d[\d.,\u00a0\u202f' ]*/.exec(reader.text(0, 'total'))?.[0];
  const digits = text?.replace(/\D/g, '') ?? '';
  return digits === '' || digits.length > 15 ? null : Number(digits);
}

/** A trademark as a register lists it. */
export interface FoundMark {
  mark: string;
  number: string;
  owner: string;
  /** Nice classes, as text. */
  classes: string;
  status: string;
}

/** Trademarks of an answer; entries without one are left out. @throws AnswerFault */
export function readFoundMarks(description: Description, answer: ReadAnswer): FoundMark[] {
  const reader = readerFor(description, answer);
  const marks: FoundMark[] = [];
  for (let entry = 0; entry < reader.count; entry++) {
    const text = (field: AnswerField, most: number) => plainText(reader.text(entry, field), most);
    const mark = text('mark', 120);
    if (mark !== '')
      marks.push({
        mark,
        // two of the same words are told apart by it
        number: text('number', 60) || `${mark} ${entry + 1}`,
        owner: text('owner', 120),
        classes: text('classes', 100),
        status: text('status', 60) || 'registered',
      });
  }
  return marks;
}

/** Fields of a description that are columns of a list, in the order of its use. */
export function listColumns({ use, fields }: Pick<Description, 'use' | 'fields'>): Exclude<ListField, 'ignore'>[] {
  return USE_SPECS[use].fields.filter(
    (field): field is Exclude<ListField, 'ignore'> => field in fields && isColumn(field),
  );
}

const OWN = new Set<AnswerField>(['availability', 'premium', 'renewal', 'url', 'title', 'summary', 'mark', 'number', 'owner', 'classes', 'status', 'total', 'result', 'reason', 'order-number']); // biome-ignore format: a list of names
const isColumn = (field: AnswerField): field is Exclude<ListField, 'ignore'> => !OWN.has(field);
const AMOUNTS = new Set<AnswerField>(['price', 'cpc']);

/** Entries as rows of a list with these columns. */
export function listRows(reader: FieldReader, columns: readonly Exclude<ListField, 'ignore'>[]): string[][] {
  return Array.from({ length: reader.count }, (_, entry) =>
    columns.map((field) => (AMOUNTS.has(field) ? reader.amount(entry, field) : reader.text(entry, field))),
  );
}

/** What columns are called: by the last part of where they stand, which is the name that a score goes by. */
export function listTitles(
  { fields }: Pick<Description, 'fields'>,
  columns: readonly Exclude<ListField, 'ignore'>[],
): string[] {
  return columns.map((field) => {
    const place = fields[field];
    const last = place === undefined || place.in === 'fixed' ? '' : (/([^/@#\s>]+)$/.exec(place.at)?.[1] ?? '');
    return field === 'score' && last !== '' ? last.replace(/[_-]+/g, ' ') : FIELD_LABELS[field];
  });
}
