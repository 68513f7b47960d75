import type { DomainView } from './domain-view';
import { SHOWN_NUMBERS, type ShownNumber } from './facts';

/** What a row can carry beside its number and its name. */
export type RowField = Exclude<keyof DomainView, 'id' | 'name'>;

/** A row with some of its fields. */
export type PartRow = Pick<DomainView, 'id' | 'name'> & Partial<DomainView>;

/**
 * The cells of one field, in the order of the rows; where few values come again and again, these once and the place of each row's. A cell
 * that says nothing (not known, not so, empty) is null, as is the display of a name that reads as it is stored.
 */
export type Cells<V> = (V | null)[] | { values: (V | null)[]; at: number[] };

/**
 * Rows field by field: for a way over which many go it is half as long as row by row. Fields without a word on any row are not there;
 * the reasons of an expected drop stand in the dossier.
 */
export interface RowColumns {
  id: number[];
  name: string[];
  fields: { [F in RowField]?: Cells<DomainView[F]> };
}

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
  nameSubject: null, stated: null, freshIn: [],
} as const satisfies Record<RowField, null | false | readonly never[]>; // biome-ignore format: a list of names

export const ROW_FIELDS = Object.keys(NOTHING) as [RowField, ...RowField[]];

const saysNothing = (value: unknown) =>
  value === undefined || value === null || value === false || (Array.isArray(value) && value.length === 0);

function cellOf(row: PartRow, field: RowField): unknown {
  if (field === 'window') return row.window ? { ...row.window, reasons: [] } : null;
  if (field === 'display' && row.display === row.name) return null;
  return saysNothing(row[field]) ? null : row[field];
}

export function columnsOfRows(rows: readonly PartRow[], fields: readonly RowField[]): RowColumns {
  const found: Partial<Record<RowField, Cells<unknown>>> = {};
  for (const field of fields) {
    const cells = rows.map((row) => cellOf(row, field));
    const values = [...new Set(cells)];
    if (values.length === 0 || (values.length === 1 && values[0] === null)) continue;
    const placeOf = new Map(values.map((value, place) => [value, place]));
    found[field] =
      values.length * 2 > cells.length ? cells : { values, at: cells.map((value) => placeOf.get(value) ?? 0) };
  }
  return { id: rows.map(({ id }) => id), name: rows.map(({ name }) => name), fields: found as RowColumns['fields'] };
}

/** The rows again: fields that were not asked for are unknown in them. */
export function rowsOfColumns({ id, name, fields }: RowColumns): DomainView[] {
  const columns = Object.entries(fields) as [RowField, Cells<unknown>][];
  return name.map((one, place) => {
    const row: Record<string, unknown> = { ...NOTHING, ...PLAIN, id: id[place], name: one, display: one };
    for (const [field, cells] of columns) {
      const cell = Array.isArray(cells) ? cells[place] : cells.values[cells.at[place]];
      if (cell !== null) row[field] = cell;
    }
    row.ending = one.slice(one.indexOf('.') + 1);
    return row as unknown as DomainView;
  });
}

const PLAIN = { phase: 'unknown', judged: 'not-yet' } as const;
