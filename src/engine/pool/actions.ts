import { z } from 'zod';
import type { SievePart } from '../../core/pool/conditions';
import { JUDGEMENTS } from '../../core/pool/facts';
import type { Store } from '../../store/base/database';
import { type Act, actOn, beginAction, readAction, undoSome } from '../../store/domains/marks';
import type { PoolHost } from './host';

const AT_ONCE = 500;

export const ActSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('judge'),
    judged: z.enum(JUDGEMENTS),
    reason: z.string().max(500).nullable().optional(),
    until: z.number().nullable().optional(),
  }),
  z.object({ kind: z.literal('tag'), tag: z.number().int() }),
  z.object({ kind: z.literal('untag'), tag: z.number().int() }),
  z.object({ kind: z.literal('shortlist'), brief: z.number().int() }),
  z.object({ kind: z.literal('unshortlist'), brief: z.number().int() }),
  z.object({ kind: z.literal('watch') }),
  z.object({ kind: z.literal('unwatch') }),
]);

/** Some domains by id, or all that pass a sieve but some. */
export const WhichSchema = z.union([
  z.object({ ids: z.array(z.number().int()).max(1_000_000) }),
  z.object({
    parts: z.array(z.custom<SievePart>((value) => typeof value === 'object' && value !== null && 'type' in value)),
    withExcluded: z.boolean().optional(),
    except: z.array(z.number().int()).max(1_000_000).default([]),
  }),
]);
export type Which = z.input<typeof WhichSchema>;

export interface Acted {
  /** Names the action, to undo it. */
  action: number;
  /** Domains that it changed. */
  changed: number;
}

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
