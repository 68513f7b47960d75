import type { Knex } from 'knex';

/** Whether a domain is on any shortlist is asked of each of many. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('CREATE INDEX shortlist_domain ON shortlist (domain_id)');
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
