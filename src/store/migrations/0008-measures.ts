import type { Knex } from 'knex';

/** What measuring finds beyond counts of links: captures that were read, referrers that were looked at, trademarks, and points of the spam rules. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // one row a measured domain; what is not measured yet is null. Beside the domains, because most of them never get here
  `CREATE TABLE inspections (
    domain_id INTEGER PRIMARY KEY REFERENCES domains(id),
    strength_rank REAL, trust_rank REAL, strength_with REAL, spam_mass REAL,
    effective REAL, weighing TEXT, count_from TEXT, count_factor REAL,
    captures_at INTEGER, captures_read INTEGER, captures_partial INTEGER, content_years REAL, gaps INTEGER, drops INTEGER, drift REAL,
    subject TEXT, subject_confidence REAL, subject_why TEXT, language TEXT, past TEXT,
    forwarding_at INTEGER, forward_to TEXT, forward_now INTEGER, front TEXT,
    referrers_at INTEGER, marks_at INTEGER, marks_found INTEGER)`,
  `CREATE INDEX inspections_forward ON inspections(forward_to) WHERE forward_to IS NOT NULL`,
  // an upsert takes the conflict clause away from what its triggers write
  `CREATE TRIGGER inspections_new AFTER INSERT ON inspections BEGIN
    INSERT INTO pool_changes SELECT new.domain_id WHERE NOT EXISTS (SELECT 1 FROM pool_changes WHERE domain_id = new.domain_id); END`,
  `CREATE TRIGGER inspections_changed AFTER UPDATE ON inspections BEGIN
    INSERT INTO pool_changes SELECT new.domain_id WHERE NOT EXISTS (SELECT 1 FROM pool_changes WHERE domain_id = new.domain_id); END`,
  `CREATE TABLE captures (
    domain_id INTEGER NOT NULL REFERENCES domains(id), at INTEGER NOT NULL, url TEXT NOT NULL, status INTEGER NOT NULL,
    kind TEXT NOT NULL, marks TEXT NOT NULL, title TEXT NOT NULL, language TEXT, subject TEXT, subject_confidence REAL,
    terms TEXT NOT NULL, links TEXT NOT NULL, redirect_to TEXT, fingerprint TEXT, read_at INTEGER NOT NULL,
    PRIMARY KEY (domain_id, at)) WITHOUT ROWID`,
  // times of all captures, as the archive lists them, packed: seconds since 1970, 4 bytes each
  `CREATE TABLE capture_times (domain_id INTEGER PRIMARY KEY, times BLOB NOT NULL)`,
  // linking pages that were fetched again
  `CREATE TABLE link_looks (
    to_id INTEGER NOT NULL, from_id INTEGER NOT NULL, url TEXT NOT NULL, at INTEGER NOT NULL, standing TEXT NOT NULL, anchor TEXT,
    rel TEXT, fingerprint TEXT, note TEXT NOT NULL, PRIMARY KEY (to_id, from_id)) WITHOUT ROWID`,
  // what may give the owner of a site away
  `CREATE TABLE site_facts (
    domain_id INTEGER PRIMARY KEY REFERENCES domains(id), at INTEGER, name_servers TEXT, address_block TEXT, tracking_ids TEXT,
    registrant TEXT)`,
  // domains that wait to be measured, by whose wish
  `CREATE TABLE measure_queue (
    domain_id INTEGER PRIMARY KEY REFERENCES domains(id), since INTEGER NOT NULL, wanted_by TEXT NOT NULL, by_hand INTEGER NOT NULL)`,
  // lapsed domains that a site links to, as counted when all links were last measured
  `CREATE TABLE lapsed_targets (domain_id INTEGER PRIMARY KEY, targets INTEGER NOT NULL)`,
  `CREATE TABLE measure_spend (day TEXT PRIMARY KEY, requests INTEGER NOT NULL) WITHOUT ROWID`,
  `CREATE TABLE mark_matches (
    domain_id INTEGER NOT NULL REFERENCES domains(id), register TEXT NOT NULL, number TEXT NOT NULL, mark TEXT NOT NULL,
    owner TEXT NOT NULL, classes TEXT NOT NULL, status TEXT NOT NULL, score REAL NOT NULL, why TEXT NOT NULL, at INTEGER NOT NULL,
    PRIMARY KEY (domain_id, register, number)) WITHOUT ROWID`,
  // what a person decided about the trademarks of a name; the last counts
  `CREATE TABLE mark_reviews (
    id INTEGER PRIMARY KEY, domain_id INTEGER NOT NULL REFERENCES domains(id), at INTEGER NOT NULL, verdict TEXT NOT NULL,
    note TEXT NOT NULL)`,
  `CREATE INDEX mark_reviews_domain ON mark_reviews(domain_id, id)`,
  // points that were fitted here; the newest that was not taken back counts, else those that ship
  `CREATE TABLE spam_points (
    id INTEGER PRIMARY KEY, at INTEGER NOT NULL, points TEXT NOT NULL, report TEXT NOT NULL, undone_at INTEGER)`,
  // grows when links are forgotten: walks that took links in one by one begin anew then
  `CREATE TABLE link_drops (id INTEGER PRIMARY KEY CHECK (id = 1), drops INTEGER NOT NULL)`,
  `INSERT INTO link_drops VALUES (1, 0)`,
  // what a kept sieve has measured of what is new: 0 nothing, 1 checks and links, 2 everything
  `ALTER TABLE sieves ADD COLUMN depth INTEGER NOT NULL DEFAULT 0`,
  `UPDATE sieves SET depth = measures`,
];
