import type { Knex } from 'knex';

/** Few domains of millions are judged: what counts their marks need not look at all. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('CREATE INDEX domains_judged ON domains (judged) WHERE judged IS NOT NULL');
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
