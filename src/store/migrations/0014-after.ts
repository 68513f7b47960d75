import type { Knex } from 'knex';

/** What comes after a purchase: bringing a site back, writing to those who link to what is gone, selling on. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // steps of a rebuild that somebody decided on; state: wanted, done, left. Own steps have words
  `CREATE TABLE rebuild_steps (
    domain_id INTEGER NOT NULL REFERENCES domains(id), key TEXT NOT NULL, state TEXT NOT NULL, words TEXT, at INTEGER NOT NULL,
    PRIMARY KEY (domain_id, key)) WITHOUT ROWID`,
  // pages that link to a dead target and are written to, each with how it stands
  `CREATE TABLE prospects (
    target_url TEXT NOT NULL, target_domain TEXT NOT NULL, page_url TEXT NOT NULL, title TEXT, anchor TEXT NOT NULL, state TEXT NOT NULL,
    contact TEXT, note TEXT NOT NULL DEFAULT '', written_at INTEGER, answered_at INTEGER, added_at INTEGER NOT NULL,
    PRIMARY KEY (target_url, page_url)) WITHOUT ROWID`,
  // the own page that is offered in place of a dead target
  `CREATE TABLE stand_ins (target_url TEXT PRIMARY KEY, own_url TEXT NOT NULL, chosen_at INTEGER NOT NULL) WITHOUT ROWID`,
  // an owned domain offered at a venue: the key goes out with it, a venue takes it once. Amounts in minor units of its currency
  `CREATE TABLE resales (
    id INTEGER PRIMARY KEY, key TEXT NOT NULL UNIQUE, domain_id INTEGER NOT NULL REFERENCES domains(id), venue TEXT NOT NULL,
    ask_minor INTEGER NOT NULL, floor_minor INTEGER NOT NULL, currency TEXT NOT NULL, text TEXT NOT NULL, state TEXT NOT NULL,
    final_minor INTEGER, fees_minor INTEGER, reason TEXT, attempts INTEGER NOT NULL DEFAULT 0, next_at INTEGER,
    created_at INTEGER NOT NULL, answered_at INTEGER, ended_at INTEGER)`,
  `CREATE INDEX resales_next ON resales(next_at) WHERE next_at IS NOT NULL`,
  `CREATE INDEX resales_domain ON resales(domain_id)`,
  // who asked for it, as the venue says, or as was entered by hand
  `CREATE TABLE inquiries (
    resale_id INTEGER NOT NULL REFERENCES resales(id), inquiry TEXT NOT NULL, buyer TEXT NOT NULL, at INTEGER NOT NULL,
    words TEXT NOT NULL, offer_minor INTEGER, asked_minor INTEGER, state TEXT NOT NULL, until INTEGER,
    PRIMARY KEY (resale_id, inquiry)) WITHOUT ROWID`,
  // what was answered to them, by a key of its own, sent once
  `CREATE TABLE inquiry_answers (
    key TEXT PRIMARY KEY, resale_id INTEGER NOT NULL REFERENCES resales(id), inquiry TEXT NOT NULL, act TEXT NOT NULL,
    amount_minor INTEGER, state TEXT NOT NULL, reason TEXT, at INTEGER NOT NULL) WITHOUT ROWID`,
  // windows in which names were expected to drop, and what came of them
  `CREATE TABLE drop_outcomes (
    domain_id INTEGER NOT NULL REFERENCES domains(id), seen_at INTEGER NOT NULL, from_at INTEGER NOT NULL, to_at INTEGER NOT NULL,
    last_at INTEGER, became TEXT NOT NULL, PRIMARY KEY (domain_id, seen_at)) WITHOUT ROWID`,
  // what logs of a web server say that old addresses got; a log of the same name replaces the one before
  `CREATE TABLE redirect_logs (
    domain_id INTEGER NOT NULL REFERENCES domains(id), source TEXT NOT NULL, taken_at INTEGER NOT NULL, from_at INTEGER, to_at INTEGER,
    lines INTEGER NOT NULL, aside INTEGER NOT NULL, robots INTEGER NOT NULL, PRIMARY KEY (domain_id, source)) WITHOUT ROWID`,
  `CREATE TABLE redirect_hits (
    domain_id INTEGER NOT NULL, source TEXT NOT NULL, path TEXT NOT NULL, requests INTEGER NOT NULL,
    PRIMARY KEY (domain_id, source, path)) WITHOUT ROWID`,
  // everything that was done or heard of a sale, in order; never changed
  `CREATE TABLE resale_events (
    id INTEGER PRIMARY KEY, resale_id INTEGER NOT NULL REFERENCES resales(id), at INTEGER NOT NULL, who TEXT NOT NULL, words TEXT NOT NULL)`,
  `CREATE TRIGGER resale_events_stay BEFORE UPDATE ON resale_events BEGIN SELECT RAISE(ABORT, 'the log is not changed'); END`,
];
