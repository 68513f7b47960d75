import type { Knex } from 'knex';

/** What lists state of a domain in figures, packed (core/formats/list-figures.ts), and when they did last; the places of scores by their names. */
const STATEMENTS = [
  'ALTER TABLE sightings ADD COLUMN figures TEXT',
  'ALTER TABLE sightings ADD COLUMN figures_at INTEGER',
  'CREATE TABLE score_names (place INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE)',
];

export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
