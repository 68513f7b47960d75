import { eachPart, type PoolView, partAt, withPart } from '../../core/pool/conditions';
import { freshCondition } from './fresh-condition';

/**
 * A new search for letters, in the place of the old one.
 *
 * @returns the path of the condition to be opened, and the view with it; null: an empty one is there already.
 */
export function withNewSearch(view: PoolView): { at: string; next: PoolView | null } {
  let at: string | null = null;
  eachPart(view.parts, (part, path) => {
    if (part.type === 'text') at ??= path;
  });
  if (at === null) {
    const next = { ...view, parts: [...view.parts, freshCondition('name')] };
    return { at: String(view.parts.length), next };
  }
  const old = partAt(view.parts, at);
  if (old?.type !== 'text' || (old.values.length === 0 && !old.list)) return { at, next: null };
  const { list: _, ...rest } = old;
  return { at, next: { ...view, parts: withPart(view.parts, at, { ...rest, values: [] }) } };
}
