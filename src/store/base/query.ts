import type Database from 'better-sqlite3';
import knexFactory, { type Knex } from 'knex';
import type { z } from 'zod';
import type { Store } from './database';
import { type Row, TABLES, type TableName } from './schema';
import { type Raw, statement } from './statement';

/**
 * Queries are built with Knex's builder and run on the store's own connection, at once: a transaction never waits for the event loop.
 * Building one takes 10 to 20 us, running it from 1 us, so what runs in loops is built once (`prepared`).
 * Of its ways to order, `nulls: 'last'` is not used: it orders by an expression, which no index gives.
 */
const builder = knexFactory({ client: 'better-sqlite3', useNullAsDefault: true });

/** Begins a query on a table of the schema. */
export const knex: Knex = builder;

declare const held: unique symbol;
/** A column as a query names it, and what it holds. */
export type Column<T> = string & { readonly [held]: T };
/** Something that the database computes. */
export type Computed<T> = Knex.Raw & { readonly [held]: T };
type Field = Column<unknown> | Computed<unknown>;
type Fields = Readonly<Record<string, Field>>;
type HeldBy<F> = F extends { readonly [held]: infer T } ? T : never;
export type Picked<F extends Fields> = { -readonly [K in keyof F]: HeldBy<F[K]> };

type Camel<S extends string> = S extends `${infer Head}_${infer Tail}` ? `${Head}${Capitalize<Camel<Tail>>}` : S;

/** The columns of a table, under the name it has in a query. */
export function columns<T extends TableName>(
  table: T,
  as: string = table,
): { readonly [K in keyof Row<T>]: Column<Row<T>[K]> } {
  const found = Object.fromEntries(Object.keys(TABLES[table]).map((name) => [name, `${as}.${name}`]));
  return found as { [K in keyof Row<T>]: Column<Row<T>[K]> };
}

/** Some columns for `pick`, by their names in the code: `brief_id` as `briefId`. */
export function camel<C extends Readonly<Record<string, Column<unknown>>>, K extends keyof C & string>(
  of: C,
  ...names: K[]
): { [N in K as Camel<N>]: C[N] } {
  const found = names.map((name) => [name.replace(/_(.)/g, (_, letter: string) => letter.toUpperCase()), of[name]]);
  return Object.fromEntries(found) as { [N in K as Camel<N>]: C[N] };
}

/** All columns of a table for `pick`, under their own names. */
export function every<C extends Fields>(of: C): C {
  return of;
}

/** Some of the fields of a query for `pick`, under their own names. */
export function only<F extends Fields, K extends keyof F>(of: F, names: readonly K[]): Pick<F, K> {
  return Object.fromEntries(names.map((name) => [name, of[name]])) as Pick<F, K>;
}

/** A column of a table that may have no row beside the others. */
export function orNull<T>(column: Column<T>): Column<T | null> {
  return column as Column<unknown> as Column<T | null>;
}

/** A column in rows that a condition keeps from being without it. */
export function known<T>(column: Column<T | null>): Column<T> {
  return column as Column<unknown> as Column<T>;
}

/** An expression of SQL, with `?` for values and `??` for columns. */
export function sql<T>(text: string, bindings: readonly (Knex.RawBinding | Field)[] = []): Computed<T> {
  return builder.raw(text, bindings as Knex.RawBinding[]) as unknown as Computed<T>;
}

/** A value that stands in the query itself: an index over some rows only (`WHERE state = 'open'`) is used only where the query says so. */
export function constant<T extends string | number>(value: T): Computed<T> {
  return sql(typeof value === 'number' ? String(value) : `'${value}'`);
}

/** A query with rows of a known shape. */
export type Rows<R> = Knex.QueryBuilder<Record<string, unknown>, R[]>;

/** Selects fields under the names they are to have. */
export function pick<F extends Fields>(query: Knex.QueryBuilder, fields: F): Rows<Picked<F>> {
  return query.select(fields as Record<string, string>) as unknown as Rows<Picked<F>>;
}

// biome-ignore lint/suspicious/noExplicitAny: what a builder is of is told by what it gives
type Query = Knex.QueryBuilder<any, any>;
type RowsOf<Q> = Q extends PromiseLike<(infer R)[]> ? R : never;

interface Compiled {
  sql: string;
  bindings: readonly unknown[];
  /** `pluck`: a row is its one value. */
  method: string;
}

function compile(query: Query): Compiled {
  return query.toSQL() as unknown as Compiled;
}

interface Reading {
  statement: Database.Statement;
  /** What a row is made of its cells. The driver's own objects take half as long again, for it makes their names anew for each row. */
  rowOf(cells: unknown[]): unknown;
}

const readings = new WeakMap<Raw, Map<string, Reading>>();

function readingOf({ raw }: Store, { sql: text, method }: Compiled): Reading {
  let bySql = readings.get(raw);
  if (!bySql) {
    bySql = new Map();
    readings.set(raw, bySql);
  }
  const key = method === 'pluck' ? `pluck ${text}` : text;
  let found = bySql.get(key);
  if (!found) {
    found = reading(raw, text, method);
    bySql.set(key, found);
  }
  return found;
}

function reading(raw: Raw, text: string, method: string): Reading {
  const statement = raw.prepare(text).raw();
  const names = statement.columns().map(({ name }) => name);
  return { statement, rowOf: method === 'pluck' ? ([value]) => value : namedBy(names) };
}

/**
 * Makes rows of cells. Each begins as a copy of one that has all its names: an object that gets more than a dozen names one after another
 * becomes a hash table, slow to read and to copy.
 */
function namedBy(names: readonly string[]): (cells: unknown[]) => Record<string, unknown> {
  const empty: Record<string, unknown> = JSON.parse(
    JSON.stringify(Object.fromEntries(names.map((name) => [name, null]))),
  );
  return (cells) => {
    const row = { ...empty };
    for (let n = 0; n < names.length; n++) row[names[n]] = cells[n];
    return row;
  };
}

function allRows<R>(store: Store, compiled: Compiled, values: readonly unknown[]): R[] {
  const { statement, rowOf } = readingOf(store, compiled);
  return statement.all(values).map((cells) => rowOf(cells as unknown[])) as R[];
}

function firstRow<R>(store: Store, compiled: Compiled, values: readonly unknown[]): R | undefined {
  const { statement, rowOf } = readingOf(store, compiled);
  const cells = statement.get(values);
  return cells === undefined ? undefined : (rowOf(cells as unknown[]) as R);
}

/** All rows of a query; of a `pluck`, their values. */
export function all<Q extends Query>(store: Store, query: Q): RowsOf<Q>[] {
  const compiled = compile(query);
  return allRows(store, compiled, compiled.bindings);
}

/** The first row of a query, or its value; undefined: there is none. */
export function first<Q extends Query>(store: Store, query: Q): RowsOf<Q> | undefined {
  const compiled = compile(query);
  return firstRow(store, compiled, compiled.bindings);
}

/** The one row of a query, or its value, that is always there. @throws Error when it is not. */
export function the<Q extends Query>(store: Store, query: Q): RowsOf<Q> {
  const found = first(store, query);
  if (found === undefined) throw new Error(`The database has no row for: ${query.toQuery()}`);
  return found;
}

const ROWS_AT_ONCE = 2000;

/**
 * Rows one after another, for what may be many: read a part at a time, so that others write while they are taken. What comes meanwhile
 * behind the row at hand is among them.
 *
 * @param read the next rows after one (null: from the first), at most so many, by an order that no two rows share.
 */
export function* each<R>(read: (after: R | null, limit: number) => R[]): Generator<R> {
  for (let last: R | null = null; ; ) {
    const rows: R[] = read(last, ROWS_AT_ONCE);
    yield* rows;
    if (rows.length < ROWS_AT_ONCE) return;
    last = rows[rows.length - 1];
  }
}

/** Whether a query finds anything. */
export function exists(store: Store, query: Query): boolean {
  return first(store, query.limit(1)) !== undefined;
}

/** Does what a query says: puts in, changes, takes out. */
export function run(store: Store, query: Query): Database.RunResult {
  const { sql: text, bindings } = compile(query);
  return statement(store.raw, text).run(...bindings);
}

/** Rows of hand-written SQL, by the names that it gives them. @param R what they are, as the one who wrote it knows. */
export function readSql<R>(store: Store, text: string, values: readonly unknown[]): R[] {
  return allRows(store, { sql: text, bindings: values, method: 'select' }, values);
}

/** Puts into a table what a query finds; rows that stand there already stay. @param fields for each column what it gets. */
export function copyRows<T extends TableName>(
  store: Store,
  into: T,
  query: Knex.QueryBuilder,
  fields: { [K in keyof Row<T>]?: Field },
): Database.RunResult {
  const names = Object.keys(fields);
  const places = names.map(() => '??').join(', ');
  const { sql: text, bindings } = compile(query.select(fields as Record<string, string>));
  const target = builder.raw(`insert or ignore into ?? (${places})`, [into, ...names]).toQuery();
  return statement(store.raw, `${target} ${text}`).run(...bindings);
}

/** Stands for a value that is given when the query runs. */
class Given {
  constructor(readonly name: string) {}
}

/** A query that was built once, with places for what is given. */
export interface Prepared<P, Q> {
  all(store: Store, given: P): RowsOf<Q>[];
  first(store: Store, given: P): RowsOf<Q> | undefined;
  run(store: Store, given: P): Database.RunResult;
}

/** @param build is called once; what it reads of `given` may only be put where a value goes. */
export function prepared<P extends object, Q extends Query>(build: (given: P) => Q): Prepared<P, Q> {
  let compiled: (Compiled & { names: readonly (string | null)[] }) | null = null;
  const compiledOnce = () => {
    if (compiled) return compiled;
    const places = new Proxy({}, { get: (_, name) => new Given(String(name)) });
    const built = compile(build(places as P));
    compiled = { ...built, names: built.bindings.map((value) => (value instanceof Given ? value.name : null)) };
    return compiled;
  };
  const valuesOf = (given: P) => {
    const { bindings, names } = compiledOnce();
    const values: unknown[] = new Array(bindings.length);
    for (let n = 0; n < values.length; n++) {
      const name = names[n];
      values[n] = name === null ? bindings[n] : given[name as keyof P];
    }
    return values;
  };
  return {
    all: (store, given) => allRows(store, compiledOnce(), valuesOf(given)),
    first: (store, given) => firstRow(store, compiledOnce(), valuesOf(given)),
    run: (store, given) => statement(store.raw, compiledOnce().sql).run(valuesOf(given)),
  };
}

/** All columns of a row as places of a prepared query. */
export function placesOf<T extends TableName>(table: T, given: Row<T>): Row<T> {
  const places = Object.keys(TABLES[table]).map((name) => [name, given[name as keyof Row<T>]]);
  return Object.fromEntries(places) as Row<T>;
}

/** Reads a column that holds JSON. @throws ZodError when something else stands there. */
export function fromJson<S extends z.ZodType>(schema: S, text: string): z.infer<S> {
  return schema.parse(JSON.parse(text));
}
