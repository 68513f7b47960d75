import type { Knex } from 'knex';

/** Names that may never have been registered: runs of a pattern with their best, and places that names may say. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // pattern as JSON; made: labels that were judged, of which the best are kept
  `CREATE TABLE idea_runs (
    id INTEGER PRIMARY KEY, brief_id INTEGER NOT NULL REFERENCES briefs(id), pattern TEXT NOT NULL, made INTEGER,
    created_at INTEGER NOT NULL, done_at INTEGER)`,
  `CREATE TABLE ideas (
    run_id INTEGER NOT NULL REFERENCES idea_runs(id), rank INTEGER NOT NULL, label TEXT NOT NULL, words TEXT NOT NULL,
    joint TEXT NOT NULL, score REAL NOT NULL, parts TEXT NOT NULL, reads_as TEXT, worth_low_minor INTEGER, worth_high_minor INTEGER,
    mark TEXT, PRIMARY KEY (run_id, rank)) WITHOUT ROWID`,
  `CREATE TABLE places (
    word TEXT PRIMARY KEY, title TEXT NOT NULL, people INTEGER, growth_percent REAL, source TEXT NOT NULL) WITHOUT ROWID`,
];
