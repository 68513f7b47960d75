import { createHash, randomBytes } from 'node:crypto';
import { z } from 'zod';
import { TOKEN_SCOPES, type TokenScope } from '../../core/settings/token-scopes';
import { isSameKey } from './access-key';
import { type Store, write } from './database';
import { keepValue, readKept } from './settings';

const KEY = 'tokens';
const PREFIX = 'jl_';
const MOST_TOKENS = 100;
/** That a token is used is written down so often at most. */
const USED_MS = 60_000;

const KeptToken = z.object({
  id: z.number(),
  name: z.string(),
  scope: z.enum(TOKEN_SCOPES),
  /** SHA-256 of the token, in hexadecimal: 256 random bits are found by nobody from it. */
  hash: z.string(),
  madeAt: z.number(),
  usedAt: z.number().nullable(),
});
const Kept = z.object({ lastId: z.number(), tokens: z.array(KeptToken) });

/** A token as it may be shown: what it is itself is known to nobody any more. Times in ms since 1970 UTC. */
export type TokenEntry = Omit<z.infer<typeof KeptToken>, 'hash'>;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');
const read = (store: Store) => readKept(store, KEY, Kept) ?? { lastId: 0, tokens: [] };
const shown = ({ hash: _, ...entry }: z.infer<typeof KeptToken>): TokenEntry => entry;

/** Tokens that hold, the last made first. */
export function listTokens(store: Store): TokenEntry[] {
  return read(store).tokens.map(shown).reverse();
}

/** Makes a token; it is in the answer alone, and kept as its hash. @returns null when there are too many. */
export function makeToken(store: Store, name: string, scope: TokenScope): (TokenEntry & { token: string }) | null {
  return write(store, () => {
    const { lastId, tokens } = read(store);
    if (tokens.length >= MOST_TOKENS) return null;
    const token = `${PREFIX}${randomBytes(32).toString('base64url')}`;
    const made = { id: lastId + 1, name, scope, hash: hashOf(token), madeAt: store.now(), usedAt: null };
    keepValue(store, KEY, { lastId: made.id, tokens: [...tokens, made] });
    return { ...shown(made), token };
  });
}

/** Takes a token back, for good. @returns the entry; null: there is none. */
export function revokeToken(store: Store, id: number): TokenEntry | null {
  return write(store, () => {
    const { lastId, tokens } = read(store);
    const gone = tokens.find((token) => token.id === id);
    if (!gone) return null;
    keepValue(store, KEY, { lastId, tokens: tokens.filter((token) => token.id !== id) });
    return shown(gone);
  });
}

/** The entry of a token; null: it is none. That it was used is written down. */
export function tokenOf(store: Store, given: string): TokenEntry | null {
  if (!given.startsWith(PREFIX)) return null;
  const hash = hashOf(given);
  const found = read(store).tokens.find((token) => isSameKey(token.hash, hash));
  if (!found) return null;
  const now = store.now();
  if (found.usedAt === null || now - found.usedAt >= USED_MS)
    write(store, () => {
      const { lastId, tokens } = read(store);
      const used = tokens.map((token) => (token.id === found.id ? { ...token, usedAt: now } : token));
      keepValue(store, KEY, { lastId, tokens: used });
    });
  return shown(found);
}
