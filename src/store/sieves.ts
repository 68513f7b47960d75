import { type Store, statement, write } from './database';

/** A kept stack of conditions with its sort, as the query text of a pool address. */
export interface Sieve {
  id: number;
  name: string;
  view: string;
  createdAt: number;
}

export function listSieves(store: Store): Sieve[] {
  return statement(
    store.raw,
    'SELECT id, name, view, created_at AS createdAt FROM sieves ORDER BY name',
  ).all() as Sieve[];
}

/** Adds a sieve or replaces the one of that name. */
export function saveSieve(store: Store, name: string, view: string): number {
  return write(store, () =>
    Number(
      (
        statement(
          store.raw,
          `INSERT INTO sieves (name, view, created_at) VALUES (?, ?, ?)
           ON CONFLICT(name) DO UPDATE SET view = excluded.view RETURNING id`,
        ).get(name, view, store.now()) as { id: number }
      ).id,
    ),
  );
}

export function deleteSieve(store: Store, id: number): Sieve | null {
  return write(store, () => {
    const sieve = listSieves(store).find((entry) => entry.id === id) ?? null;
    statement(store.raw, 'DELETE FROM sieves WHERE id = ?').run(id);
    return sieve;
  });
}
