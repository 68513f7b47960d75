import type { Knex } from 'knex';

/** What a dossier keeps beside measured values: captured pages as text, notes, the list of due diligence, and what facts were before. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

/** A fact that is written down when it changes from something known by more than `least`; null: by anything. */
interface KeptFact {
  column: string;
  least: number | null;
}
/** Sources give days in their own hours: the same day is no change. */
const DAY_MS = 86_400_000;
const kept = (least: number | null, ...columns: string[]): KeptFact[] => columns.map((column) => ({ column, least }));

/**
 * A trigger that writes down what some facts of a row were and are. One for all facts that are written together, so that a walk
 * over millions of rows pays for one look a row.
 *
 * @param of column whose writing says that the facts were taken again; it holds when.
 */
function keepChanges(table: string, id: string, of: string, at: string, who: string, facts: KeptFact[]): string {
  const differs = ({ column, least }: KeptFact) =>
    least === null
      ? `(old.${column} IS NOT NULL AND new.${column} IS NOT old.${column})`
      : `(old.${column} IS NOT NULL AND (new.${column} IS NULL OR abs(new.${column} - old.${column}) >= ${least}))`;
  const rows = facts.map(
    (fact) =>
      `INSERT INTO fact_changes (domain_id, at, fact, was, becomes, who)
       SELECT new.${id}, ${at}, '${fact.column}', old.${fact.column}, new.${fact.column}, ${who} WHERE ${differs(fact)};`,
  );
  return `CREATE TRIGGER ${table}_kept_${of} AFTER UPDATE OF ${of} ON ${table} WHEN ${facts.map(differs).join(' OR ')} BEGIN ${rows.join(' ')} END`;
}

const STATEMENTS = [
  // a capture that was read, as plain blocks; deflated JSON
  `CREATE TABLE capture_pages (
    domain_id INTEGER NOT NULL REFERENCES domains(id), at INTEGER NOT NULL, blocks BLOB NOT NULL,
    PRIMARY KEY (domain_id, at)) WITHOUT ROWID`,
  // language of a linking page that was looked at again
  `ALTER TABLE link_looks ADD COLUMN language TEXT`,
  `CREATE TABLE notes (
    id INTEGER PRIMARY KEY, domain_id INTEGER NOT NULL REFERENCES domains(id), at INTEGER NOT NULL, text TEXT NOT NULL,
    removed_at INTEGER)`,
  `CREATE INDEX notes_domain ON notes(domain_id)`,
  // points of due diligence that were answered by hand; the last that stands counts
  `CREATE TABLE diligence (
    id INTEGER PRIMARY KEY, domain_id INTEGER NOT NULL REFERENCES domains(id), item TEXT NOT NULL, at INTEGER NOT NULL,
    state TEXT NOT NULL, note TEXT NOT NULL, undone_at INTEGER)`,
  `CREATE INDEX diligence_domain ON diligence(domain_id)`,
  // what a fact was before it changed, and who said what it is now; a fact that was not known before did not change
  `CREATE TABLE fact_changes (
    id INTEGER PRIMARY KEY, domain_id INTEGER NOT NULL, at INTEGER, fact TEXT NOT NULL, was, becomes, who TEXT)`,
  `CREATE INDEX fact_changes_domain ON fact_changes(domain_id)`,
  keepChanges('domains', 'id', 'links_at', 'new.links_at', `'links, counted and walked here'`, [
    ...kept(1, 'strength', 'trust'),
    ...kept(null, 'referring_domains', 'backlinks'),
  ]),
  keepChanges('domains', 'id', 'spam_risk', 'new.links_at', `'the spam rules'`, kept(1, 'spam_risk')),
  keepChanges('domains', 'id', 'record_at', 'new.record_at', 'new.record_source',
    [...kept(DAY_MS, 'registered_at', 'expires_at'), ...kept(null, 'registrar', 'statuses', 'name_servers')]),
  keepChanges('domains', 'id', 'past_at', 'new.past_at', 'new.past_source',
    [...kept(DAY_MS, 'first_seen_at'), ...kept(null, 'captures')]),
  // a phase that no server was asked about, or that is not known, was no answer
  keepChanges('domains', 'id', 'phase_at', 'new.phase_at', 'new.phase_source', kept(null, 'phase')).replace(
    'WHEN ', `WHEN old.phase_at IS NOT NULL AND old.phase <> 'unknown' AND new.phase <> 'unknown' AND `),
  keepChanges('inspections', 'domain_id', 'captures_at', 'new.captures_at', `'the archive, captures read here'`, [
    ...kept(0.5, 'content_years'),
    ...kept(0.1, 'drift'),
    ...kept(null, 'drops', 'language'),
  ]),
  keepChanges('inspections', 'domain_id', 'subject', 'new.captures_at', `'what is known of it, classified here'`, kept(null, 'subject')),
  keepChanges('inspections', 'domain_id', 'effective', '(SELECT links_at FROM domains WHERE id = new.domain_id)',
    `'referrers, weighed here'`, kept(1, 'effective')),
  keepChanges('inspections', 'domain_id', 'forward_to', 'coalesce(new.forwarding_at, new.captures_at)', `'its front page'`,
    kept(null, 'forward_to')),
  keepChanges('inspections', 'domain_id', 'marks_at', 'new.marks_at', `'the register of trademarks'`, kept(null, 'marks_found')),
]; // biome-ignore format: a statement each
