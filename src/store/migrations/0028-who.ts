import type { Knex } from 'knex';

/** Who did what a person does: the name that somebody signed in by; `you` for what was done before, and without a name. */
export async function up(knex: Knex): Promise<void> {
  for (const table of ['notes', 'diligence', 'mark_reviews', 'actions', 'acts'])
    await knex.raw(`ALTER TABLE ${table} ADD COLUMN who TEXT NOT NULL DEFAULT 'you'`);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
