/**
 * Reader counts in JSON-LD: schema.org `interactionStatistic` holds one or more `InteractionCounter`s, each with
 * `interactionType` (an action's name or address, or an object with `@type`) and `userInteractionCount`. Only views, plays
 * and reads count; likes, comments and shares do not. Question pages of schema.org's `QAPage` nest them under `mainEntity`.
 *
 * @returns the largest count of a view-like action, or null when the text is no JSON or holds none.
 */
export function readersInJson(text: string): number | null {
  let root: unknown;
  try {
    root = JSON.parse(text);
  } catch {
    return null;
  }
  let most: number | null = null;
  const stack: unknown[] = [root];
  for (let steps = 0; stack.length > 0 && steps < 10_000; steps++) {
    const value = stack.pop();
    if (typeof value !== 'object' || value === null) continue;
    const fields = value as Record<string, unknown>;
    if ('userInteractionCount' in fields && isViewing(fields.interactionType)) {
      const count = Number(fields.userInteractionCount);
      if (Number.isSafeInteger(count) && count >= 0) most = Math.max(most ?? 0, count);
    }
    for (const inner of Object.values(fields)) if (typeof inner === 'object') stack.push(inner);
  }
  return most;
}

/** schema.org actions that mean a person looked, not liked or wrote. */
export const VIEWING = /(View|Watch|Read|Listen|Visit|Play)Action$/;

function isViewing(type: unknown): boolean {
  if (typeof type === 'string') return VIEWING.test(type);
  if (typeof type !== 'object' || type === null) return false;
  const named = (type as Record<string, unknown>)['@type'] ?? (type as Record<string, unknown>)['@id'];
  return typeof named === 'string' && VIEWING.test(named);
}
