import type { Knex } from 'knex';

/** What registrars ask, orders that are sent twice and are one, what was taken off a shortlist, and acts that can be undone. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // what a registrar asked for a name, in minor units
  `ALTER TABLE checks ADD COLUMN price_minor INTEGER`,
  `ALTER TABLE checks ADD COLUMN currency TEXT`,
  // under which key its sender knows an order; what comes again under it is the same order
  `ALTER TABLE orders ADD COLUMN client_key TEXT`,
  `CREATE UNIQUE INDEX orders_client_key ON orders(client_key) WHERE client_key IS NOT NULL`,
  // entries as they were when they were taken off, for when they are put on again
  `CREATE TABLE shortlist_removed (
    brief_id INTEGER NOT NULL REFERENCES briefs(id) ON DELETE CASCADE, domain_id INTEGER NOT NULL REFERENCES domains(id),
    entry TEXT NOT NULL, removed_at INTEGER NOT NULL, PRIMARY KEY (brief_id, domain_id)) WITHOUT ROWID`,
  // what was changed by hand: what it was, what it became (rows as JSON), and when it was undone
  `CREATE TABLE acts (
    id INTEGER PRIMARY KEY, at INTEGER NOT NULL, kind TEXT NOT NULL, words TEXT NOT NULL, changes TEXT NOT NULL, undone_at INTEGER)`,
];
