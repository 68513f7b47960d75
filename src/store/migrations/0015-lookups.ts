import type { Knex } from 'knex';

/** What is remembered of the life of a name over looks without an answer, and what keeps questions from being put. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // of names that lapse, and over looks without an answer: the last phase that was one, when it was seen first and last, and when the one before it was; what the registry states of its end;
  // by which rules its drop is expected
  `CREATE TABLE lives (
    domain_id INTEGER PRIMARY KEY REFERENCES domains(id) ON DELETE CASCADE, phase TEXT NOT NULL, seen_first_at INTEGER NOT NULL,
    seen_last_at INTEGER NOT NULL, before_at INTEGER, deletes_at INTEGER, free_at INTEGER, policy TEXT)`,
  // questions that could not be put: to whom, why, and what can be done
  `CREATE TABLE lookup_problems (
    key TEXT PRIMARY KEY, words TEXT NOT NULL, remedy TEXT NOT NULL, since INTEGER NOT NULL, last_at INTEGER NOT NULL,
    times INTEGER NOT NULL) WITHOUT ROWID`,
];
