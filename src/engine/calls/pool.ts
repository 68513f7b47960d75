import { Refusal } from '../../core/refusal';
import { readDigest } from '../../store/pool/sieves';
import { act, idsOf, undoAction } from '../pool/actions';
import { announcePool, type EngineParts, type Handlers, taken } from './parts';

type PoolPath =
  | '/pool/query'
  | '/pool/ids'
  | '/pool/known'
  | '/pool/words'
  | '/pool/act'
  | '/pool/undo'
  | '/pool/refresh'
  | '/pool/members'
  | '/sieves/run'
  | '/briefs/changed'
  | '/digest/make';

/** The index, what is done to many domains, and what runs over it. */
export const poolCalls = (parts: EngineParts): Handlers<PoolPath> => ({
  '/pool/query': (query) => parts.pool.query(query),
  '/pool/ids': async (which) => ({ ids: [...(await idsOf(parts.pool, which))] }),
  '/pool/known': () => parts.pool.known(),
  '/pool/words': ({ fact, many }) => ({ words: parts.pool.wordsOf(fact, many) }),
  '/pool/act': async ({ act: what, which }) => {
    const acted = await act(parts.store, parts.pool, what, which);
    announcePool(parts);
    return acted;
  },
  '/pool/undo': async ({ action }) => {
    const changed = await undoAction(parts.store, parts.pool, action);
    if (changed === null) throw new Refusal('not-here', 'there is nothing to undo');
    announcePool(parts);
    return { changed };
  },
  '/pool/refresh': ({ ids }) => {
    taken(parts, ids, null);
    return {};
  },
  '/pool/members': ({ fact, set, ids, isIn }) => {
    if (ids === null) parts.pool.dropSet(fact, set);
    else parts.pool.setMembers(fact, set, ids, isIn);
    announcePool(parts);
    return {};
  },
  '/sieves/run': async ({ id }) => {
    const run = await parts.sieves.run(id);
    if (!run) throw new Refusal('conflict', 'the sieve is running already, or gone');
    return { total: run.total, fresh: run.fresh.length };
  },
  '/briefs/changed': () => {
    parts.pool.rename();
    return {};
  },
  '/digest/make': () => parts.digest.make(readDigest(parts.store)?.at ?? 0),
});
