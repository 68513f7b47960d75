import type { Knex } from 'knex';

/** What the visits of a month would cost as clicks; counted when the product starts next, since it goes by the person's rates. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE domains ADD COLUMN traffic_value REAL');
  await knex.raw(
    `CREATE TRIGGER domains_kept_traffic_value AFTER UPDATE OF traffic_value ON domains WHEN old.traffic_value IS NOT NULL AND old.traffic_value IS NOT new.traffic_value BEGIN
       INSERT INTO fact_changes (domain_id, at, fact, was, becomes, who)
       SELECT new.id, max(taken_at), 'traffic_value', old.traffic_value, new.traffic_value, 'imported lists of keywords, at your rates' FROM rankings WHERE domain_id = new.id; END`,
  );
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
