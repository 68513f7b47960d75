import type { Knex } from 'knex';

/** Questions that cannot be put now, when anything was answered last, and domains that a switch leaves out of the finds of a source. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // held = 2: waits for a problem to pass (its key in lookup_problems), or, by itself, until its own servers are tried again
  `ALTER TABLE questions ADD COLUMN waits_for TEXT`,
  `ALTER TABLE questions ADD COLUMN waits_until INTEGER`,
  `CREATE INDEX questions_waits ON questions(waits_for, turn) WHERE waits_for IS NOT NULL`,
  // the machine's clock at the last answer of anybody: whoever waits sees whether the lookups go on
  `CREATE TABLE lookup_pulse (id INTEGER PRIMARY KEY CHECK (id = 1), at INTEGER NOT NULL)`,
  // like sightings, of domains that a source named and that one of its switches leaves out of its finds
  `CREATE TABLE left_out (
    source_id INTEGER NOT NULL, domain_id INTEGER NOT NULL REFERENCES domains(id), at INTEGER NOT NULL, line INTEGER, said TEXT,
    cause TEXT NOT NULL, PRIMARY KEY (source_id, domain_id)) WITHOUT ROWID`,
  `CREATE INDEX left_out_domain ON left_out(domain_id)`,
];
