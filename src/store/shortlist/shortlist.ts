import { STAGES } from '../../core/bids/stages';
import { type Store, statement, write } from '../base/database';
import { type DomainRow, readDomains } from '../domains/domains';

export type Stage = (typeof STAGES)[number];

export interface ShortlistEntry {
  domainId: number;
  briefId: number;
  stage: Stage;
  maximumBidMinor: number | null;
  /** What it is worth to the person, in minor units of the brief's currency; the range is meant to hold six times in ten. */
  worthLowMinor: number | null;
  worthHighMinor: number | null;
  /** Paid beside the price; null: as the brief says. */
  feesMinor: number | null;
  note: string;
  addedAt: number;
  changedAt: number;
}

const COLUMNS = `domain_id AS domainId, brief_id AS briefId, stage, maximum_bid_minor AS maximumBidMinor,
  worth_low_minor AS worthLowMinor, worth_high_minor AS worthHighMinor, fees_minor AS feesMinor, note,
  added_at AS addedAt, changed_at AS changedAt`;

export function readShortlist(store: Store, briefId: number): (ShortlistEntry & { domain: DomainRow })[] {
  const entries = statement(
    store.raw,
    `SELECT ${COLUMNS} FROM shortlist WHERE brief_id = ? ORDER BY added_at, domain_id`,
  ).all(briefId) as ShortlistEntry[];
  return entries.flatMap((entry) => readDomains(store, [entry.domainId]).map((domain) => ({ ...entry, domain })));
}

/** Briefs a domain is shortlisted for. */
export function shortlistedFor(store: Store, domainId: number): ShortlistEntry[] {
  return statement(store.raw, `SELECT ${COLUMNS} FROM shortlist WHERE domain_id = ?`).all(domainId) as ShortlistEntry[];
}

/** Domain ids of a brief's shortlist. */
export function shortlistIds(store: Store, briefId: number): Set<number> {
  return new Set(
    statement(store.raw, 'SELECT domain_id FROM shortlist WHERE brief_id = ?').pluck().all(briefId) as number[],
  );
}

/** Adds domains that are not on it; what was said of one when it was last on it holds again. @returns the ids that were added. */
export function addToShortlist(store: Store, briefId: number, domainIds: number[]): number[] {
  return write(store, () => domainIds.filter((id) => putOnShortlist(store, briefId, id)));
}

const NEW = {
  stage: STAGES[0],
  maximumBidMinor: null,
  worthLowMinor: null,
  worthHighMinor: null,
  feesMinor: null,
  note: '',
};

/** Call inside a write transaction. @returns whether it was not on it. */
export function putOnShortlist(store: Store, briefId: number, domainId: number): boolean {
  const { raw } = store;
  const kept = statement(raw, 'SELECT entry FROM shortlist_removed WHERE brief_id = ? AND domain_id = ?')
    .pluck()
    .get(briefId, domainId) as string | undefined;
  const at = store.now();
  const before: Partial<ShortlistEntry> = kept === undefined ? {} : JSON.parse(kept);
  const isAdded = insertEntry(store, { ...NEW, addedAt: at, ...before, briefId, domainId, changedAt: at });
  if (isAdded)
    statement(raw, 'DELETE FROM shortlist_removed WHERE brief_id = ? AND domain_id = ?').run(briefId, domainId);
  return isAdded;
}

function insertEntry(store: Store, entry: ShortlistEntry): boolean {
  return (
    statement(
      store.raw,
      `INSERT OR IGNORE INTO shortlist (domain_id, brief_id, stage, maximum_bid_minor, worth_low_minor, worth_high_minor, fees_minor,
         note, added_at, changed_at)
       VALUES (@domainId, @briefId, @stage, @maximumBidMinor, @worthLowMinor, @worthHighMinor, @feesMinor, @note, @addedAt, @changedAt)`,
    ).run(entry).changes > 0
  );
}

/** What was said of it is kept for when it is put on again. Call inside a write transaction. @returns the entry as it was; null: it was not on it. */
export function takeOffShortlist(store: Store, briefId: number, domainId: number): ShortlistEntry | null {
  const before = statement(store.raw, `SELECT ${COLUMNS} FROM shortlist WHERE brief_id = ? AND domain_id = ?`).get(
    briefId,
    domainId,
  ) as ShortlistEntry | undefined;
  if (!before) return null;
  statement(store.raw, 'INSERT OR REPLACE INTO shortlist_removed VALUES (?, ?, ?, ?)').run(
    briefId,
    domainId,
    JSON.stringify(before),
    store.now(),
  );
  statement(store.raw, 'DELETE FROM shortlist WHERE brief_id = ? AND domain_id = ?').run(briefId, domainId);
  return before;
}

export interface ShortlistChange {
  stage?: Stage;
  maximumBidMinor?: number | null;
  worthLowMinor?: number | null;
  worthHighMinor?: number | null;
  feesMinor?: number | null;
  note?: string;
}

/** @returns the entry as it was, for undo; null when it is not on the list. */
export function changeShortlist(
  store: Store,
  briefId: number,
  domainId: number,
  change: ShortlistChange,
): ShortlistEntry | null {
  return write(store, () => {
    const before = statement(store.raw, `SELECT ${COLUMNS} FROM shortlist WHERE brief_id = ? AND domain_id = ?`).get(
      briefId,
      domainId,
    ) as ShortlistEntry | undefined;
    if (!before) return null;
    const after = { ...before, ...change };
    statement(
      store.raw,
      `UPDATE shortlist SET stage = @stage, maximum_bid_minor = @maximumBidMinor, worth_low_minor = @worthLowMinor,
       worth_high_minor = @worthHighMinor, fees_minor = @feesMinor, note = @note, changed_at = @at
       WHERE brief_id = @briefId AND domain_id = @domainId`,
    ).run({ ...after, at: store.now() });
    return before;
  });
}
