import type { Knex } from 'knex';

/** What is remembered of the life of a name over looks without an answer, and what keeps questions from being put. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // the last phase that was an answer, when it was seen first and last, and when the one before it was; what the registry states of its end;
  // by which rules its drop is expected
  `CREATE TABLE lives (
    domain_id INTEGER PRIMARY KEY REFERENCES domains(id) ON DELETE CASCADE, phase TEXT NOT NULL, seen_first_at INTEGER NOT NULL,
    seen_last_at INTEGER NOT NULL, before_at INTEGER, deletes_at INTEGER, free_at INTEGER, policy TEXT)`,
  `INSERT INTO lives (domain_id, phase, seen_first_at, seen_last_at, before_at)
    SELECT id, phase, coalesce(phase_since, phase_at), phase_at, phase_before_at FROM domains
    WHERE phase_at IS NOT NULL AND phase <> 'unknown' AND phase_source NOT LIKE 'source %'`,
  // questions that could not be put: to whom, why, and what can be done
  `CREATE TABLE lookup_problems (
    key TEXT PRIMARY KEY, words TEXT NOT NULL, remedy TEXT NOT NULL, since INTEGER NOT NULL, last_at INTEGER NOT NULL,
    times INTEGER NOT NULL) WITHOUT ROWID`,
];
