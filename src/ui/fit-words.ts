/** How well something suits a brief, 0 to 100: what it is by what is known, at least and at most. */
export interface FitRange {
  score: number | null;
  least: number;
  most: number;
}

/** The fit in a word or two: what is sure of it, and what it may be at most by what is not known. */
export function fitWords({ score, least, most }: FitRange): string {
  if (score === null) return 'not known';
  const [low, high] = [Math.round(least), Math.round(most)];
  return high - low < 2 ? String(Math.round(score)) : `${low} sure, ${high} at most`;
}
