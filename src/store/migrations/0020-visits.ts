import type { Knex } from 'knex';
import { ASSUMPTIONS } from '../../core/worth/assumptions';
import { clickShare } from '../../core/worth/rebuild';

/** Visits a month that imported rankings suggest. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw('ALTER TABLE domains ADD COLUMN visits INTEGER');
  const rankings: { domain_id: number; phrase: string; position: number; searches: number }[] = await knex('rankings')
    .select('domain_id', 'phrase', 'position', 'searches')
    .orderBy('taken_at');
  // of a phrase that several lists name, the one that was taken last
  const byDomain = new Map<number, Map<string, number>>();
  for (const { domain_id: id, phrase, position, searches } of rankings) {
    const visits = searches * clickShare(position, ASSUMPTIONS.firstClickPercent / 100);
    byDomain.set(id, (byDomain.get(id) ?? new Map()).set(phrase, visits));
  }
  for (const [id, phrases] of byDomain) {
    const visits = [...phrases.values()].reduce((sum, one) => sum + one, 0);
    await knex('domains')
      .where({ id })
      .update({ visits: Math.round(visits) });
  }
  await knex.raw(
    `CREATE TRIGGER domains_kept_visits AFTER UPDATE OF visits ON domains WHEN old.visits IS NOT NULL AND old.visits IS NOT new.visits BEGIN
       INSERT INTO fact_changes (domain_id, at, fact, was, becomes, who)
       SELECT new.id, max(taken_at), 'visits', old.visits, new.visits, 'imported lists of phrases' FROM rankings WHERE domain_id = new.id; END`,
  );
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}
