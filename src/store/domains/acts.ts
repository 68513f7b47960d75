import { z } from 'zod';
import { Refusal } from '../../core/refusal';
import { Settings, withNewNames, withoutKeys } from '../../core/settings/settings';
import { actor } from '../../core/work/actor';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, fromJson, knex, pick, run } from '../base/query';
import type { Row as TableRow } from '../base/schema';
import { changeSettings, readSettings } from '../base/settings';
import { recallHits } from '../pool/sieves';
import { recountTraffic } from '../portfolio/rankings';

const ACTS = columns('acts');

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

export type ActKind = TableRow<'acts'>['kind'];

/** Something that a person changed. */
export interface DoneAct {
  id: number;
  at: number;
  kind: ActKind;
  words: string;
  undoneAt: number | null;
  /** Who did it. */
  who: string;
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
    followRates(store, fields);
    const after = partOf(withoutKeys(result), fields);
    const isSame = JSON.stringify(before) === JSON.stringify(after);
    return { result, act: isSame ? null : keep(store, 'settings', words, { of: 'settings', before, after }) };
  });
}

function keep(store: Store, kind: ActKind, words: string, changes: Changes): number {
  const { lastInsertRowid } = run(
    store,
    knex('acts').insert({ at: store.now(), kind, words, changes: JSON.stringify(changes), who: actor() }),
  );
  const id = Number(lastInsertRowid);
  run(
    store,
    knex('acts')
      .where('id', '<=', id - MOST_KEPT)
      .delete(),
  );
  return id;
}

/** The last acts, the latest first. */
export function listActs(store: Store, limit: number): DoneAct[] {
  return all(
    store,
    pick(knex('acts'), camel(ACTS, 'id', 'at', 'kind', 'words', 'undone_at', 'who'))
      .orderBy('id', 'desc')
      .limit(limit),
  );
}

/**
 * Gives back what an act changed. Undoing it twice changes nothing.
 *
 * @returns the act; null: there is none of that number.
 * @throws ActChanged when somebody has changed the same since.
 */
export function undoAct(store: Store, id: number): DoneAct | null {
  return write(store, () => {
    const found = first(
      store,
      pick(knex('acts'), camel(ACTS, 'id', 'at', 'kind', 'words', 'undone_at', 'who', 'changes')).where('id', id),
    );
    if (!found) return null;
    const { changes: text, ...act } = found;
    if (act.undoneAt !== null) return act;
    const changes = fromJson(Changes, text);
    if (changes.of === 'settings') giveSettingsBack(store, act.words, changes);
    else {
      for (const rows of changes.rows) checkUnchanged(store, act.words, rows);
      for (const rows of changes.rows) {
        giveRowsBack(store, rows);
        if (rows.table === 'sieves') giveHitsBack(store, rows);
      }
    }
    const undoneAt = store.now();
    run(store, knex('acts').where('id', id).update({ undone_at: undoneAt }));
    return { ...act, undoneAt };
  });
}

function giveSettingsBack(store: Store, words: string, { before, after }: Extract<Changes, { of: 'settings' }>): void {
  const settings = readSettings(store);
  const [was, became] = [withNewNames(before), withNewNames(after)];
  const now = partOf(withoutKeys(settings), Object.keys(became) as (keyof Settings)[]);
  if (JSON.stringify(now) !== JSON.stringify(became)) throw new ActChanged(words);
  const back = partOf(Settings.parse({ ...settings, ...was }), Object.keys(was) as (keyof Settings)[]);
  // an account that comes back is asked for its key again
  changeSettings(store, back);
  followRates(store, Object.keys(back));
}

/** What is kept in the person's currency is counted anew where that or its rates have changed. */
function followRates(store: Store, fields: readonly string[]): void {
  if (fields.includes('currency') || fields.includes('rates')) recountTraffic(store);
}

function partOf(settings: Settings, fields: readonly (keyof Settings)[]): Partial<Settings> {
  return Object.fromEntries(fields.map((field) => [field, settings[field]]));
}

function rowsOf(store: Store, { table, where }: Touched): Row[] {
  return z.array(Row).parse(all(store, knex<Row>(table).where(where).orderByRaw('1, 2')));
}

function checkUnchanged(store: Store, words: string, { table, where, after }: TouchedRows): void {
  const own: readonly string[] = TABLES[table];
  const said = (rows: readonly Row[]) =>
    JSON.stringify(rows.map((row) => Object.entries(row).filter(([field]) => !own.includes(field))));
  if (said(rowsOf(store, { table, where })) !== said(after)) throw new ActChanged(words);
}

const Count = z.number().nullable();
const LastRun = z.object({ last_at: Count, last_total: Count, last_new: Count });

/** A sieve whose view comes back has let through what it had, when it last ran. */
function giveHitsBack(store: Store, { before, after }: TouchedRows): void {
  const views = new Map(after.map((row) => [row.id, row.view]));
  for (const row of before) {
    if (views.get(row.id) === row.view) continue;
    recallHits(store, Number(row.id), String(row.view));
    const { last_at, last_total, last_new } = LastRun.parse(row);
    run(store, knex('sieves').where('id', row.id).update({ last_at, last_total, last_new }));
  }
}

function giveRowsBack(store: Store, { table, where, before }: TouchedRows): void {
  const own: readonly string[] = TABLES[table];
  const keys = all(
    store,
    knex<{ name: string }>(knex.raw('pragma_table_info(?)', [table]))
      .where('pk', '>', 0)
      .pluck('name'),
  ).sort();
  const keyOf = (row: Row) => JSON.stringify(keys.map((key) => row[key]));
  const now = new Map(rowsOf(store, { table, where }).map((row) => [keyOf(row), row]));
  const only = (row: Row, fields: readonly string[]) => Object.fromEntries(fields.map((field) => [field, row[field]]));
  const kept = new Set(before.map(keyOf));
  for (const [key, row] of now) if (!kept.has(key)) run(store, knex<Row>(table).where(only(row, keys)).delete());
  for (const row of before) {
    const said = Object.keys(row).filter((field) => !keys.includes(field) && !own.includes(field));
    if (!now.has(keyOf(row))) run(store, knex<Row>(table).insert(row));
    else if (said.length > 0) run(store, knex<Row>(table).where(only(row, keys)).update(only(row, said)));
  }
}
