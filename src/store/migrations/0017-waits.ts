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
  // domains that a source named and that a switch may leave out of its finds; causes: bits in the order of core/crawl/leave-out;
  // while it is out it stands here as it would among the sightings
  `CREATE TABLE find_causes (
    source_id INTEGER NOT NULL, domain_id INTEGER NOT NULL REFERENCES domains(id), causes INTEGER NOT NULL, is_out INTEGER NOT NULL,
    at INTEGER NOT NULL, line INTEGER, said TEXT, PRIMARY KEY (source_id, domain_id)) WITHOUT ROWID`,
  // why a page was not read, as a kind: robots, type, status, or the code of what went wrong on the network
  `ALTER TABLE pages ADD COLUMN cause TEXT`,
  `CREATE INDEX find_causes_domain ON find_causes(domain_id)`,
];
