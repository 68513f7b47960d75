import type { z } from 'zod';
import type { WhichSchema } from '../../contracts/engine-calls';
import type { Acted } from '../../contracts/pool';
import type { Store } from '../../store/base/database';
import { type Act, actOn, beginAction, readAction, undoSome } from '../../store/domains/marks';
import type { PoolHost } from './host';

const AT_ONCE = 500;

export async function idsOf(
  pool: PoolHost,
  which: z.output<typeof WhichSchema>,
): Promise<Iterable<number> & { length: number }> {
  if ('ids' in which) return which.ids;
  const ids = await pool.idsOf(which);
  if (which.except.length === 0) return ids;
  const except = new Set(which.except);
  return ids.filter((id) => !except.has(id));
}

/** Does one thing to few or many domains, a part at a time, so that questions are answered in between. */
export async function act(
  store: Store,
  pool: PoolHost,
  what: Act,
  which: z.output<typeof WhichSchema>,
): Promise<Acted> {
  const ids = Uint32Array.from(await idsOf(pool, which));
  const action = beginAction(store, what);
  let changed = 0;
  for (let start = 0; start < ids.length; start += AT_ONCE) {
    const part = actOn(store, action, what, ids.subarray(start, start + AT_ONCE));
    changed += part.length;
    show(pool, what, part, true);
    await new Promise((resolve) => setImmediate(resolve));
  }
  return { action, changed };
}

/** Gives all domains of an action back what they were. @returns how many; null: there is no such action. */
export async function undoAction(store: Store, pool: PoolHost, id: number): Promise<number | null> {
  const action = readAction(store, id);
  if (!action) return null;
  let count = 0;
  for (;;) {
    const ids = undoSome(store, action, AT_ONCE);
    if (ids.length === 0) return count;
    count += ids.length;
    show(pool, action.act, ids, false);
    await new Promise((resolve) => setImmediate(resolve));
  }
}

/** Brings the index up to date. */
function show(pool: PoolHost, what: Act, ids: number[], isDone: boolean): void {
  switch (what.kind) {
    case 'judge':
    case 'watch':
    case 'unwatch':
      pool.refresh(ids, null);
      return;
    case 'tag':
    case 'untag':
      pool.setMembers('tag', what.tag, ids, (what.kind === 'tag') === isDone);
      return;
    default:
      pool.setMembers('shortlist', what.brief, ids, (what.kind === 'shortlist') === isDone);
  }
}
