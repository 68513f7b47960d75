import type { Knex } from 'knex';

/** Times are ms since 1970 UTC. Domain names are A-labels. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  `CREATE TABLE settings (key TEXT PRIMARY KEY, value TEXT NOT NULL) WITHOUT ROWID`,
  `CREATE TABLE briefs (
    id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, purpose TEXT NOT NULL, subject_words TEXT NOT NULL,
    trusted_sites TEXT NOT NULL, excluded_endings TEXT NOT NULL, budget_minor INTEGER, currency TEXT NOT NULL,
    created_at INTEGER NOT NULL)`,
  `CREATE TABLE sources (
    id INTEGER PRIMARY KEY, kind TEXT NOT NULL, name TEXT NOT NULL, detail TEXT NOT NULL, created_at INTEGER NOT NULL,
    rows_read INTEGER NOT NULL DEFAULT 0, rows_taken INTEGER NOT NULL DEFAULT 0, rows_repeated INTEGER NOT NULL DEFAULT 0,
    rows_excluded INTEGER NOT NULL DEFAULT 0, rows_set_aside INTEGER NOT NULL DEFAULT 0,
    domains_new INTEGER NOT NULL DEFAULT 0)`,
  `CREATE TABLE jobs (
    id INTEGER PRIMARY KEY, kind TEXT NOT NULL, source_id INTEGER REFERENCES sources(id), params TEXT NOT NULL,
    state TEXT NOT NULL, progress TEXT, checkpoint TEXT, error TEXT, next TEXT,
    created_at INTEGER NOT NULL, started_at INTEGER, finished_at INTEGER)`,
  `CREATE INDEX jobs_state ON jobs(state)`,
  // One row per domain with its current values; what they were taken from stands in the tables below.
  `CREATE TABLE domains (
    id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, ending TEXT NOT NULL,
    length INTEGER NOT NULL, hyphens INTEGER NOT NULL, digits INTEGER NOT NULL,
    in_pool INTEGER NOT NULL DEFAULT 0, added_at INTEGER NOT NULL,
    phase TEXT NOT NULL DEFAULT 'unknown', phase_confidence REAL, phase_reason TEXT, phase_source TEXT, phase_at INTEGER,
    registered_at INTEGER, expires_at INTEGER, changed_at INTEGER, registrar TEXT, statuses TEXT, name_servers TEXT,
    record_at INTEGER, record_source TEXT,
    first_seen_at INTEGER, last_seen_at INTEGER, captures INTEGER, captures_by_year TEXT, past_at INTEGER, past_source TEXT,
    backlinks INTEGER, referring_domains INTEGER, strength REAL, trust REAL, spam_risk INTEGER, links_at INTEGER,
    trust_path TEXT,
    listing TEXT, venue TEXT, price_minor INTEGER, currency TEXT, bids INTEGER, closing_at INTEGER, drop_at INTEGER,
    listing_url TEXT, listing_at INTEGER)`,
  `CREATE TABLE sightings (
    domain_id INTEGER NOT NULL REFERENCES domains(id), source_id INTEGER NOT NULL REFERENCES sources(id),
    at INTEGER NOT NULL, line INTEGER, said TEXT NOT NULL, PRIMARY KEY (domain_id, source_id)) WITHOUT ROWID`,
  `CREATE TABLE rejects (
    source_id INTEGER NOT NULL REFERENCES sources(id), line INTEGER NOT NULL, reason TEXT NOT NULL, sample TEXT NOT NULL,
    PRIMARY KEY (source_id, line)) WITHOUT ROWID`,
  `CREATE TABLE checks (
    id INTEGER PRIMARY KEY, domain_id INTEGER NOT NULL REFERENCES domains(id), at INTEGER NOT NULL, step TEXT NOT NULL,
    server TEXT NOT NULL, outcome TEXT NOT NULL, detail TEXT NOT NULL, elapsed_ms INTEGER NOT NULL)`,
  `CREATE INDEX checks_domain ON checks(domain_id, at)`,
  // Followed from one registrable domain to another; seq makes writing a link twice harmless.
  `CREATE TABLE links (
    to_id INTEGER NOT NULL, source_id INTEGER NOT NULL, seq INTEGER NOT NULL, from_id INTEGER NOT NULL,
    from_url TEXT NOT NULL, to_url TEXT NOT NULL, anchor TEXT NOT NULL, nofollow INTEGER NOT NULL, indexable INTEGER NOT NULL,
    first_seen_at INTEGER, last_seen_at INTEGER, PRIMARY KEY (to_id, source_id, seq)) WITHOUT ROWID`,
  `CREATE TABLE spam_cards (domain_id INTEGER PRIMARY KEY, at INTEGER NOT NULL, card TEXT NOT NULL)`,
  `CREATE TABLE measurements (
    id INTEGER PRIMARY KEY, at INTEGER NOT NULL, nodes INTEGER NOT NULL, edges INTEGER NOT NULL, steps INTEGER NOT NULL,
    change REAL NOT NULL, trusted TEXT NOT NULL, floor REAL NOT NULL)`,
  `CREATE TABLE pages (
    id INTEGER PRIMARY KEY, source_id INTEGER NOT NULL, url TEXT NOT NULL, site TEXT NOT NULL, host TEXT NOT NULL,
    depth INTEGER NOT NULL, hops INTEGER NOT NULL DEFAULT 0, state TEXT NOT NULL DEFAULT 'queued', status INTEGER,
    content_type TEXT, charset TEXT, title TEXT, noindex INTEGER, nofollow INTEGER, canonical TEXT, note TEXT,
    bytes INTEGER, links_out INTEGER, fetched_at INTEGER)`,
  `CREATE UNIQUE INDEX pages_url ON pages(source_id, url)`,
  `CREATE INDEX pages_queue ON pages(source_id, site, depth, id) WHERE state = 'queued'`,
  `CREATE INDEX pages_state ON pages(source_id, state)`,
  `CREATE TABLE sieves (
    id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, view TEXT NOT NULL, created_at INTEGER NOT NULL)`,
  `CREATE TABLE shortlist (
    domain_id INTEGER NOT NULL REFERENCES domains(id), brief_id INTEGER NOT NULL REFERENCES briefs(id),
    stage TEXT NOT NULL, maximum_bid_minor INTEGER, note TEXT NOT NULL DEFAULT '', added_at INTEGER NOT NULL,
    changed_at INTEGER NOT NULL, PRIMARY KEY (brief_id, domain_id)) WITHOUT ROWID`,
];
