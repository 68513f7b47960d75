import { z } from 'zod';
import { type Store, write } from '../base/database';
import { first, fromJson, knex, run } from '../base/query';

/** Columns that a file with this header was read with the last time; null when there was none. */
export function rememberedColumns(store: Store, header: string): string[] | null {
  const found = first(store, knex('mappings').where('header', header).pluck('columns'));
  return found === undefined ? null : fromJson(z.array(z.string()), found);
}

/** Keeps the meaning of a header's columns, so that they are mapped once. */
export function rememberColumns(store: Store, header: string, kind: string, columns: readonly string[]): void {
  write(store, () =>
    run(
      store,
      knex('mappings')
        .insert({ header, kind, columns: JSON.stringify(columns), used_at: store.now() })
        .onConflict('header')
        .merge(['kind', 'columns', 'used_at']),
    ),
  );
}
