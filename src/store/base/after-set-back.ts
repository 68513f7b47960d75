import { z } from 'zod';
import { nextDaily } from '../../core/time/daily';
import { type Store, write } from './database';
import { all, knex, run, sql } from './query';
import { keepValue, readKept } from './settings';

const KEY = 'clock-seen';
const Seen = z.object({ at: z.number() });

/** The last moment that the clock is known to have shown, ms since 1970 UTC; null: none is. */
export const lastSeen = (store: Store): number | null => readKept(store, KEY, Seen)?.at ?? null;

export const keepSeen = (store: Store, at: number): void => keepValue(store, KEY, { at });

/**
 * What was to happen so long after something else happens so long after it still, though the clock was set back: looks at watched places,
 * venues and names, daily sieves, questions that wait, orders and sales that are asked after. What has a moment of its own (closings,
 * orders for then, what was snoozed until then) keeps it.
 *
 * @param byMs how far it was set back.
 */
export function afterSetBack(store: Store, byMs: number): void {
  const now = store.now();
  // not before now, and no sooner than it would have been
  const moved = (column: 'next_at' | 'waits_until' | 'ask_at') => sql<number>(`max(?, ${column} - ?)`, [now, byMs]);
  write(store, () => {
    run(
      store,
      knex('watches').update({
        next_at: sql<number>('min(next_at, max(?, next_at - ?), ? + every_ms)', [now, byMs, now]),
      }),
    );
    for (const { id, run_minute, next_at } of all(
      store,
      knex('sieves').where('runs', 'daily').select('id', 'run_minute', 'next_at'),
    )) {
      const next = nextDaily(run_minute, now);
      if (next_at !== null && next_at > next) run(store, knex('sieves').where('id', id).update({ next_at: next }));
    }
    run(
      store,
      knex('questions')
        .where('waits_until', '>', now)
        .update({ waits_until: moved('waits_until') }),
    );
    // a name is asked about too early rather than years too late: what it answers sets the next look
    run(
      store,
      knex('domains')
        .where('ask_at', '>', now)
        .update({ ask_at: moved('ask_at') }),
    );
    // an order that was not tried yet goes out when the person said
    run(
      store,
      knex('orders')
        .where('next_at', '>', now)
        .where((order) => order.whereNot('state', 'queued').orWhere('attempts', '>', 0))
        .update({ next_at: moved('next_at') }),
    );
    run(
      store,
      knex('resales')
        .where('next_at', '>', now)
        .update({ next_at: moved('next_at') }),
    );
  });
}
