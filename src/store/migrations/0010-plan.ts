import type { Knex } from 'knex';

/** What a bid plan is made from: worth and fees of what is shortlisted, and how sure a brief wants to be. */
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
];
