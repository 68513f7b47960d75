import type { Knex } from 'knex';

/** What the person decided about domains, kept sieves that run by themselves, and what the index needs to start from its snapshot. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // current mark; null: not judged. until: when a snoozed domain comes back
  `ALTER TABLE domains ADD COLUMN judged TEXT`,
  `ALTER TABLE domains ADD COLUMN judged_reason TEXT`,
  `ALTER TABLE domains ADD COLUMN judged_at INTEGER`,
  `ALTER TABLE domains ADD COLUMN snoozed_until INTEGER`,
  `CREATE INDEX domains_snoozed ON domains(snoozed_until) WHERE snoozed_until IS NOT NULL`,
  `CREATE TABLE tags (id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, created_at INTEGER NOT NULL)`,
  `CREATE TABLE domain_tags (
    domain_id INTEGER NOT NULL REFERENCES domains(id), tag_id INTEGER NOT NULL REFERENCES tags(id),
    PRIMARY KEY (domain_id, tag_id)) WITHOUT ROWID`,
  `CREATE INDEX domain_tags_tag ON domain_tags(tag_id)`,
  // what was done to many or few domains at a time, and what each was before, so that it can be undone
  `CREATE TABLE actions (
    id INTEGER PRIMARY KEY, at INTEGER NOT NULL, kind TEXT NOT NULL, detail TEXT NOT NULL, domains INTEGER NOT NULL DEFAULT 0,
    undone_at INTEGER)`,
  `CREATE TABLE action_rows (
    action_id INTEGER NOT NULL REFERENCES actions(id), domain_id INTEGER NOT NULL, was TEXT,
    PRIMARY KEY (action_id, domain_id)) WITHOUT ROWID`,
  `CREATE INDEX action_rows_domain ON action_rows(domain_id)`,
  // long lists of words that conditions name by number
  `CREATE TABLE word_lists (id INTEGER PRIMARY KEY, hash TEXT NOT NULL UNIQUE, words TEXT NOT NULL, created_at INTEGER NOT NULL)`,
  // runs: off, daily (at minutes after midnight) or after imports
  `ALTER TABLE sieves ADD COLUMN runs TEXT NOT NULL DEFAULT 'off'`,
  `ALTER TABLE sieves ADD COLUMN run_minute INTEGER NOT NULL DEFAULT 360`,
  `ALTER TABLE sieves ADD COLUMN in_digest INTEGER NOT NULL DEFAULT 1`,
  `ALTER TABLE sieves ADD COLUMN shortlist_brief INTEGER REFERENCES briefs(id)`,
  `ALTER TABLE sieves ADD COLUMN measures INTEGER NOT NULL DEFAULT 0`,
  `ALTER TABLE sieves ADD COLUMN next_at INTEGER`,
  `ALTER TABLE sieves ADD COLUMN last_at INTEGER`,
  `ALTER TABLE sieves ADD COLUMN last_total INTEGER`,
  `ALTER TABLE sieves ADD COLUMN last_new INTEGER`,
  // domains a kept sieve has let through; fresh: 0 there at the first run, 1 new, 2 new once and seen
  `CREATE TABLE sieve_hits (
    sieve_id INTEGER NOT NULL REFERENCES sieves(id) ON DELETE CASCADE, domain_id INTEGER NOT NULL, at INTEGER NOT NULL,
    fresh INTEGER NOT NULL, PRIMARY KEY (sieve_id, domain_id)) WITHOUT ROWID`,
  `CREATE INDEX sieve_hits_fresh ON sieve_hits(sieve_id, at) WHERE fresh = 1`,
  // domains whose row changed since the index was last written down, and the number of that snapshot
  `CREATE TABLE pool_changes (domain_id INTEGER PRIMARY KEY)`,
  `CREATE TABLE pool_stamp (id INTEGER PRIMARY KEY CHECK (id = 1), stamp INTEGER NOT NULL)`,
  `INSERT INTO pool_stamp VALUES (1, 0)`,
  `CREATE TRIGGER domains_changed AFTER UPDATE ON domains BEGIN
    INSERT OR IGNORE INTO pool_changes VALUES (new.id); END`,
  `CREATE TRIGGER domains_gone AFTER DELETE ON domains BEGIN
    INSERT OR IGNORE INTO pool_changes VALUES (old.id); END`,
];
