import { createHash } from 'node:crypto';
import { type Deadline, type DeadlineFacts, deadlinesOf } from '../../core/deadlines/deadline';
import type { CalendarEntry } from '../../core/formats/calendar';
import { isOpen, nextStep, priceAt } from '../../core/listings/listing';
import { type Store, statement, write } from '../base/database';
import { type DomainRow, readDomains } from '../domains/domains';
import { listingsOf } from '../offers/listings';
import { inquiriesFor } from '../portfolio/resales';
import { windowOf } from './verdicts';

/** Domains whose deadlines are the person's own: watched by hand or shortlisted, and where wanted near misses. */
const MINE = `SELECT id AS mineId FROM domains WHERE watched_at IS NOT NULL AND (watch_reason = 'by hand' OR ?)
  UNION SELECT domain_id FROM shortlist UNION SELECT domain_id FROM holdings WHERE status NOT IN ('sold', 'given up')`;
const DAY = 86_400_000;
/** Entries that are not expected any more are told of for so long. */
const CANCELLED_MS = 7 * DAY;

/** Deadlines of domains that are watched or shortlisted, in order of time. */
export function myDeadlines(store: Store, now: number, withNearMisses: boolean): Deadline[] {
  const ids = statement(store.raw, MINE).all(withNearMisses ? 1 : 0) as { mineId: number }[];
  return deadlinesFor(
    store,
    ids.map(({ mineId }) => mineId),
    now,
  );
}

/** Deadlines of some domains, in order of time. */
export function deadlinesFor(store: Store, ids: readonly number[], now: number): Deadline[] {
  return readDomains(store, [...ids])
    .flatMap((row) => deadlinesOf(factsOf(store, row, now), now))
    .sort((a, b) => a.at - b.at || a.uid.localeCompare(b.uid));
}

function factsOf(store: Store, row: DomainRow, now: number): DeadlineFacts {
  const money = (minor: number | null, currency: string | null) =>
    minor === null
      ? ''
      : `, ${(minor / 100).toLocaleString('en-GB', { maximumFractionDigits: 2 })} ${currency ?? ''}`.trimEnd();
  const listings = row.listing === null ? [] : listingsOf(store, row.id).filter((listing) => isOpen(listing, now));
  return {
    domainId: row.id,
    name: row.name,
    isTaken: row.phase === 'active',
    expiresAt: row.expires_at,
    window: windowOf(row),
    listedDropAt: row.drop_at,
    askAt: row.ask_at,
    recordSource: row.record_source,
    renewal: renewalOf(store, row.id, money),
    inquiries: inquiriesFor(store, row.id).map(({ offerMinor, currency, ...asked }) => ({
      ...asked,
      words: offerMinor === null ? '' : `, offers ${money(offerMinor, currency).slice(2)}`,
    })),
    listings: listings.map((listing) => {
      const step = nextStep(listing, now);
      return {
        kind: listing.kind,
        words: `${listing.kind.replace('-', ' ')}${money(priceAt(listing, now), listing.currency)}`,
        venue: listing.venue,
        sourceId: listing.sourceId,
        closingAt: listing.closingAt,
        nextStep: step && { at: step.at, words: `to${money(step.priceMinor, listing.currency).slice(1)}` },
      };
    }),
  };
}

function renewalOf(
  store: Store,
  domainId: number,
  money: (minor: number | null, currency: string | null) => string,
): DeadlineFacts['renewal'] {
  const row = statement(
    store.raw,
    `SELECT h.renews_at AS renewsAt, h.renewal_minor AS renewalMinor, b.currency AS renewalCurrency FROM holdings h
     LEFT JOIN briefs b ON b.id = h.brief_id WHERE h.domain_id = ? AND h.status NOT IN ('sold', 'given up')`,
  ).get(domainId) as
    | { renewsAt: number | null; renewalMinor: number | null; renewalCurrency: string | null }
    | undefined;
  if (!row || row.renewsAt === null) return null;
  return { at: row.renewsAt, words: money(row.renewalMinor, row.renewalCurrency).replace(/^, /, ' for ') };
}

interface Kept {
  uid: string;
  hash: string;
  sequence: number;
  changed_at: number;
  entry: string;
  cancelled_at: number | null;
}

/**
 * Deadlines as calendar entries with their sequence: higher by one whenever time or words have changed since the calendar was last
 * asked for. What is gone before its time stays for a week, cancelled.
 */
export function calendarEntries(store: Store, deadlines: readonly Deadline[], now: number): CalendarEntry[] {
  const { raw } = store;
  return write(store, () => {
    const kept = new Map((raw.prepare('SELECT * FROM calendar_entries').all() as Kept[]).map((row) => [row.uid, row]));
    const put = statement(raw, 'INSERT OR REPLACE INTO calendar_entries VALUES (?, ?, ?, ?, ?, ?)');
    const entries = deadlines.map(({ uid, kind, at, until, name, words, origin }): CalendarEntry => {
      const entry = { uid, kind, at, until, name, words, origin };
      const text = JSON.stringify(entry);
      const hash = createHash('sha256').update(text).digest('hex').slice(0, 16);
      const before = kept.get(uid);
      kept.delete(uid);
      if (before?.hash === hash && before.cancelled_at === null)
        return { ...entry, sequence: before.sequence, changedAt: before.changed_at, isCancelled: false };
      const sequence = before ? before.sequence + 1 : 0;
      put.run(uid, hash, sequence, now, text, null);
      return { ...entry, sequence, changedAt: now, isCancelled: false };
    });
    const drop = statement(raw, 'DELETE FROM calendar_entries WHERE uid = ?');
    for (const row of kept.values()) {
      const entry = JSON.parse(row.entry) as Omit<CalendarEntry, 'sequence' | 'changedAt' | 'isCancelled'>;
      const isOver = (entry.until ?? entry.at) < now || (row.cancelled_at ?? now) < now - CANCELLED_MS;
      if (isOver) {
        drop.run(row.uid);
        continue;
      }
      const isNew = row.cancelled_at === null;
      const sequence = row.sequence + (isNew ? 1 : 0);
      if (isNew) put.run(row.uid, row.hash, sequence, now, row.entry, now);
      entries.push({ ...entry, sequence, changedAt: isNew ? now : row.changed_at, isCancelled: true });
    }
    return entries;
  });
}
