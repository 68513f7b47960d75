import { createHash } from 'node:crypto';
import { z } from 'zod';
import { DEADLINE_KINDS, type Deadline, type DeadlineFacts, deadlinesOf } from '../../core/deadlines/deadline';
import type { CalendarEntry } from '../../core/formats/calendar';
import { isOpen, nextStep, priceAt } from '../../core/listings/listing';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, fromJson, knex, orNull, pick, run } from '../base/query';
import type { Row } from '../base/schema';
import { type DomainRow, readDomains } from '../domains/domains';
import { listingsOf } from '../offers/listings';
import { inquiriesFor } from '../portfolio/inquiries';
import { windowOf } from './verdicts';

/** Domains whose deadlines are the person's own: watched by hand or shortlisted, and where wanted near misses; and what is owned. */
function mine(store: Store, withNearMisses: boolean): number[] {
  const watched = knex('domains').whereNotNull('watched_at').pluck('id');
  const owned = knex('holdings').whereNotIn('status', ['sold', 'given up']).pluck('domain_id');
  return [
    ...new Set([
      ...all(store, withNearMisses ? watched : watched.where('watch_reason', 'by hand')),
      ...all(store, knex('shortlist').pluck('domain_id')),
      ...all(store, owned),
    ]),
  ];
}

const HOLDINGS = columns('holdings', 'h');
const BRIEFS = columns('briefs', 'b');
const DAY = 86_400_000;
/** Entries that are not expected any more are told of for so long. */
const CANCELLED_MS = 7 * DAY;

/** Deadlines of domains that are watched or shortlisted, in order of time. */
export function myDeadlines(store: Store, now: number, withNearMisses: boolean): Deadline[] {
  return deadlinesFor(store, mine(store, withNearMisses), now);
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
  const row = first(
    store,
    pick(knex('holdings as h').leftJoin('briefs as b', 'b.id', 'h.brief_id'), {
      ...camel(HOLDINGS, 'renews_at', 'renewal_minor'),
      renewalCurrency: orNull(BRIEFS.currency),
    })
      .where('h.domain_id', domainId)
      .whereNotIn('h.status', ['sold', 'given up']),
  );
  if (!row || row.renewsAt === null) return null;
  return { at: row.renewsAt, words: money(row.renewalMinor, row.renewalCurrency).replace(/^, /, ' for ') };
}

const KeptEntry = z.object({
  uid: z.string(),
  kind: z.enum(DEADLINE_KINDS),
  at: z.number(),
  until: z.number().nullable(),
  name: z.string(),
  words: z.string(),
  origin: z.string(),
});

/**
 * Deadlines as calendar entries with their sequence: higher by one whenever time or words have changed since the calendar was last
 * asked for. What is gone before its time stays for a week, cancelled.
 */
export function calendarEntries(store: Store, deadlines: readonly Deadline[], now: number): CalendarEntry[] {
  return write(store, () => {
    const kept = new Map(all(store, knex('calendar_entries').select('*')).map((row) => [row.uid, row]));
    const put = (row: Row<'calendar_entries'>) =>
      run(store, knex('calendar_entries').insert(row).onConflict('uid').merge());
    const entries = deadlines.map(({ uid, kind, at, until, name, words, origin }): CalendarEntry => {
      const entry = { uid, kind, at, until, name, words, origin };
      const text = JSON.stringify(entry);
      const hash = createHash('sha256').update(text).digest('hex').slice(0, 16);
      const before = kept.get(uid);
      kept.delete(uid);
      if (before?.hash === hash && before.cancelled_at === null)
        return { ...entry, sequence: before.sequence, changedAt: before.changed_at, isCancelled: false };
      const sequence = before ? before.sequence + 1 : 0;
      put({ uid, hash, sequence, changed_at: now, entry: text, cancelled_at: null });
      return { ...entry, sequence, changedAt: now, isCancelled: false };
    });
    for (const row of kept.values()) {
      const entry = fromJson(KeptEntry, row.entry);
      const isOver = (entry.until ?? entry.at) < now || (row.cancelled_at ?? now) < now - CANCELLED_MS;
      if (isOver) {
        run(store, knex('calendar_entries').where('uid', row.uid).delete());
        continue;
      }
      const isNew = row.cancelled_at === null;
      const sequence = row.sequence + (isNew ? 1 : 0);
      if (isNew) put({ ...row, sequence, changed_at: now, cancelled_at: now });
      entries.push({ ...entry, sequence, changedAt: isNew ? now : row.changed_at, isCancelled: true });
    }
    return entries;
  });
}
