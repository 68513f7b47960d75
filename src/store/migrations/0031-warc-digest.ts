import type { Knex } from 'knex';

/** What a capture found is known again by its sum. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw("ALTER TABLE warc_captures ADD COLUMN digest TEXT NOT NULL DEFAULT ''");
  await knex.raw("CREATE INDEX warc_captures_digest ON warc_captures (domain, digest, at) WHERE digest <> ''");
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
