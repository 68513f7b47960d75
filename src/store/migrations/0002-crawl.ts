import type { Knex } from 'knex';

/** Crawls that can be left alone: what a page is, classes of pages, sites, traps, what was set aside, dead targets. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // kind: as core/crawl/content judges; mark: hash of the text; class_id and via_class: what the frontier is ordered by;
  // attempts and retry_at: a host that could not be reached is asked again
  `ALTER TABLE pages ADD COLUMN class_id INTEGER NOT NULL DEFAULT 0`,
  `ALTER TABLE pages ADD COLUMN via_class INTEGER NOT NULL DEFAULT 0`,
  `ALTER TABLE pages ADD COLUMN kind TEXT`,
  `ALTER TABLE pages ADD COLUMN mark INTEGER`,
  `ALTER TABLE pages ADD COLUMN letters INTEGER`,
  `ALTER TABLE pages ADD COLUMN readers INTEGER`,
  `ALTER TABLE pages ADD COLUMN contact TEXT`,
  `ALTER TABLE pages ADD COLUMN attempts INTEGER NOT NULL DEFAULT 0`,
  `ALTER TABLE pages ADD COLUMN finds INTEGER NOT NULL DEFAULT 0`,
  `DROP INDEX pages_queue`,
  `CREATE INDEX pages_queue ON pages(class_id, depth, id) WHERE state = 'queued'`,
  // ids of the pages inside that a page links to, as differences in variable-length bytes; redirect: its target has the same depth
  `CREATE TABLE page_edges (page_id INTEGER PRIMARY KEY, source_id INTEGER NOT NULL, redirect INTEGER NOT NULL, targets BLOB NOT NULL)`,
  `CREATE INDEX page_edges_source ON page_edges(source_id)`,
  `CREATE TABLE crawl_classes (
    id INTEGER PRIMARY KEY, source_id INTEGER NOT NULL, site TEXT NOT NULL, shape TEXT NOT NULL, word TEXT NOT NULL,
    cue TEXT NOT NULL, pages REAL NOT NULL DEFAULT 0, gave REAL NOT NULL DEFAULT 0, UNIQUE (source_id, site, shape))`,
  // state: reading, dropped by the person, blocking, unreachable
  `CREATE TABLE crawl_sites (
    source_id INTEGER NOT NULL, site TEXT NOT NULL, seed TEXT NOT NULL, depth INTEGER, state TEXT NOT NULL DEFAULT 'reading',
    note TEXT, nonsense_mark INTEGER, probed INTEGER NOT NULL DEFAULT 0, PRIMARY KEY (source_id, site)) WITHOUT ROWID`,
  `CREATE TABLE crawl_traps (
    source_id INTEGER NOT NULL, site TEXT NOT NULL, kind TEXT NOT NULL, reason TEXT NOT NULL, example TEXT NOT NULL,
    addresses INTEGER NOT NULL, PRIMARY KEY (source_id, site, kind)) WITHOUT ROWID`,
  // domains that a source named and that went no further, with the stage's reason
  `CREATE TABLE set_aside (
    source_id INTEGER NOT NULL, name TEXT NOT NULL, reason TEXT NOT NULL, mentions INTEGER NOT NULL DEFAULT 1,
    PRIMARY KEY (source_id, name)) WITHOUT ROWID`,
  `CREATE TABLE crawl_samples (
    source_id INTEGER NOT NULL, at INTEGER NOT NULL, pages INTEGER NOT NULL, queued INTEGER NOT NULL,
    domains INTEGER NOT NULL, finds INTEGER NOT NULL, PRIMARY KEY (source_id, at)) WITHOUT ROWID`,
  `ALTER TABLE links ADD COLUMN unindexed TEXT`,
  `ALTER TABLE domains ADD COLUMN readers INTEGER`,
  `CREATE TABLE dead_targets (
    url TEXT PRIMARY KEY, domain_id INTEGER NOT NULL REFERENCES domains(id), outcome TEXT NOT NULL, status INTEGER,
    checked_at INTEGER NOT NULL) WITHOUT ROWID`,
  `CREATE INDEX dead_targets_domain ON dead_targets(domain_id)`,
  // trials, searches and page checks: their rows, as JSON, by the job that makes them
  `CREATE TABLE job_rows (
    job_id INTEGER NOT NULL REFERENCES jobs(id), seq INTEGER NOT NULL, row TEXT NOT NULL, PRIMARY KEY (job_id, seq)) WITHOUT ROWID`,
  `CREATE TABLE mappings (header TEXT PRIMARY KEY, kind TEXT NOT NULL, columns TEXT NOT NULL, used_at INTEGER NOT NULL) WITHOUT ROWID`,
];
