import type { Knex } from 'knex';

/** Captures in files of web archives (WARC) that stand on this machine, and how far each file was read. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `CREATE TABLE warc_files (
      id INTEGER PRIMARY KEY, path TEXT NOT NULL UNIQUE, size INTEGER NOT NULL, modified_at INTEGER NOT NULL, read_to INTEGER NOT NULL,
      captures INTEGER NOT NULL, problem TEXT)`,
  );
  await knex.raw(
    `CREATE TABLE warc_captures (
      domain TEXT NOT NULL, at INTEGER NOT NULL, url TEXT NOT NULL, status INTEGER NOT NULL, file_id INTEGER NOT NULL REFERENCES warc_files(id),
      offset INTEGER NOT NULL, PRIMARY KEY (domain, at, url)) WITHOUT ROWID`,
  );
  await knex.raw('CREATE INDEX warc_captures_file ON warc_captures(file_id)');
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
