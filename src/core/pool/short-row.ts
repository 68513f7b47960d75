import type { DomainView } from './domain-view';
import { SHOWN_NUMBERS, type ShownNumber } from './facts';

/** What a row can carry beside its number and its name. */
export type RowField = Exclude<keyof DomainView, 'id' | 'name'>;

/**
 * A row with some of its fields, for a way over which many go. Left out is what `whole` puts back: what is not known, not so or empty,
 * what was not judged, a name that reads as it is stored, and its ending; and the currency of no price. The reasons of an expected drop
 * stand in the dossier.
 */
export type ShortRow = Pick<DomainView, 'id' | 'name'> & Partial<DomainView>;

const isNothing = (value: unknown) => value === null || value === false || (Array.isArray(value) && value.length === 0);

export function shortened(row: ShortRow): ShortRow {
  const { id, name } = row;
  const short: Record<string, unknown> = { id, name };
  const usual = { ...USUAL, display: name, ending: endingOf(name) } as Record<string, unknown>;
  for (const [field, value] of Object.entries(row))
    if (!isNothing(value) && value !== usual[field]) short[field] = value;
  if (row.window) short.window = { ...row.window, reasons: [] };
  if (row.priceMinor === null) delete short.homeCurrency;
  return short as unknown as ShortRow;
}

const endingOf = (name: string) => name.slice(name.indexOf('.') + 1);
const USUAL = { phase: 'unknown', judged: 'not-yet' } as const;

/** What a field is where its row has it not. */
const NOTHING = {
  ...(Object.fromEntries(SHOWN_NUMBERS.map((fact) => [fact, null])) as Record<ShownNumber, null>),
  display: null, ending: null, phase: null, phaseReason: null, phaseSource: null, phaseAt: null, isUnasked: false, isOwn: false,
  registeredAt: null, expiresAt: null, dropAt: null, window: null, watched: null, firstSeenAt: null, capturesByYear: null,
  pastAt: null, pastSource: null, countFrom: null, language: null, subject: null, area: null, subjectConfidence: null,
  forwardsTo: null, forwardsNow: false, strengthWith: null, capturesAt: null, capturesRead: null, referrersAt: null, linksAt: null,
  listing: null, venue: null, priceMinor: null, currency: null, homeMinor: null, homeCurrency: null, closingAt: null,
  listingUrl: null, listingAt: null, registrar: null, lastSeenAt: null, addedAt: null, length: null, recordAt: null, judged: null,
  judgedReason: null, judgedAt: null, snoozedUntil: null, shortlisted: false, starts: [], matches: [], sayability: null,
  nameSubject: null, freshIn: [],
} as const satisfies Record<RowField, null | false | readonly never[]>; // biome-ignore format: a list of names

export const ROW_FIELDS = Object.keys(NOTHING) as [RowField, ...RowField[]];

/** The row that was shortened: fields that were not asked for are unknown in it. */
export function whole(row: ShortRow): DomainView {
  const named = { display: row.name, ending: endingOf(row.name) };
  return { ...NOTHING, ...USUAL, ...named, ...row } as unknown as DomainView;
}
