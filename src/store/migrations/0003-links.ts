import type { Knex } from 'knex';

/**
 * Links in the order of their source, so that the links of one page lie together and a write touches few pages of the file;
 * who links to a domain is found by a narrow index. The number of a link is unique in its source.
 */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  `ALTER TABLE links RENAME TO links_before`,
  `CREATE TABLE links (
    source_id INTEGER NOT NULL, seq INTEGER NOT NULL, to_id INTEGER NOT NULL, from_id INTEGER NOT NULL,
    from_url TEXT NOT NULL, to_url TEXT NOT NULL, anchor TEXT NOT NULL, nofollow INTEGER NOT NULL, indexable INTEGER NOT NULL,
    first_seen_at INTEGER, last_seen_at INTEGER, unindexed TEXT, PRIMARY KEY (source_id, seq)) WITHOUT ROWID`,
  `INSERT OR REPLACE INTO links
   SELECT source_id, seq, to_id, from_id, from_url, to_url, anchor, nofollow, indexable, first_seen_at, last_seen_at, unindexed
   FROM links_before ORDER BY source_id, seq, last_seen_at`,
  `DROP TABLE links_before`,
  `CREATE INDEX links_to ON links(to_id, from_id)`,
];
