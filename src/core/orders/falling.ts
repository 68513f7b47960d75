/** A step of a falling price. */
export interface PriceStep {
  at: number;
  priceMinor: number;
}

/** Past listings with a falling price of a venue: how many stood at each step, and how many were taken during it. */
export interface FallingHabit {
  /** By step, from the first: listings that reached it. */
  reached: number[];
  taken: number[];
}

/** Taken during a step, where nothing was seen: by how many steps there are left, one in eight. */
const PRIOR_CHANCE = 0.125;
/** How many listings the assumption is worth. */
const PRIOR_WEIGHT = 6;

/** The chance that somebody takes it during a step, from what was seen and an assumption that counts as six listings (a Beta prior). */
export function chanceTaken({ reached, taken }: FallingHabit, step: number): number {
  return ((taken[step] ?? 0) + PRIOR_WEIGHT * PRIOR_CHANCE) / ((reached[step] ?? 0) + PRIOR_WEIGHT);
}

/** Counts how past listings went. A listing is the number of steps it had begun when it ended, and whether it was taken then. */
export function fallingHabitOf(ended: readonly { step: number; isTaken: boolean }[]): FallingHabit {
  const habit: FallingHabit = { reached: [], taken: [] };
  for (const { step, isTaken } of ended) {
    for (let n = 0; n <= step; n++) habit.reached[n] = (habit.reached[n] ?? 0) + 1;
    if (isTaken) habit.taken[step] = (habit.taken[step] ?? 0) + 1;
  }
  for (let n = 0; n < habit.reached.length; n++) habit.taken[n] ??= 0;
  return habit;
}

export interface StepOutlook extends PriceStep {
  /** From the first step of the listing. */
  step: number;
  /** That it can still be bought when the step begins, now being certain. */
  chanceThere: number;
  /** What buying then brings over its cost, if it is still there. */
  gainMinor: number;
  /** That times the chance. */
  expectedMinor: number;
}

export interface FallingOutlook {
  steps: StepOutlook[];
  /** Index in `steps` of the best; null: no step brings anything. */
  best: number | null;
}

/**
 * At which step of a falling price to buy: the gain grows with each step, and so does the chance that somebody else was quicker.
 *
 * @param steps all of the listing, in order of time. The one that runs now and those to come are looked at.
 * @param worthMinor what it counts as worth, as the rest of a plan has it (presentWorth less renewals), in the steps' currency.
 */
export function fallingOutlook(
  steps: readonly PriceStep[],
  now: number,
  worthMinor: number,
  feesMinor: number,
  habit: FallingHabit,
): FallingOutlook {
  const current = Math.max(0, steps.filter(({ at }) => at <= now).length - 1);
  const outlooks: StepOutlook[] = [];
  let chanceThere = 1;
  for (let step = current; step < steps.length; step++) {
    if (step > current) {
      const begins = Math.max(now, steps[step - 1].at);
      const length = steps[step].at - steps[step - 1].at;
      // of the step that runs, only what is left of it can bring a buyer
      const share = length > 0 ? Math.min(1, Math.max(0, (steps[step].at - begins) / length)) : 1;
      chanceThere *= (1 - chanceTaken(habit, step - 1)) ** share;
    }
    const { at, priceMinor } = steps[step];
    const gainMinor = Math.round(worthMinor - priceMinor - feesMinor);
    outlooks.push({ at, priceMinor, step, chanceThere, gainMinor, expectedMinor: Math.round(chanceThere * gainMinor) });
  }
  let best: number | null = null;
  for (const [n, { expectedMinor }] of outlooks.entries())
    if (expectedMinor > 0 && (best === null || expectedMinor > outlooks[best].expectedMinor)) best = n;
  return { steps: outlooks, best };
}
