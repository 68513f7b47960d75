import type { Knex } from 'knex';

/** What of an order was refused: as its venue says, of those before as their words told. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE orders ADD COLUMN refused_for TEXT');
  await knex.raw(
    `UPDATE orders SET refused_for = CASE
       WHEN reason LIKE '%card%' OR reason LIKE '%payment%' THEN 'payment'
       WHEN reason LIKE '%least%' OR reason LIKE '%costs%' THEN 'price'
       ELSE 'gone' END
     WHERE state = 'refused' AND sent_at IS NOT NULL`,
  );
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
