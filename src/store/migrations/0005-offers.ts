import type { Knex } from 'knex';

/** Offers at venues with what changed of them; watched folders and addresses; imports that can be undone. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // what lists offer stands in their rows; this is what feeds say, kept up to date. next_at: when it changes by itself
  `CREATE TABLE listings (
    domain_id INTEGER NOT NULL REFERENCES domains(id), source_id INTEGER NOT NULL REFERENCES sources(id), kind TEXT NOT NULL,
    venue TEXT, state TEXT NOT NULL, price_minor INTEGER, currency TEXT, reserve TEXT, bids INTEGER, closing_at INTEGER,
    steps TEXT NOT NULL, url TEXT, first_at INTEGER NOT NULL, seen_at INTEGER NOT NULL, ended_at INTEGER, next_at INTEGER,
    PRIMARY KEY (domain_id, source_id, kind)) WITHOUT ROWID`,
  // a venue's page: what is open, the next to change first, and how many of each kind
  `CREATE INDEX listings_open ON listings(source_id, next_at) WHERE state = 'open'`,
  `CREATE INDEX listings_kinds ON listings(source_id, kind) WHERE state = 'open'`,
  `CREATE INDEX listings_next ON listings(next_at) WHERE next_at IS NOT NULL`,
  `CREATE TABLE listing_changes (
    id INTEGER PRIMARY KEY, domain_id INTEGER NOT NULL, source_id INTEGER NOT NULL, kind TEXT NOT NULL, at INTEGER NOT NULL,
    what TEXT NOT NULL, was, now_is)`,
  `CREATE INDEX listing_changes_domain ON listing_changes(domain_id, at)`,
  `CREATE INDEX listing_changes_source ON listing_changes(source_id, at)`,
  // open offers of a domain, where there may be more than one
  `ALTER TABLE domains ADD COLUMN offers INTEGER`,
  // undone: how many domains left the pool and how many stayed, as JSON
  `ALTER TABLE sources ADD COLUMN undone_at INTEGER`,
  `ALTER TABLE sources ADD COLUMN undone TEXT`,
  `CREATE TABLE watches (
    id INTEGER PRIMARY KEY, kind TEXT NOT NULL, target TEXT NOT NULL, name TEXT NOT NULL, options TEXT NOT NULL,
    source_id INTEGER REFERENCES sources(id), every_ms INTEGER NOT NULL, is_on INTEGER NOT NULL DEFAULT 1, next_at INTEGER NOT NULL,
    last_at INTEGER, outcome TEXT, etag TEXT, modified TEXT, hash TEXT, created_at INTEGER NOT NULL)`,
  // files of a watched folder that were taken, as they were then
  `CREATE TABLE watched_files (
    watch_id INTEGER NOT NULL REFERENCES watches(id), name TEXT NOT NULL, bytes INTEGER NOT NULL, modified_at REAL NOT NULL,
    hash TEXT NOT NULL, source_id INTEGER, PRIMARY KEY (watch_id, name)) WITHOUT ROWID`,
];
