import type { Knex } from 'knex';

/** What a fit and a bid plan are made from: what a brief wants of names, languages and weights, how sure it wants to be; worth and fees of what is shortlisted. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // in minor units of the brief's currency; the range is meant to hold six times in ten
  `ALTER TABLE shortlist ADD COLUMN worth_low_minor INTEGER`,
  `ALTER TABLE shortlist ADD COLUMN worth_high_minor INTEGER`,
  `ALTER TABLE shortlist ADD COLUMN fees_minor INTEGER`,
  `ALTER TABLE briefs ADD COLUMN risk TEXT NOT NULL DEFAULT 'even'`,
  `ALTER TABLE briefs ADD COLUMN fees_minor INTEGER NOT NULL DEFAULT 1500`,
  `ALTER TABLE briefs ADD COLUMN required_words TEXT NOT NULL DEFAULT '[]'`,
  `ALTER TABLE briefs ADD COLUMN unwanted_words TEXT NOT NULL DEFAULT '[]'`,
  // ISO 639-1
  `ALTER TABLE briefs ADD COLUMN languages TEXT NOT NULL DEFAULT '[]'`,
  // what counts how much for the fit, as JSON; null: as the purpose has it
  `ALTER TABLE briefs ADD COLUMN weights TEXT`,
  // names that were sold, by lists; what worth is judged by
  `CREATE TABLE sales (
    id INTEGER PRIMARY KEY, name TEXT NOT NULL, price_minor INTEGER NOT NULL, currency TEXT, at INTEGER NOT NULL, venue TEXT,
    source TEXT NOT NULL, UNIQUE (name, at, price_minor))`,
];
