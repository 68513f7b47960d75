import type Database from 'better-sqlite3';

/** The driver's own connection, for prepared statements and synchronous transactions. */
export type Raw = Database.Database;

/** Prepared statements by text, once per connection. */
const prepared = new WeakMap<Raw, Map<string, Database.Statement>>();
export function statement(raw: Raw, sql: string): Database.Statement {
  let bySql = prepared.get(raw);
  if (!bySql) {
    bySql = new Map();
    prepared.set(raw, bySql);
  }
  let found = bySql.get(sql);
  if (!found) {
    found = raw.prepare(sql);
    bySql.set(sql, found);
  }
  return found;
}
