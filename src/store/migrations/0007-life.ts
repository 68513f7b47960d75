import type { Knex } from 'knex';

/** Questions that wait for a server, what servers bear, and the lives of names: phases since when, expected drops, watches, events. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // the first look that found the present phase, and the last that found another
  `ALTER TABLE domains ADD COLUMN phase_since INTEGER`,
  `ALTER TABLE domains ADD COLUMN phase_before_at INTEGER`,
  // where servers disagree: sentences, as JSON
  `ALTER TABLE domains ADD COLUMN contradictions TEXT`,
  // expected drop with its reasons, as JSON; conditional: only if its owner does not renew
  `ALTER TABLE domains ADD COLUMN drop_from INTEGER`,
  `ALTER TABLE domains ADD COLUMN drop_to INTEGER`,
  `ALTER TABLE domains ADD COLUMN drop_conditional INTEGER`,
  `ALTER TABLE domains ADD COLUMN drop_reasons TEXT`,
  // watched: by the person, or as a near miss; ask_at: the next look
  `ALTER TABLE domains ADD COLUMN watched_at INTEGER`,
  `ALTER TABLE domains ADD COLUMN watch_reason TEXT`,
  `ALTER TABLE domains ADD COLUMN ask_at INTEGER`,
  `ALTER TABLE domains ADD COLUMN ask_failures INTEGER`,
  `CREATE INDEX domains_ask ON domains(ask_at) WHERE ask_at IS NOT NULL`,
  `CREATE INDEX domains_watched ON domains(watched_at) WHERE watched_at IS NOT NULL`,
  // an answer that could not be understood, as it came
  `ALTER TABLE checks ADD COLUMN text TEXT`,
  `CREATE TABLE life_events (
    id INTEGER PRIMARY KEY, domain_id INTEGER NOT NULL REFERENCES domains(id), at INTEGER NOT NULL, kind TEXT NOT NULL,
    words TEXT NOT NULL)`,
  `CREATE INDEX life_events_domain ON life_events(domain_id, at)`,
  `CREATE INDEX life_events_at ON life_events(at)`,
  // on which day after its expiry a name was deleted by its registrar
  `CREATE TABLE deletions (
    domain_id INTEGER NOT NULL REFERENCES domains(id), expired_at INTEGER NOT NULL, registrar TEXT NOT NULL, days REAL NOT NULL,
    PRIMARY KEY (domain_id, expired_at)) WITHOUT ROWID`,
  `CREATE INDEX deletions_registrar ON deletions(registrar, days)`,
  // one question a domain, however many want to know; turn: the smaller, the sooner; held: nobody wants to know at the moment
  `CREATE TABLE questions (
    domain_id INTEGER PRIMARY KEY REFERENCES domains(id), step TEXT NOT NULL, server TEXT NOT NULL, held INTEGER NOT NULL,
    turn REAL NOT NULL, depth TEXT NOT NULL, said TEXT NOT NULL, tries INTEGER NOT NULL, since INTEGER NOT NULL)`,
  `CREATE INDEX questions_turn ON questions(held, step, server, turn)`,
  // jobs that want to know, and what they are told
  `CREATE TABLE question_askers (
    job_id INTEGER NOT NULL, domain_id INTEGER NOT NULL, PRIMARY KEY (job_id, domain_id)) WITHOUT ROWID`,
  `CREATE INDEX question_askers_domain ON question_askers(domain_id)`,
  `CREATE TABLE question_news (
    id INTEGER PRIMARY KEY, job_id INTEGER NOT NULL, domain_id INTEGER NOT NULL, dns TEXT, phase TEXT)`,
  `CREATE INDEX question_news_job ON question_news(job_id, id)`,
  // deadlines as calendars were last told of them, so that a change raises their sequence
  `CREATE TABLE calendar_entries (
    uid TEXT PRIMARY KEY, hash TEXT NOT NULL, sequence INTEGER NOT NULL, changed_at INTEGER NOT NULL, entry TEXT NOT NULL,
    cancelled_at INTEGER) WITHOUT ROWID`,
  // what servers bear: core/lifecycle/pace, as JSON
  `CREATE TABLE budgets (server TEXT PRIMARY KEY, budget TEXT NOT NULL, updated_at INTEGER NOT NULL) WITHOUT ROWID`,
];
