import { z } from 'zod';
import { Refusal } from '../../core/refusal';
import { Settings, withKeptKeys, withoutKeys } from '../../core/settings/settings';
import { changeSettings, readSettings, type Store, statement, write } from '../base/database';
import { recallHits } from '../pool/sieves';

/**
 * Tables whose rows people change, with what the product itself goes on writing in them: that neither speaks against undoing an act nor
 * is put back by it.
 */
const TABLES = {
  watches: ['next_at', 'last_at', 'outcome', 'etag', 'modified', 'hash'],
  watched_files: [],
  sieves: ['next_at', 'last_at', 'last_total', 'last_new'],
  briefs: [],
  holdings: [],
  holding_entries: ['removed_at'],
  mark_reviews: [],
  shortlist: ['changed_at'],
  shortlist_removed: [],
  crawl_sites: ['seed', 'depth', 'nonsense_mark', 'probed'],
  // of a job people change what it goes by
  jobs: [
    'kind',
    'source_id',
    'state',
    'progress',
    'checkpoint',
    'error',
    'next',
    'created_at',
    'started_at',
    'finished_at',
  ],
} as const satisfies Record<string, readonly string[]>;
export type ActTable = keyof typeof TABLES;

/** Rows that an act may change: those of a table that have these values. */
export interface Touched {
  table: ActTable;
  where: Record<string, string | number>;
}

const Value = z.union([z.string(), z.number(), z.null()]);
const Row = z.record(z.string(), Value);
type Row = z.infer<typeof Row>;
const Changes = z.discriminatedUnion('of', [
  z.object({
    of: z.literal('rows'),
    rows: z.array(
      z.object({
        table: z.enum(Object.keys(TABLES) as [ActTable, ...ActTable[]]),
        where: z.record(z.string(), z.union([z.string(), z.number()])),
        before: z.array(Row),
        after: z.array(Row),
      }),
    ),
  }),
  // keys of accounts are never in them
  z.object({ of: z.literal('settings'), before: z.looseObject({}), after: z.looseObject({}) }),
]);
type Changes = z.infer<typeof Changes>;
type TouchedRows = Extract<Changes, { of: 'rows' }>['rows'][number];

/** What kind of thing an act changed. */
export const ACT_KINDS = ['watch', 'sieve', 'brief', 'holding', 'marks', 'shortlist', 'settings', 'crawl'] as const;
export type ActKind = (typeof ACT_KINDS)[number];

/** Something that a person changed. */
export interface DoneAct {
  id: number;
  at: number;
  kind: ActKind;
  words: string;
  undoneAt: number | null;
}

/** What an act changed has been changed since, by another. */
export class ActChanged extends Refusal {
  constructor(words: string) {
    super('changed-since', `It has been changed since: ${words}`, { advice: 'Undo first what came after it.' });
  }
}

const MOST_KEPT = 500;

/**
 * Does something and keeps what it changed in some rows, so that it can be undone.
 *
 * @param words what was done, as it is shown: "watch of Quillmere removed".
 * @returns what it gave, and the number of the act; null: those rows are as they were.
 */
export function recordAct<T>(
  store: Store,
  { kind, words }: Pick<DoneAct, 'kind' | 'words'>,
  touched: readonly Touched[],
  change: () => T,
): { result: T; act: number | null } {
  return write(store, () => {
    const before = touched.map((one) => rowsOf(store, one));
    const result = change();
    const rows = touched.map((one, n) => ({ ...one, before: before[n], after: rowsOf(store, one) }));
    const changed = rows.filter((one) => JSON.stringify(one.before) !== JSON.stringify(one.after));
    return { result, act: changed.length === 0 ? null : keep(store, kind, words, { of: 'rows', rows: changed }) };
  });
}

/** The same for new rows, whose numbers are known only afterwards. */
export function recordNew<T>(
  store: Store,
  { kind, words }: Pick<DoneAct, 'kind' | 'words'>,
  change: () => T,
  touched: (result: T) => Touched[],
): { result: T; act: number | null } {
  return write(store, () => {
    const result = change();
    const rows = touched(result).map((one) => ({ ...one, before: [], after: rowsOf(store, one) }));
    return { result, act: rows.length === 0 ? null : keep(store, kind, words, { of: 'rows', rows }) };
  });
}

/** Changes settings and keeps what they were, but for the keys of accounts. */
export function recordSettings(
  store: Store,
  words: string,
  change: Partial<Settings>,
): { result: Settings; act: number | null } {
  return write(store, () => {
    const fields = Object.keys(change) as (keyof Settings)[];
    const before = partOf(withoutKeys(readSettings(store)), fields);
    const result = changeSettings(store, change);
    const after = partOf(withoutKeys(result), fields);
    const isSame = JSON.stringify(before) === JSON.stringify(after);
    return { result, act: isSame ? null : keep(store, 'settings', words, { of: 'settings', before, after }) };
  });
}

function keep(store: Store, kind: ActKind, words: string, changes: Changes): number {
  const { lastInsertRowid } = statement(
    store.raw,
    'INSERT INTO acts (at, kind, words, changes) VALUES (?, ?, ?, ?)',
  ).run(store.now(), kind, words, JSON.stringify(changes));
  const id = Number(lastInsertRowid);
  statement(store.raw, 'DELETE FROM acts WHERE id <= ?').run(id - MOST_KEPT);
  return id;
}

/** The last acts, the latest first. */
export function listActs(store: Store, limit: number): DoneAct[] {
  return statement(
    store.raw,
    'SELECT id, at, kind, words, undone_at AS undoneAt FROM acts ORDER BY id DESC LIMIT ?',
  ).all(limit) as DoneAct[];
}

/**
 * Gives back what an act changed. Undoing it twice changes nothing.
 *
 * @returns the act; null: there is none of that number.
 * @throws ActChanged when somebody has changed the same since.
 */
export function undoAct(store: Store, id: number): DoneAct | null {
  return write(store, () => {
    const found = statement(
      store.raw,
      'SELECT id, at, kind, words, undone_at AS undoneAt, changes FROM acts WHERE id = ?',
    ).get(id) as (DoneAct & { changes: string }) | undefined;
    if (!found) return null;
    const { changes: text, ...act } = found;
    if (act.undoneAt !== null) return act;
    const changes = Changes.parse(JSON.parse(text));
    if (changes.of === 'settings') giveSettingsBack(store, act.words, changes);
    else {
      for (const rows of changes.rows) checkUnchanged(store, act.words, rows);
      for (const rows of changes.rows) {
        giveRowsBack(store, rows);
        if (rows.table === 'sieves') giveHitsBack(store, rows);
      }
    }
    const undoneAt = store.now();
    statement(store.raw, 'UPDATE acts SET undone_at = ? WHERE id = ?').run(undoneAt, id);
    return { ...act, undoneAt };
  });
}

function giveSettingsBack(store: Store, words: string, { before, after }: Extract<Changes, { of: 'settings' }>): void {
  const settings = readSettings(store);
  const now = partOf(withoutKeys(settings), Object.keys(after) as (keyof Settings)[]);
  if (JSON.stringify(now) !== JSON.stringify(after)) throw new ActChanged(words);
  const back = partOf(Settings.parse({ ...settings, ...before }), Object.keys(before) as (keyof Settings)[]);
  // an account that comes back is asked for its key again
  changeSettings(store, { ...back, ...(back.desks && { desks: withKeptKeys(back.desks, settings.desks) }) });
}

function partOf(settings: Settings, fields: readonly (keyof Settings)[]): Partial<Settings> {
  return Object.fromEntries(fields.map((field) => [field, settings[field]]));
}

function rowsOf(store: Store, { table, where }: Touched): Row[] {
  const fields = Object.keys(where);
  return z
    .array(Row)
    .parse(
      statement(
        store.raw,
        `SELECT * FROM ${table} WHERE ${fields.map((field) => `${field} = @${field}`).join(' AND ')} ORDER BY 1, 2`,
      ).all(where),
    );
}

function checkUnchanged(store: Store, words: string, { table, where, after }: TouchedRows): void {
  const own: readonly string[] = TABLES[table];
  const said = (rows: readonly Row[]) =>
    JSON.stringify(rows.map((row) => Object.entries(row).filter(([field]) => !own.includes(field))));
  if (said(rowsOf(store, { table, where })) !== said(after)) throw new ActChanged(words);
}

/** A sieve whose view comes back has let through what it had, when it last ran. */
function giveHitsBack(store: Store, { before, after }: TouchedRows): void {
  const views = new Map(after.map((row) => [row.id, row.view]));
  for (const row of before) {
    if (views.get(row.id) === row.view) continue;
    recallHits(store, Number(row.id), String(row.view));
    statement(
      store.raw,
      'UPDATE sieves SET last_at = @last_at, last_total = @last_total, last_new = @last_new WHERE id = @id',
    ).run(row);
  }
}

function giveRowsBack(store: Store, { table, where, before }: TouchedRows): void {
  const own: readonly string[] = TABLES[table];
  const keys = (
    statement(store.raw, `SELECT name FROM pragma_table_info('${table}') WHERE pk > 0`).pluck().all() as string[]
  ).sort();
  const keyOf = (row: Row) => JSON.stringify(keys.map((key) => row[key]));
  const now = new Map(rowsOf(store, { table, where }).map((row) => [keyOf(row), row]));
  const picked = keys.map((key) => `${key} = @${key}`).join(' AND ');
  const kept = new Set(before.map(keyOf));
  for (const [key, row] of now)
    if (!kept.has(key)) statement(store.raw, `DELETE FROM ${table} WHERE ${picked}`).run(row);
  for (const row of before) {
    const fields = Object.keys(row);
    const said = fields.filter((field) => !keys.includes(field) && !own.includes(field));
    if (!now.has(keyOf(row)))
      statement(
        store.raw,
        `INSERT INTO ${table} (${fields.join(', ')}) VALUES (${fields.map((field) => `@${field}`).join(', ')})`,
      ).run(row);
    else if (said.length > 0)
      statement(
        store.raw,
        `UPDATE ${table} SET ${said.map((field) => `${field} = @${field}`).join(', ')} WHERE ${picked}`,
      ).run(row);
  }
}
