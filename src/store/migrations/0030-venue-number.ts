import type { Knex } from 'knex';

/** Orders are asked after by the number that a venue gave them. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE orders ADD COLUMN venue_number TEXT');
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
