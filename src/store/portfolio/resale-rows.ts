import type { ResaleState } from '../../core/selling/resale';
import type { Store } from '../base/database';
import { all, camel, columns, first, knex, pick, run } from '../base/query';

export const RESALES = columns('resales', 'r');

const DOMAINS = columns('domains', 'd');

export const resales = () =>
  pick(knex('resales as r').join('domains as d', 'd.id', 'r.domain_id'), {
    ...camel(
      RESALES,
      'id',
      'key',
      'domain_id',
      'venue',
      'ask_minor',
      'floor_minor',
      'currency',
      'text',
      'state',
      'final_minor',
      'fees_minor',
      'reason',
      'attempts',
      'created_at',
      'answered_at',
      'ended_at',
    ),
    ...camel(DOMAINS, 'name'),
  });

/** An owned domain that is offered at a venue. Amounts in minor units of `currency`; times in ms since 1970 UTC. */
export interface Resale {
  id: number;
  key: string;
  domainId: number;
  name: string;
  venue: string;
  askMinor: number;
  /** The least it is let go for; the venue is not told. */
  floorMinor: number;
  currency: string;
  text: string;
  state: ResaleState;
  finalMinor: number | null;
  feesMinor: number | null;
  reason: string | null;
  attempts: number;
  createdAt: number;
  answeredAt: number | null;
  endedAt: number | null;
}

export function readResale(store: Store, id: number): Resale | null {
  return first(store, resales().where('r.id', id)) ?? null;
}

/** Sales of a domain, the latest first. */
export function resalesOf(store: Store, domainId: number): Resale[] {
  return all(store, resales().where('r.domain_id', domainId).orderBy('r.id', 'desc'));
}

/** All that are not over. */
export function openResales(store: Store): Resale[] {
  return all(store, resales().whereNull('r.ended_at').orderBy('r.id'));
}

export interface ResaleLine {
  at: number;
  who: string;
  words: string;
}

/** Everything that was done or heard of a sale, in order. */
export function resaleLog(store: Store, id: number): ResaleLine[] {
  return all(store, knex('resale_events').select('at', 'who', 'words').where('resale_id', id).orderBy('id'));
}

export function tell(store: Store, id: number, who: string, words: string): void {
  run(store, knex('resale_events').insert({ resale_id: id, at: store.now(), who, words }));
}
