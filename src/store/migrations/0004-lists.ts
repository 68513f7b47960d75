import type { Knex } from 'knex';

/** Lists: their rows as they stood, many packed together; a sighting by a list holds its line, and '' for what was said. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // rows: core/formats/raw-rows, deflated
  `CREATE TABLE raw_rows (
    source_id INTEGER NOT NULL, first_line INTEGER NOT NULL, rows BLOB NOT NULL, PRIMARY KEY (source_id, first_line)) WITHOUT ROWID`,
];
