import type { Knex } from 'knex';

/** What a view of a kept sieve has let through, for when the view comes back: by undoing that it was changed or deleted. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`CREATE TABLE forgotten_hits (
    sieve_id INTEGER NOT NULL, view TEXT NOT NULL, domain_id INTEGER NOT NULL, at INTEGER NOT NULL, fresh INTEGER NOT NULL,
    forgotten_at INTEGER NOT NULL, PRIMARY KEY (sieve_id, view, domain_id)) WITHOUT ROWID`);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
