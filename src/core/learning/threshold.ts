/** A risk from 0 to 100, and what a person found it to be. */
export interface MarkedRisk {
  risk: number;
  isSpam: boolean;
}

export interface ThresholdLesson {
  /** The most that is let through. */
  most: number;
  marks: number;
  /** Marks that the limit contradicts: spam that it lets through, and clean names that it keeps out. */
  wrongBefore: number;
  wrongAfter: number;
}

const LEAST_MARKS = 20;
const LEAST_GAIN = 2;

/** How many marks a limit contradicts: what is over it is kept out. */
export function wrongAt(marked: readonly MarkedRisk[], most: number): number {
  return marked.filter(({ risk, isSpam }) => risk > most !== isSpam).length;
}

/**
 * The limit of spam risk that contradicts the fewest marks, the nearest to the one that stands where several do.
 *
 * @param most the limit as it is; null: none.
 * @returns null where there are too few marks, or nothing is gained.
 */
export function learnThreshold(marked: readonly MarkedRisk[], most: number | null): ThresholdLesson | null {
  if (marked.length < LEAST_MARKS) return null;
  const now = most ?? 100;
  const wrongBefore = wrongAt(marked, now);
  let best = { most: now, wrong: wrongBefore };
  for (let limit = 0; limit <= 100; limit += 5) {
    const wrong = wrongAt(marked, limit);
    const isNearer = Math.abs(limit - now) < Math.abs(best.most - now);
    if (wrong < best.wrong || (wrong === best.wrong && isNearer)) best = { most: limit, wrong };
  }
  if (wrongBefore - best.wrong < LEAST_GAIN) return null;
  return { most: best.most, marks: marked.length, wrongBefore, wrongAfter: best.wrong };
}
