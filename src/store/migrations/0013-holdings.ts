import type { Knex } from 'knex';

/** What is done with what is owned: pages of one's own, and where old addresses move. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  `CREATE TABLE own_pages (
    url TEXT PRIMARY KEY, title TEXT NOT NULL, text TEXT NOT NULL, source TEXT NOT NULL, taken_at INTEGER NOT NULL) WITHOUT ROWID`,
  // decided rules; to_url null: gone
  `CREATE TABLE redirects (
    domain_id INTEGER NOT NULL REFERENCES domains(id), from_path TEXT NOT NULL, to_url TEXT, decided_at INTEGER NOT NULL,
    PRIMARY KEY (domain_id, from_path)) WITHOUT ROWID`,
  // what came in from a domain, and what it cost beside orders: sold, parked, renewed. Minor units of the currency; income positive
  `CREATE TABLE holding_entries (
    id INTEGER PRIMARY KEY, domain_id INTEGER NOT NULL REFERENCES domains(id), at INTEGER NOT NULL, kind TEXT NOT NULL,
    amount_minor INTEGER NOT NULL, currency TEXT NOT NULL, words TEXT NOT NULL, removed_at INTEGER)`,
  `CREATE INDEX holding_entries_domain ON holding_entries(domain_id)`,
  // what is planned with it, and how it stands
  `ALTER TABLE holdings ADD COLUMN plan TEXT NOT NULL DEFAULT 'undecided'`,
  `ALTER TABLE holdings ADD COLUMN status TEXT NOT NULL DEFAULT 'owned'`,
];
