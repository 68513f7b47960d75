import { z } from 'zod';
import { SpamCardSchema } from '../../core/spam/card-schema';
import type { SpamCard } from '../../core/spam/scorecard';
import { type Store, write } from '../base/database';
import { first, fromJson, knex, prepared, run } from '../base/query';

export interface DomainMeasure {
  id: number;
  backlinks: number;
  referringDomains: number;
  strength: number | null;
  trust: number | null;
  trustPath: string[] | null;
  readers: number | null;
}

const MEASURE = prepared((row: Omit<DomainMeasure, 'trustPath'> & { trustPath: string | null; at: number }) =>
  knex('domains').where('id', row.id).update({
    backlinks: row.backlinks,
    referring_domains: row.referringDomains,
    strength: row.strength,
    trust: row.trust,
    trust_path: row.trustPath,
    readers: row.readers,
    links_at: row.at,
  }),
);

/** Writes measured values. Call inside a write transaction. */
export function putMeasure(store: Store, { trustPath, ...measure }: DomainMeasure, at: number): void {
  MEASURE.run(store, { ...measure, trustPath: trustPath ? JSON.stringify(trustPath) : null, at });
}

const RISK = prepared((row: { id: number; risk: number | null }) =>
  knex('domains').where('id', row.id).update({ spam_risk: row.risk }),
);
const CARD = prepared((row: { id: number; at: number; card: string }) =>
  knex('spam_cards')
    .insert({ domain_id: row.id, at: row.at, card: row.card })
    .onConflict('domain_id')
    .merge(['at', 'card']),
);

/** Keeps a scorecard and its risk. Call inside a write transaction. */
export function putSpamCard(store: Store, domainId: number, card: SpamCard, at: number): void {
  RISK.run(store, { id: domainId, risk: card.risk });
  CARD.run(store, { id: domainId, at, card: JSON.stringify(card) });
}

export interface Measurement {
  at: number;
  nodes: number;
  edges: number;
  steps: number;
  change: number;
  trusted: string[];
  floor: number;
}

export function addMeasurement(store: Store, measurement: Measurement): void {
  write(store, () =>
    run(
      store,
      knex('measurements').insert({
        at: measurement.at,
        nodes: measurement.nodes,
        edges: measurement.edges,
        steps: measurement.steps,
        change: measurement.change,
        trusted: JSON.stringify(measurement.trusted),
        floor: measurement.floor,
      }),
    ),
  );
}

export function lastMeasurement(store: Store): Measurement | null {
  const row = first(
    store,
    knex('measurements')
      .select('at', 'nodes', 'edges', 'steps', 'change', 'trusted', 'floor')
      .orderBy('id', 'desc')
      .limit(1),
  );
  return row ? { ...row, trusted: fromJson(z.array(z.string()), row.trusted) } : null;
}

export function spamCardOf(store: Store, domainId: number): { at: number; card: SpamCard } | null {
  const row = first(store, knex('spam_cards').select('at', 'card').where('domain_id', domainId));
  return row ? { at: row.at, card: fromJson(SpamCardSchema, row.card) } : null;
}
