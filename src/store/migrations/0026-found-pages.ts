import type { Knex } from 'knex';

/** What services that are described said when they were asked which pages show, list or mention a domain: the last answer to each question. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `CREATE TABLE found_pages (
      domain_id INTEGER NOT NULL REFERENCES domains(id), item TEXT NOT NULL, at INTEGER NOT NULL, who TEXT NOT NULL, total INTEGER,
      pages TEXT NOT NULL, PRIMARY KEY (domain_id, item)) WITHOUT ROWID`,
  );
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
