import type { FactName } from '../pool/facts';

/** A fact of several domains side by side. */
export interface ComparedFact {
  group: string;
  title: string;
  /** The measure of the pool that it is. */
  measure?: FactName;
  /** As they are shown; null: not known. */
  shown: (string | null)[];
  /** Whether what is known differs. */
  differs: boolean;
  /** Of numbers where one way is better, the place of the best; null: none stands out. */
  best: number | null;
}

/** What a fact of one domain is, and how it is compared. */
export interface FactSpec<T> {
  group: string;
  title: string;
  of?: FactName;
  /** As it is shown; null: not known. */
  show(domain: T): string | null;
  /** Its number, where more or less of it is better. */
  measure?(domain: T): number | null;
  better?: 'more' | 'less';
}

/**
 * Facts of domains side by side. They differ where two that are known are shown differently; what one has and the other does not have known
 * is no difference but a gap. The best is told only where it is shown differently from all others.
 */
export function compareFacts<T>(domains: readonly T[], specs: readonly FactSpec<T>[]): ComparedFact[] {
  return specs.map(({ group, title, of, show, measure, better }) => {
    const shown = domains.map(show);
    const known = shown.filter((value) => value !== null);
    return {
      group,
      title,
      ...(of && { measure: of }),
      shown,
      differs: new Set(known).size > 1,
      best: measure && better ? bestOf(domains.map(measure), shown, better) : null,
    };
  });
}

function bestOf(
  values: readonly (number | null)[],
  shown: readonly (string | null)[],
  better: 'more' | 'less',
): number | null {
  const sign = better === 'more' ? 1 : -1;
  let best: number | null = null;
  for (const [place, value] of values.entries()) {
    if (value === null) continue;
    if (best === null || sign * value > sign * (values[best] ?? 0)) best = place;
  }
  if (best === null) return null;
  // what looks the same is not better
  const known = shown.filter((text) => text !== null).length;
  return known > 1 && shown.filter((text) => text === shown[best]).length === 1 ? best : null;
}
