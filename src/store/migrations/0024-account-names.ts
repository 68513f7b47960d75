import type { Knex } from 'knex';
import { withNewNames } from '../../core/settings/settings';

/** Settings of accounts under the names that they have now. */
export async function up(knex: Knex): Promise<void> {
  const row: { value: string } | undefined = await knex('settings').where('key', 'settings').first('value');
  if (!row) return;
  const value = JSON.stringify(withNewNames(JSON.parse(row.value)));
  // a key may stand in what is overwritten
  await knex.raw('PRAGMA secure_delete = ON');
  if (value !== row.value) await knex('settings').where('key', 'settings').update({ value });
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
