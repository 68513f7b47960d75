import type { ConnectionView } from '../../contracts/connections';
import {
  type Connection,
  connectionFor,
  Description,
  isOfOrders,
  lacksSecret,
  originOf,
} from '../../core/connections/connection';
import { type ConnectionTried, describedBy } from '../../core/connections/tried';
import { Refusal } from '../../core/refusal';
import { withKeptSecrets } from '../../core/settings/settings';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { readConnectionTries } from '../../store/base/tries';
import { recordSettings } from '../../store/domains/acts';

/** What a person sends of a connection: its description, and what is theirs. */
export type GivenConnection = Omit<Connection, 'id'>;

/** Services that are described, by use and name, and how each stands. */
export function connectionViews(store: Store): ConnectionView[] {
  const { connections } = readSettings(store);
  const tries = readConnectionTries(store);
  return connections
    .map((one) => viewOf(one, connections, tries[one.id]))
    .sort(
      (a, b) =>
        a.description.use.localeCompare(b.description.use) || a.description.title.localeCompare(b.description.title),
    );
}

/** One of them. @throws Refusal when there is none. */
export function connectionOf(store: Store, id: string): Connection {
  const found = readSettings(store).connections.find((one) => one.id === id);
  if (!found) throw new Refusal('not-here', 'This connection is not there any more.');
  return found;
}

/** Keeps a connection, a new one where no id is given. A secret that is left empty stays as long as the same server is asked. */
export function keepConnection(
  store: Store,
  id: string | null,
  given: GivenConnection,
): { connection: ConnectionView; act: number | null } {
  const { connections } = readSettings(store);
  if (id !== null) connectionOf(store, id);
  const kept: Connection = { ...given, id: id ?? freshId(given.title, connections) };
  const next = id === null ? [...connections, kept] : connections.map((one) => (one.id === id ? kept : one));
  const { result, act } = recordSettings(store, `connection ${given.title}`, { connections: next });
  const after = result.connections.find((one) => one.id === kept.id) ?? kept;
  return { connection: viewOf(after, result.connections, readConnectionTries(store)[kept.id]), act };
}

export function removeConnection(store: Store, id: string): number | null {
  const { title } = connectionOf(store, id);
  const connections = readSettings(store).connections.filter((one) => one.id !== id);
  return recordSettings(store, `connection ${title} taken away`, { connections }).act;
}

/** A connection to be tried: what is given, with the secrets that are kept where it leaves them empty. */
export function connectionToTry(store: Store, id: string | null, given: GivenConnection): Connection {
  const before = id === null ? undefined : readSettings(store).connections.find((one) => one.id === id);
  return withKeptSecrets({ ...given, id: id ?? 'new' }, before);
}

/** Whether what was tried is what is kept: only then it says how the kept one stands. */
export function isAsKept(store: Store, id: string | null, tried: ConnectionTried): boolean {
  const kept = readSettings(store).connections.find((one) => one.id === id);
  return kept !== undefined && describedBy(kept) === tried.setBy;
}

function viewOf(one: Connection, all: readonly Connection[], tried: ConnectionTried | undefined): ConnectionView {
  const { id, isOn, isDry, user, key, password } = one;
  return {
    id,
    isOn,
    isDry,
    user,
    hasKey: key !== '',
    hasPassword: password !== '',
    description: Description.parse(one),
    server: originOf(one),
    isAsked: isByVenue(one) || connectionFor(all, one.use)?.id === id,
    ...stateOf(one, tried),
  };
}

function stateOf(one: Connection, tried: ConnectionTried | undefined): Pick<ConnectionView, 'state' | 'words' | 'at'> {
  if (!one.isOn) return { state: 'off', words: 'It is switched off.', at: null };
  if (lacksSecret(one)) return { state: 'untried', words: 'It wants a key or a password, and has none yet.', at: null };
  if (!tried) return { state: 'untried', words: 'It was not tried yet.', at: null };
  if (tried.setBy !== describedBy(one))
    return { state: 'untried', words: 'It is described otherwise than when it was tried last.', at: null };
  const isFine = tried.outcome === 'works';
  return {
    state: isFine ? 'works' : 'fails',
    words: (isFine ? tried.understood[0] : tried.problem?.words) ?? '',
    at: tried.at,
  };
}

/** Several of one purpose are asked, each for its own venue. */
const isByVenue = ({ use }: Connection) => use === 'listings' || isOfOrders(use);

/** An id of a title that no other has: `saltmarch-registry`, `saltmarch-registry-2`. */
function freshId(title: string, all: readonly Connection[]): string {
  const plain = title.normalize('NFD').toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '').slice(0, 30) || 'service'; // biome-ignore format: one chain
  for (let n = 1; ; n++) {
    const id = n === 1 ? plain : `${plain}-${n}`;
    if (!all.some((one) => one.id === id)) return id;
  }
}

/** Described services that have listings, to be read as venues. */
export function describedVenues(store: Store): { id: string; title: string }[] {
  return readSettings(store)
    .connections.filter(({ use, isOn }) => use === 'listings' && isOn)
    .map(({ id, title }) => ({ id, title }));
}
