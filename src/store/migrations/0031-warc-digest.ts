import type { Knex } from 'knex';

/** What a capture found is known again by its sum. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw("ALTER TABLE warc_captures ADD COLUMN digest TEXT NOT NULL DEFAULT ''");
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
