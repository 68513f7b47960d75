import type { Knex } from 'knex';

/** Who put a name on a shortlist; `you` for those that stood there before, and without a name. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw("ALTER TABLE shortlist ADD COLUMN added_by TEXT NOT NULL DEFAULT 'you'");
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
