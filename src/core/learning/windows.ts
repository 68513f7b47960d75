/** A window in which a name was expected to drop, and what came. Times in ms since 1970 UTC. */
export interface DropOutcome {
  ending: string;
  fromAt: number;
  toAt: number;
  /** The last look at which it was not free; null: there was none. */
  lastAt: number | null;
  /** When it was first seen to be free, or renewed. */
  seenAt: number;
  became: 'dropped' | 'renewed';
}

export type WindowVerdict = 'inside' | 'early' | 'late' | 'renewed';

/** Whether a drop lay in its window. It happened between two looks: it is early or late only where both say so. */
export function windowVerdict({ fromAt, toAt, lastAt, seenAt, became }: DropOutcome): WindowVerdict {
  if (became === 'renewed') return 'renewed';
  if (seenAt < fromAt) return 'early';
  return lastAt !== null && lastAt > toAt ? 'late' : 'inside';
}

export interface WindowRecord {
  key: string;
  count: number;
  inside: number;
  early: number;
  late: number;
  /** Not dropped at all: the owner renewed. */
  renewed: number;
  /** Middle width of the windows, ms. */
  widthMs: number;
}

/** How windows held, by ending, the most met first. */
export function windowRecords(outcomes: readonly DropOutcome[]): WindowRecord[] {
  const groups = new Map<string, DropOutcome[]>();
  for (const outcome of outcomes) groups.set(outcome.ending, [...(groups.get(outcome.ending) ?? []), outcome]);
  return [...groups]
    .map(([key, group]) => windowRecord(key, group))
    .sort((a, b) => b.count - a.count || a.key.localeCompare(b.key));
}

export function windowRecord(key: string, outcomes: readonly DropOutcome[]): WindowRecord {
  const verdicts = outcomes.map(windowVerdict);
  const number = (verdict: WindowVerdict) => verdicts.filter((one) => one === verdict).length;
  const widths = outcomes.map(({ fromAt, toAt }) => toAt - fromAt).sort((a, b) => a - b);
  return {
    key,
    count: outcomes.length,
    inside: number('inside'),
    early: number('early'),
    late: number('late'),
    renewed: number('renewed'),
    widthMs: widths[widths.length >> 1] ?? 0,
  };
}
