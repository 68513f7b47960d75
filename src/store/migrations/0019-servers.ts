import type { Knex } from 'knex';

/** How many known domains stand on the same servers: a host with thousands of customers says nothing of who owns one. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('CREATE INDEX site_facts_servers ON site_facts (address_block, name_servers)');
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
