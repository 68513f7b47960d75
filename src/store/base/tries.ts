import { type ConnectionTried, type ConnectionTries, ConnectionTriesSchema } from '../../core/connections/tried';
import { type Tried, type Tries, TriesSchema } from '../../core/setup/tried';
import type { Store } from './database';
import { keepValue, readKept } from './settings';

const KEY = 'tries';

/** The last try of each outside service. */
export function readTries(store: Store): Tries {
  return readKept(store, KEY, TriesSchema) ?? {};
}

/** Keeps a try in the place of the one before. */
export function keepTried(store: Store, tried: Tried): void {
  keepValue(store, KEY, { ...readTries(store), [tried.ability]: tried });
}

const CONNECTIONS_KEY = 'connection-tries';

/** The last try of each connection, by id. */
export function readConnectionTries(store: Store): ConnectionTries {
  return readKept(store, CONNECTIONS_KEY, ConnectionTriesSchema) ?? {};
}

export function keepConnectionTried(store: Store, id: string, tried: ConnectionTried): void {
  keepValue(store, CONNECTIONS_KEY, { ...readConnectionTries(store), [id]: tried });
}
