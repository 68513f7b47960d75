import { type Store, statement, write } from '../base/database';

/** Columns that a file with this header was read with the last time; null when there was none. */
export function rememberedColumns(store: Store, header: string): string[] | null {
  const found = statement(store.raw, 'SELECT columns FROM mappings WHERE header = ?').pluck().get(header);
  return found === undefined ? null : JSON.parse(found as string);
}

/** Keeps the meaning of a header's columns, so that they are mapped once. */
export function rememberColumns(store: Store, header: string, kind: string, columns: readonly string[]): void {
  write(store, () =>
    statement(
      store.raw,
      `INSERT INTO mappings VALUES (?, ?, ?, ?)
       ON CONFLICT (header) DO UPDATE SET kind = excluded.kind, columns = excluded.columns, used_at = excluded.used_at`,
    ).run(header, kind, JSON.stringify(columns), store.now()),
  );
}
